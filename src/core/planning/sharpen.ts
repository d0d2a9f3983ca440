import { demandOf } from '../course/instruments';
import type { Part } from '../course/phases';
import { sightOf } from '../course/sight';
import { shortestCorrectedS } from '../limits';
import { fromSi, toSi, unitLabel } from '../quantities';
import { type AnyInstrument, type Gauge, gaugeFindings, isBarometer, isGauge, isThermometer, type Thermometer } from '../sizing/gauge';
import { type Plan, type PlanInput, planTest, type Stricter } from './plan';

/** What would sharpen a test (DOMAIN 3.3): each way is worked out as the plan that it would give, with the figure that it reaches. */

/** What of the plan's input a way changes. */
export type Change = Partial<Pick<PlanInput, 'gauge' | 'weather'>> & {
  readonly answers?: PlanInput['answers'];
  readonly stricter?: readonly Stricter[];
};

export interface Way {
  readonly id: 'let-by' | 'thermometer' | 'barometer' | 'gauge' | 'hold' | 'plug' | 'warm-hold';
  /** What to do, as a button says it. */
  readonly label: string;
  readonly alone?: string;
  readonly sure?: string;
  readonly unit: Part['unit'];
  readonly change: Change;
  /** The plan that it gives. */
  readonly plan: Plan;
  /** The firm has no such instrument: it cannot be taken, only wished for. */
  readonly wanting?: true;
}

type Proposed = Omit<Way, 'alone' | 'sure' | 'unit' | 'plan'>;

/** An input with a change made: the later of two stricter figures stands. */
export const changed = (input: PlanInput, { answers, stricter = [], weather, gauge }: Change): PlanInput => ({
  ...input,
  ...(gauge === undefined ? {} : { gauge }),
  answers: { ...input.answers, ...answers },
  weather: { ...input.weather, ...weather },
  stricter: [...(input.stricter ?? []).filter(({ figure }) => stricter.every((one) => one.figure !== figure)), ...stricter],
});

type Lengthened = NonNullable<Part['longer']>;

/** The change that brings a step of the plan to so many seconds. */
const lengthened = (by: Lengthened, seconds: number, reference: string): Change =>
  'figure' in by
    ? { stricter: [{ figure: by.figure, value: String(seconds), reference }] }
    : { answers: { [by.answer]: `${Number((seconds / 60).toFixed(4))} min` } };

const wholeMinutes = (seconds: number): number => Math.ceil(seconds / 60 - 1e-9) * 60;
const time = (seconds: number): string =>
  seconds % 3600 === 0 ? `${seconds / 3600} h` : seconds % 60 === 0 ? `${seconds / 60} min` : `${seconds} s`;

/** Stands for the thermometer and the barometer that a firm has not got. */
const wished = { kind: 'digital', serial: '', simulated: false, calibration: { needed: false } } as const;
const wishedThermometer: Thermometer = {
  ...wished,
  id: 'wished-thermometer',
  name: 'Thermometer',
  unit: 'C',
  readability: '0.1',
  rangeLow: '-40',
  rangeHigh: '90',
};
const wishedBarometer: Gauge = {
  ...wished,
  kind: 'barometer',
  id: 'wished-barometer',
  name: 'Barometer',
  unit: 'hPa',
  readability: '0.1',
  rangeLow: '500',
  rangeHigh: '1100',
};

const inDate = ({ calibration }: AnyInstrument, on: string): boolean => !calibration.needed || calibration.due >= on;
const finestFirst = (a: AnyInstrument, b: AnyInstrument): number => Number(a.simulated) - Number(b.simulated) || stepOf(a) - stepOf(b);
/** A step in SI; a degree Fahrenheit is smaller than a kelvin. */
const stepOf = ({ readability, unit }: AnyInstrument): number =>
  unit === 'C' || unit === 'K' ? Number(readability) : unit === 'F' ? (Number(readability) * 5) / 9 : toSi(Number(readability), unit);

/**
 * Ways to sharpen the part that is looked at, the best first; only those that make it sure of a leak smaller by a twentieth or more.
 * @param van what the firm has @param part one of the plan's
 */
export function waysToSharpen(input: PlanInput, plan: Plan, van: readonly AnyInstrument[], part = plan.sight[0]): readonly Way[] {
  const phase = plan.phases.find(({ id }) => id === part?.phase);
  if (part === undefined || phase?.kind !== 'hold') return [];
  const { seconds } = phase;
  const has = (what: string) => part.terms.some((term) => term.what === what);
  const gas = part.contents.kind === 'gas' || part.contents.kind === 'unknown';
  const corrected = gas && phase.corrects !== undefined && seconds >= shortestCorrectedS;
  const thermometer = [...van]
    .filter(isThermometer)
    .filter((one) => inDate(one, input.on))
    .sort(finestFirst)[0];
  const barometer = [...van]
    .filter(isBarometer)
    .filter((one) => inDate(one, input.on))
    .sort(finestFirst)[0];
  const found: Proposed[] = [];
  const letBy = plan.phases.find((one) => one.kind === 'hold' && (part.letBys ?? phase.valve ?? []).includes(one.id));
  if (has('let-by') && part.longerLetBy !== undefined && letBy?.kind === 'hold') {
    const longer = wholeMinutes(Math.max(2 * letBy.seconds, seconds));
    found.push({
      id: 'let-by',
      label: `Watch the valve for ${time(longer)} instead of ${time(letBy.seconds)}`,
      change: lengthened(part.longerLetBy, longer, 'a longer watch of the valve'),
    });
  }
  if (part.plug !== undefined && has('let-by'))
    found.push({ id: 'plug', label: part.plug.label, change: { answers: { [part.plug.answer]: part.plug.value } } });
  if (corrected && plan.weather?.thermometer === undefined)
    found.push(
      thermometer === undefined
        ? {
            id: 'thermometer',
            label: 'Read the pipe on a thermometer of 0.1 K',
            change: { weather: { thermometer: wishedThermometer } },
            wanting: true,
          }
        : { id: 'thermometer', label: `Read the pipe’s temperature on ${thermometer.name}`, change: { weather: { thermometer } } },
    );
  if (has('barometer') && phase.corrects !== undefined && plan.weather?.barometer === undefined)
    found.push(
      barometer === undefined
        ? { id: 'barometer', label: 'Read a barometer of 0.1 hPa', change: { weather: { barometer: wishedBarometer } }, wanting: true }
        : { id: 'barometer', label: `Read the barometer on ${barometer.name}`, change: { weather: { barometer } } },
    );
  if (part.longer !== undefined) {
    const longer = wholeMinutes(2 * seconds);
    if (longer <= 86_400)
      found.push({
        id: 'hold',
        label: `Hold ${time(longer)} instead of ${time(seconds)}`,
        change: lengthened(part.longer, longer, 'a longer hold'),
      });
    if (gas && !corrected && has('temperature') && seconds < shortestCorrectedS && thermometer !== undefined)
      found.push({
        id: 'warm-hold',
        label: `Hold ${time(shortestCorrectedS)} with ${thermometer.name}, so that the pipe’s temperature counts`,
        change: { ...lengthened(part.longer, shortestCorrectedS, 'a hold that temperatures correct'), weather: { thermometer } },
      });
  }
  const ways = [...found, ...finerGauges(input, plan, van)].flatMap((way): Way[] => {
    const result = planTest(changed(input, way.change));
    const seen = result.ok ? result.value.plan.sight.find(({ what, phase: id }) => what === part.what && id === part.phase) : undefined;
    if (seen?.sure === undefined || !(part.sure === undefined || Number(seen.sure) <= 0.95 * Number(part.sure))) return [];
    return result.ok ? [{ ...way, alone: seen.alone, sure: seen.sure, unit: seen.unit, plan: result.value.plan }] : [];
  });
  return oneOfEach(ways.sort((a, b) => Number(a.sure) - Number(b.sure)));
}

const oneOfEach = (ways: readonly Way[]): readonly Way[] =>
  ways.filter(({ id }, index) => ways.findIndex((one) => one.id === id) === index);

/** Gauges of the van that suit the plan and show finer steps. */
const finerGauges = (input: PlanInput, plan: Plan, van: readonly AnyInstrument[]): readonly Proposed[] =>
  van
    .filter(isGauge)
    .filter((one) => one.id !== plan.gauge.id && stepOf(one) < stepOf(plan.gauge) && (plan.gauge.simulated || !one.simulated))
    .flatMap((gauge) => {
      const result = planTest({ ...input, gauge });
      const demand = result.ok ? demandOf(result.value.plan) : undefined;
      return demand === undefined || gaugeFindings(gauge, { ...demand, on: input.on }).length > 0
        ? []
        : [{ id: 'gauge' as const, label: `Use ${gauge.name}, steps of ${gauge.readability} ${unitLabel(gauge.unit)}`, change: { gauge } }];
    });

/** What a leak of concern asks of a part: a hold's time, or why none does. */
export type ForConcern =
  | { readonly ok: true; readonly seconds: number; readonly change: Change; readonly enough: boolean }
  | { readonly ok: false; readonly message: string };

/**
 * The hold that is sure of a leak of concern (DOMAIN 3.3 turned round), to a whole minute, at most a day.
 * @param leak m³/s, above zero
 */
export function holdFor(input: PlanInput, plan: Plan, part: Part, leak: number): ForConcern {
  const phase = plan.phases.find(({ id }) => id === part.phase);
  const { longer } = part;
  if (part.contents.kind === 'unknown')
    return { ok: false, message: 'Nobody knows the volume, so that a leak asks for no time: give the pipes, or measure the volume.' };
  if (phase?.kind !== 'hold') return { ok: false, message: 'What this test sees does not hang on a hold’s time.' };
  const sureAt = (seconds: number): number => sightOf(plan, part, { seconds })?.sight.sure ?? Number.POSITIVE_INFINITY;
  if (sureAt(phase.seconds) <= leak) return { ok: true, seconds: phase.seconds, change: {}, enough: true };
  if (longer === undefined)
    return {
      ok: false,
      message: 'Its time follows from volume and pressure, and cannot be lengthened: take a finer gauge, or test in parts.',
    };
  for (let seconds = wholeMinutes(phase.seconds); seconds <= 86_400; seconds += seconds < 7200 ? 60 : 300) {
    if (sureAt(seconds) > leak) continue;
    const change = lengthened(longer, seconds, `to be sure of ${Number(fromSi(leak, part.unit).toPrecision(4))} ${unitLabel(part.unit)}`);
    const result = planTest(changed(input, change));
    const seen = result.ok ? result.value.plan.sight.find(({ what, phase: id }) => what === part.what && id === part.phase) : undefined;
    if (seen?.sure !== undefined && toSi(Number(seen.sure), part.unit) <= leak * 1.01) return { ok: true, seconds, change, enough: false };
  }
  const day = sightOf(plan, part, { seconds: 86_400 })?.sight;
  const best = day?.sure ?? Number.POSITIVE_INFINITY;
  const largest = [...(day?.terms ?? [])]
    .filter(({ what }) => what !== 'limit' && what !== 'step')
    .sort((one, other) => other.si - one.si)[0];
  const cure: Readonly<Record<string, string>> = {
    'let-by': 'the valve’s own watch hides more: watch it longer, or plug it',
    temperature: 'the pipe’s drift hides more: read a thermometer',
    barometer: 'the barometer’s drift hides more: read one',
  };
  return {
    ok: false,
    message: `No hold of a day or less is sure of it${Number.isFinite(best) ? `; a day is sure of ${Number(fromSi(best, part.unit).toPrecision(3))} ${unitLabel(part.unit)}` : ''}: ${cure[largest?.what ?? ''] ?? 'take a finer gauge, or test in parts'}.`,
  };
}
