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
  termWords,
  thresholdOf,
} from '../limits';
import { kelvinForGas } from '../physics/gas-temperature';
import { unnoticedK, unreadBarometerPa } from '../physics/hold-sight';
import { type FlowUnit, fromSi, type InstrumentUnit, referencePressure, toSi, unitKind, unitLabel } from '../quantities';
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

/**
 * What may move unnoticed beside the gauge's own step, where that is more than the movement that the limit calls a leak: then the test
 * says less than its limit does, and somebody should sharpen it before anything is connected. Undefined where it is not.
 */
export function bluntedBy({ what, terms, sure, alone, unit }: Part): string | undefined {
  const limit = terms.find((one) => one.what === 'limit');
  const others = terms.filter((one) => one.what !== 'limit' && one.what !== 'step' && one.what !== 'vessel');
  if (limit === undefined || others.reduce((sum, { amount }) => sum + Number(amount), 0) <= Number(limit.amount)) return undefined;
  const named = joined(others.map((one) => `${termWords[one.what]} ${one.amount}`));
  const passes = sure === undefined ? 'no leak is sure to be caught' : `a leak of up to ${sure} ${unitLabel(unit)} may pass`;
  return `In ${what}, what may move unnoticed (${named} ${unitLabel(limit.unit)}) is more than the limit itself, ${limit.amount}: ${alone === undefined && sure === undefined ? 'such a fall may pass' : passes}. Sharpen the test before anything is connected.`;
}

export interface SightWords {
  /** The two figures, each a clause. */
  readonly alone?: string;
  readonly sure: string;
  readonly assuming: string;
  readonly outside: string;
}

/** What a part's figures say, for screen, paper and terminal alike. */
export function sightWords({ alone, sure, blind, unit, assumes, outside }: Part): SightWords {
  const rate = (figure: string) => `${figure} ${unitLabel(unit)}`;
  return {
    ...(alone === undefined ? {} : { alone: `if nothing else moves, leaks from ${rate(alone)}` }),
    sure:
      sure !== undefined
        ? `sure of leaks above ${rate(sure)}; a smaller one may pass`
        : (blind ?? 'no rate can be given: nobody knows the volume, so that a movement under the limit has no litres'),
    assuming: assumes.length === 0 ? '' : `Sure as long as ${joined(assumes)}.`,
    outside: outside.length === 0 ? '' : `Outside it: ${joined(outside)}.`,
  };
}

/** A part as a plan has it, or as a test left it. */
export interface SeenPart extends Part {
  /** False where the test came to no answer in it: then it claims nothing. Absent in a plan. */
  readonly told?: boolean;
}

/** What stands in place of the figures of a part that came to no answer. */
export const untold = 'it was not tested to an answer, and nothing is claimed of it';

/** The figures of every part in whole sentences, for a paper or a terminal. */
export const sightSentences = (parts: readonly SeenPart[], says: string | undefined): readonly string[] => [
  ...parts.map((part) => {
    if (part.told === false) return `In ${part.what}: ${untold}.`;
    const { alone, sure, assuming, outside } = sightWords(part);
    const both = [sure, ...(alone === undefined ? [] : [alone])].join('; ');
    return [`In ${part.what}: ${both}.`, assuming, outside].filter((text) => text !== '').join(' ');
  }),
  ...(says === undefined ? [] : [says]),
];

/** Clauses as one: `a, b and c`. */
export const joined = (texts: readonly string[]): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} and ${texts.at(-1)}`;

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

/** What a phase of a plan holds: its part's, that of the part whose valve it proves, or the plan's first. */
function contentsOf(plan: Plan, id: string): Contents | undefined {
  const valves = (part: Part): readonly string[] => {
    const phase = plan.phases.find((one) => one.id === part.phase);
    return part.letBys ?? (phase?.kind === 'hold' ? phase.valve : undefined) ?? [];
  };
  const part = plan.sight.find(({ phase }) => phase === id) ?? plan.sight.find((one) => valves(one).includes(id)) ?? plan.sight[0];
  return part?.contents;
}

/**
 * Kelvins that the pipe would have to warm, negative to cool, to move a hold's gauge so (DOMAIN 3.2, 3.7). None for a level, for soft
 * pipe, which gives no sign, and where there is nothing to warm.
 * @param movedPa rise, negative for a fall @param startPa gauge pressure that it started from
 */
export function kelvinThatMoves(plan: Plan, phase: HoldPhase, movedPa: number, startPa: number): number | undefined {
  const contents = contentsOf(plan, phase.id);
  if (contents === undefined || unitKind(unitOfHold(plan, phase)) !== 'pressure') return undefined;
  if (contents.kind === 'gas' || contents.kind === 'unknown') return kelvinForGas(movedPa, Math.max(1, startPa + referencePressure));
  if (contents.kind !== 'water' || contents.expansionPpm === undefined) return undefined;
  const expansion = Number(contents.expansionPpm) * 1e-6;
  const softness = Number(contents.softness) / 1e9 + Number(contents.airPercent) / 100 / (startPa + referencePressure);
  return expansion > 0 ? (movedPa * softness) / expansion : undefined;
}

/** What the pipe would have to do to move a gauge so, in a clause: `a pipe that cools by 0.07 °C does as much`; none where it gives no sign. */
export function weatherWords(plan: Plan, phase: HoldPhase, movedPa: number, startPa: number): string | undefined {
  const kelvin = movedPa === 0 ? undefined : kelvinThatMoves(plan, phase, movedPa, startPa);
  if (kelvin === undefined) return undefined;
  return `a pipe that ${kelvin < 0 ? 'cools' : 'warms'} by ${degreesText(kelvin, unitOfHold(plan, phase))} does as much`;
}

/** The degrees of a trade: Fahrenheit beside psi and inches of water, else Celsius. */
export const degreesOf = (unit: InstrumentUnit): 'C' | 'F' => (unit === 'psi' || unit === 'inH2O' || unit === 'ftH2O' ? 'F' : 'C');

/** The degrees in which a pipe is read: those of the thermometer that the plan names, else the trade's. */
export function pipeDegrees({ weather, unit }: Pick<Plan, 'weather' | 'unit'>): 'C' | 'F' {
  const named = weather?.thermometer?.unit;
  return named === 'C' || named === 'F' ? named : degreesOf(unit);
}

/** A change of temperature in the trade's unit. */
export function degreesText(kelvin: number, unit: InstrumentUnit): string {
  const shown = degreesOf(unit);
  const value = Math.abs(kelvin) * (shown === 'F' ? 9 / 5 : 1);
  return `${Number(value.toPrecision(2))} ${unitLabel(shown)}`;
}
