import {
  barometerDoubtPa,
  type Contents,
  type Drift,
  measureSight,
  roomOfHold,
  roundedUp,
  type Sight,
  type SightedHold,
  shortestCorrectedS,
  sightOfHold,
  sightSum,
  thresholdOf,
} from '../limits';
import { unnoticedK, unreadBarometerPa } from '../physics/hold-sight';
import { type FlowUnit, fromSi, type InstrumentUnit, toSi, unitLabel } from '../quantities';
import { instrumentOf, unitOfHold } from './instruments';
import type { HoldPhase, MeasurePhase, Part, PartGiven } from './phases';
import type { PlanShape as Plan } from './plan-shape';

/** What of a plan its sight needs. */
export type Sighted = Pick<Plan, 'unit' | 'gauge' | 'instruments' | 'phases'>;

/** How it went, where it was held: what is left out stands as planned. Pressures and levels in SI. */
export interface AsHeld {
  readonly seconds?: number;
  readonly start?: number;
  readonly warms?: Drift;
  readonly presses?: Drift;
  /** The watch that proved the valve. */
  readonly letBy?: { readonly phase: string; readonly seconds: number; readonly at: number };
  readonly supply?: number;
  readonly airPercent?: string;
}

/** Doubt of a thermometer's difference, K, as far as it is known before it is read: its step, and 0.1 for the spot (DOMAIN 3.3). */
export const plannedDoubtK = (stepK: number): number => stepK + 0.1;

/** The smaller of what nobody notices and what an instrument leaves open: measuring never makes an answer worse. */
const betterOf = (unread: number, read: number | undefined): Drift =>
  read !== undefined && read < unread ? { amount: read, read: true } : { amount: unread, read: false };

function plannedWarming({ corrects }: HoldPhase, seconds: number): Drift {
  const named = seconds >= shortestCorrectedS ? corrects?.thermometerK : undefined;
  return betterOf(unnoticedK(seconds), named === undefined ? undefined : plannedDoubtK(Number(named)));
}

function plannedWeather({ corrects }: HoldPhase, seconds: number): Drift {
  const named = corrects?.barometerPa;
  const wanted = named !== undefined || corrects?.needed === 'barometer' || corrects?.needed === 'both';
  return betterOf(unreadBarometerPa(seconds), wanted ? barometerDoubtPa(Number(named ?? '0')) : undefined);
}

/** The let-by that leaves most open, of those that are planned. */
function plannedLetBy(plan: Sighted, ids: readonly string[], held: AsHeld['letBy']): SightedHold['letBy'] {
  const watches = plan.phases.flatMap((phase) => {
    if (phase.kind !== 'hold' || !ids.includes(phase.id) || (held !== undefined && phase.id !== held.phase)) return [];
    const threshold = thresholdOf(phase.limit);
    const unit = unitOfHold(plan, phase);
    return threshold === undefined
      ? []
      : [
          {
            threshold: toSi(Number(threshold), unit),
            seconds: held?.seconds ?? phase.seconds,
            at: held?.at ?? toSi(Number(phase.band.high), unit),
          },
        ];
  });
  return watches.sort((a, b) => b.threshold / b.seconds - a.threshold / a.seconds)[0];
}

const withAir = (contents: Contents, airPercent: string | undefined): Contents =>
  contents.kind === 'water' && airPercent !== undefined ? { ...contents, airPercent, airIs: 'measured' } : contents;

function ofHold(
  plan: Sighted,
  part: PartGiven,
  phase: HoldPhase,
  held: AsHeld,
): { readonly sight: Sight; readonly seconds: number } | undefined {
  const unit = unitOfHold(plan, phase);
  const seconds = held.seconds ?? phase.seconds;
  const low = held.start ?? toSi(Number(phase.band.low), unit);
  const movement = roomOfHold(phase.limit).leakFrom?.(phase.limit, { seconds, unit, start: low }, part.permitted);
  if (movement === undefined) return undefined;
  const { readability, unit: own } = instrumentOf(plan, phase.instrument);
  const sight = sightOfHold(movement, {
    contents: withAir(part.contents, held.airPercent),
    seconds,
    unit,
    low,
    high: held.start ?? toSi(Number(phase.band.high), unit),
    step: toSi(Number(readability), own),
    factor: Number(part.factor ?? '1'),
    warms: held.warms ?? plannedWarming(phase, seconds),
    presses: held.presses ?? plannedWeather(phase, seconds),
    letBy: plannedLetBy(plan, part.letBys ?? phase.valve ?? [], held.letBy),
    supply: held.supply ?? (part.supply === undefined ? undefined : toSi(Number(part.supply.value), unit)),
  });
  return { sight, seconds };
}

function ofPoints(plan: Sighted, { contents }: PartGiven, phase: MeasurePhase, held: AsHeld): Sight | undefined {
  const { limit } = phase;
  const before = limit.kind === 'make-up-at-most' ? plan.phases.find(({ id }) => id === limit.hold) : undefined;
  const at =
    before?.kind === 'hold'
      ? (held.start ?? toSi(Number(before.band.high), unitOfHold(plan, before)))
      : limit.kind === 'flow-at-most'
        ? Number(limit.reference)
        : 0;
  const measured = phase.fields.find(({ quantity }) => quantity !== 'pressure');
  const instrument = instrumentOf(plan, measured?.instrument);
  const seconds = before?.kind === 'hold' ? before.seconds : 0;
  return measureSight(limit, {
    contents,
    at,
    gaugeStep: toSi(Number(plan.gauge.readability), plan.gauge.unit),
    step: toSi(Number(instrument.readability), instrument.unit),
    warms: { amount: unnoticedK(seconds), read: false },
  });
}

/** A rate in a part's unit, rounded up. */
export const rateIn = (m3s: number, unit: FlowUnit): string => roundedUp(fromSi(m3s, unit));

/** A part with its two figures, as it is planned, or as it was held; undefined where its phase clears no leak. */
export function sightOf(plan: Sighted, given: PartGiven, held: AsHeld = {}): (Part & { readonly sight: Sight }) | undefined {
  const phase = plan.phases.find(({ id }) => id === given.phase);
  if (phase?.kind === 'hold') {
    const found = ofHold(plan, given, phase, held);
    return (
      found &&
      figured(given, found.sight, unitOfHold(plan, phase), holdWorking(given, found.sight, found.seconds, unitOfHold(plan, phase), held))
    );
  }
  if (phase?.kind !== 'measure') return undefined;
  const sight = ofPoints(plan, given, phase, held);
  return sight && figured(given, sight, given.unit, []);
}

function figured(given: PartGiven, sight: Sight, unit: InstrumentUnit, more: readonly string[]): Part & { readonly sight: Sight } {
  const { alone, sure, blind } = sight;
  // What an earlier reckoning brought with it is left behind.
  const { alone: _, sure: __, blind: ___, ...asked } = given as Part;
  return {
    ...asked,
    ...(alone === undefined ? {} : { alone: rateIn(alone, given.unit) }),
    ...(sure === undefined ? {} : { sure: rateIn(sure, given.unit) }),
    ...(blind === undefined ? {} : { blind }),
    terms: sight.terms.map(({ what, si }) => ({ what, amount: roundedUp(fromSi(si, unit)), unit })),
    working: [sightSum(sight, unit), ...more],
    assumes: [...sight.assumes, ...(given.alsoAssumes ?? [])],
    outside: [...sight.outside, ...(given.alsoOutside ?? [])],
    sight,
  };
}

/** How a movement becomes a rate, with its figures. */
function holdWorking(
  { contents, factor, unit }: PartGiven,
  { sure }: Sight,
  seconds: number,
  _: InstrumentUnit,
  { airPercent }: AsHeld,
): readonly string[] {
  const times = factor === undefined || factor === '1' ? '' : ` × ${factor}`;
  const comes = sure === undefined ? '' : ` = ${rateIn(sure, unit)} ${unitLabel(unit)}`;
  const time = `${Math.round(seconds)} s`;
  switch (contents.kind) {
    case 'gas':
      return [
        `${Number(Number(contents.litres).toFixed(2))} L × that sum / (1013.25 mbar × ${time})${times}${comes}, by the worst law where it is over a tenth of the start`,
      ];
    case 'water':
      return [
        `${Number(Number(contents.litres).toFixed(2))} L of water in ${contents.pipe} with ${airPercent ?? contents.airPercent} % of air: that sum over its stiffness and ${time}${comes}`,
      ];
    case 'level':
      return [`${Number(Number(contents.squareCm).toFixed(1))} cm² of standing-water opening × that sum / ${time}${comes}`];
    default:
      return ['The volume is not known, so that no rate can be given: a movement of that sum may pass unseen.'];
  }
}
