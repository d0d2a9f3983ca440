import { demandOf } from '@/core/course';
import { type PlanInput, planTest } from '@/core/planning';
import type { Procedure, Role } from '@/core/procedures';
import { toSi, unitKind } from '@/core/quantities';
import { type AnyInstrument, type Gauge, gaugeFindings, type Instrument, isGauge, readsSystem } from '@/core/sizing';

/** An instrument of the van for one part of a plan, with why it does not suit. */
export interface Offered {
  readonly instrument: Instrument;
  readonly faults: readonly string[];
}

/** What a plan is made with: the gauge, and whatever its roles ask for; chosen by hand or the first that suits. */
export interface Equipment {
  readonly gauge?: Gauge;
  readonly gauges: readonly Offered[];
  readonly roles: readonly { readonly role: Role; readonly offered: readonly Offered[]; readonly chosen?: Instrument }[];
  readonly instruments: Readonly<Record<string, Instrument>>;
}

type Bare = Omit<PlanInput, 'gauge' | 'instruments'>;

interface Chosen {
  readonly gaugeId: string;
  readonly instrumentIds: Readonly<Record<string, string>>;
  /** Not to be chosen of itself: the gauge that is swapped. */
  readonly avoid?: string;
}

/** Instruments of the van for a plan: thresholds and times hang on the gauge, so each gauge is planned with. */
export function equip(
  procedure: Procedure,
  firm: readonly AnyInstrument[],
  input: Bare,
  { gaugeId, instrumentIds, avoid }: Chosen,
): Equipment {
  const van = firm.filter(readsSystem);
  const roles = procedure.roles.filter(({ needed }) => needed(input.answers));
  const byHand = (id: string | undefined) => van.find((one) => one.id === id);
  const likeOf = (role: string): Instrument | undefined => procedure.example.instruments?.[role];
  const order = (like: Instrument | undefined) => (a: Offered, b: Offered) => compareOffered(a, b, like, input.on, avoid);
  const plain = (list: readonly Instrument[]) => list.map((instrument): Offered => ({ instrument, faults: [] }));

  // A first guess for every role, so that the gauges can be planned with; one that is read apart from the gauge is another.
  const guessedBeside = (gauge: string) =>
    Object.fromEntries(
      roles.flatMap(({ role, quantity, orGauge, apart }) => {
        const like = van.filter(({ unit, id }) => unitKind(unit) === quantity && !(apart === true && id === gauge));
        const chosen = like.find(({ id }) => id === instrumentIds[role]);
        const first = chosen ?? (orGauge === true ? undefined : plain(like).sort(order(likeOf(role)))[0]?.instrument);
        return first === undefined ? [] : [[role, first]];
      }),
    );
  const pressure = van.filter(isGauge);
  const gauges = [...gaugesFor(pressure, (own) => ({ ...input, instruments: guessedBeside(own.id) }))].sort(order(procedure.example.gauge));
  const gauge = (byHand(gaugeId) ?? gauges[0]?.instrument) as Gauge | undefined;
  const guessed = guessedBeside(gauge?.id ?? '');
  if (gauge === undefined) return { gauges, roles: roles.map((role) => ({ role, offered: [] })), instruments: guessed };
  const offered = roles.map((role) => {
    const list = [...instrumentsFor(van, role, { ...input, gauge, instruments: guessed })].sort(order(likeOf(role.role)));
    const fits = list.filter(({ faults }) => faults.length === 0);
    // Of itself no simulated one is put beside a real gauge.
    const suits =
      role.apart === true
        ? (fits.find(({ instrument }) => instrument.simulated === gauge.simulated) ?? fits[0])
        : role.orGauge === true
          ? fits[0]
          : list[0];
    const chosen = byHand(instrumentIds[role.role]) ?? suits?.instrument;
    return { role, offered: list, chosen };
  });
  return {
    gauge,
    gauges,
    roles: offered,
    instruments: Object.fromEntries(offered.flatMap(({ role, chosen }) => (chosen === undefined ? [] : [[role.role, chosen]]))),
  };
}

/** How far a range is from what the work usually wants, in doublings: a 300-psi needle is no gauge for 45 psi, though it reaches it. */
const rangeApart = (one: Instrument, like: Instrument | undefined): number => {
  if (like === undefined || unitKind(one.unit) !== unitKind(like.unit)) return 0;
  const [own, usual] = [toSi(Number(one.rangeHigh), one.unit), toSi(Number(like.rangeHigh), like.unit)];
  return own > 0 && usual > 0 ? Math.max(0, Math.round(Math.abs(Math.log2(own / usual))) - 1) : 0;
};

/** Those that suit first; real before simulated, in calibration before overdue, of a like range, the work's own unit, digital, the finest. */
function compareOffered(a: Offered, b: Offered, like: Instrument | undefined, on: string, avoid: string | undefined): number {
  const marks = ({ instrument: one, faults }: Offered): readonly number[] => [
    Number(one.id === avoid),
    Number(faults.length > 0),
    Number(one.simulated),
    Number(one.calibration.needed && one.calibration.due < on),
    rangeApart(one, like),
    Number(one.unit !== like?.unit),
    Number(one.kind !== 'digital'),
    toSi(Number(one.readability), one.unit),
  ];
  const [own, other] = [marks(a), marks(b)];
  const place = own.findIndex((mark, index) => mark !== other[index]);
  return place < 0 ? 0 : own[place] - other[place];
}

const faultsOf = (instrument: Instrument, demand: ReturnType<typeof demandOf>, on: string): readonly string[] =>
  demand === undefined ? [] : gaugeFindings(instrument, { ...demand, on }).map(({ message }) => message);

/** A gauge that the procedure refuses says so in the procedure's words. */
function gaugesFor(gauges: readonly Gauge[], inputOf: (gauge: Gauge) => Omit<PlanInput, 'gauge'>): readonly Offered[] {
  const plans = gauges.map((gauge) => {
    const input = inputOf(gauge);
    return { gauge, on: input.on, result: planTest({ ...input, gauge }) };
  });
  // What is refused with every gauge is a matter of the answers, and is said beside them.
  const refusals = plans.map(({ result }) => (result.ok ? [] : result.problems.map(({ message }) => message)));
  const ofAnswers = (message: string) => refusals.every((list) => list.includes(message));
  return plans.map(({ gauge, on, result }, index) => ({
    instrument: gauge,
    faults: result.ok ? faultsOf(gauge, demandOf(result.value.plan), on) : refusals[index].filter((message) => !ofAnswers(message)),
  }));
}

const instrumentsFor = (van: readonly Instrument[], { role, quantity }: Role, input: PlanInput): readonly Offered[] =>
  van
    .filter(({ unit }) => unitKind(unit) === quantity)
    .map((instrument) => {
      const result = planTest({ ...input, instruments: { ...input.instruments, [role]: instrument } });
      const faults = result.ok
        ? faultsOf(instrument, demandOf(result.value.plan, role), input.on)
        : result.problems.filter(({ field }) => field === role).map(({ message }) => message);
      return { instrument, faults };
    });
