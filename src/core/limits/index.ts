import { type Of, type Shape, union } from '../exact/shape';
import { airAtMost } from './air-at-most';
import { atMost } from './at-most';
import { dial } from './dial';
import type { HoldFacts, MeasureFacts } from './facts';
import { flowAtMost } from './flow-at-most';
import { inBands } from './in-bands';
import { keep } from './keep';
import { leakRate } from './leak-rate';
import { makeUpAtMost } from './make-up';
import { noFall } from './no-fall';
import { noRise } from './no-rise';
import { recorded } from './recorded';
import type { HoldRoom, MeasureRoom, SightedPoints, Verdict } from './room';
import type { Sight } from './sight';
import { wait } from './wait';

/**
 * The kinds of limit, each a room of its own. Everything else that knows kinds derives from these two lists: the union and the
 * published schema, which of them decide, the rules in words, the lines of a picture, the paper. The interface adds a picture.
 */
export const holdRooms = [wait, noRise, noFall, atMost, keep, leakRate, dial] as const;
export const measureRooms = [recorded, inBands, airAtMost, flowAtMost, makeUpAtMost] as const;

type AnyHold = (typeof holdRooms)[number];
type AnyMeasure = (typeof measureRooms)[number];
/** What decides a hold. Figures are in the hold's unit unless they say otherwise. */
export type HoldLimit = Of<AnyHold['schema']>;
/** What decides a phase in which points are read. */
export type MeasureLimit = Of<AnyMeasure['schema']>;
export type Limit = HoldLimit | MeasureLimit;
export type LimitKind = Limit['kind'];
/** What a kind of limit can come to; text where the procedure names its bands. */
export type OutcomeOf<K extends LimitKind> = ReturnType<Extract<AnyHold | AnyMeasure, { readonly kind: K }>['outcomes']>[number];

/** What is said of any limit, by code. */
export type LimitCode = CodesOf<AnyHold | AnyMeasure>;
type CodesOf<R> = R extends { readonly says: infer S } ? keyof S & string : never;

export const holdLimitSchema = union(...holdRooms.map(({ schema }) => schema as Shape<HoldLimit>)) as Shape<HoldLimit>;
export const measureLimitSchema = union(...measureRooms.map(({ schema }) => schema as Shape<MeasureLimit>)) as Shape<MeasureLimit>;

const holdsByKind: ReadonlyMap<string, HoldRoom<string, HoldLimit>> = new Map(
  holdRooms.map((room): [string, HoldRoom<string, HoldLimit>] => [room.kind, room]),
);
const measuresByKind: ReadonlyMap<string, MeasureRoom<string, MeasureLimit>> = new Map(
  measureRooms.map((room): [string, MeasureRoom<string, MeasureLimit>] => [room.kind, room]),
);

/** The room of a hold's limit. @throws RangeError for a kind that there is not, which no schema lets through */
export function roomOfHold({ kind }: Pick<HoldLimit, 'kind'>): HoldRoom<string, HoldLimit> {
  const room = holdsByKind.get(kind);
  if (room === undefined) throw new RangeError(`no limit of the kind ${kind}`);
  return room;
}

/** The room of a measuring phase's limit. @throws RangeError for a kind that there is not */
export function roomOfMeasure({ kind }: Pick<MeasureLimit, 'kind'>): MeasureRoom<string, MeasureLimit> {
  const room = measuresByKind.get(kind);
  if (room === undefined) throw new RangeError(`no limit of the kind ${kind}`);
  return room;
}

/** Judges a hold that was read to its end, or stopped. */
export const judgeHeld = (limit: HoldLimit, facts: HoldFacts): Verdict => roomOfHold(limit).judge(limit, facts);
/** Judges a phase whose points are all read. */
export const judgeMeasured = (limit: MeasureLimit, facts: MeasureFacts): Verdict => roomOfMeasure(limit).judge(limit, facts);

/** What a measuring phase can see; none where it clears nothing. */
export const measureSight = (limit: MeasureLimit, points: SightedPoints): Sight | undefined => roomOfMeasure(limit).sight?.(limit, points);

export const holdRule = (limit: HoldLimit, unit: string): string => roomOfHold(limit).words(limit, unit);
export const measureRule = (limit: MeasureLimit): string => roomOfMeasure(limit).words(limit, '');
/** A hold's rule in a few words. */
export const holdRuleShort = (limit: HoldLimit, unit: string): string => roomOfHold(limit).short?.(limit) ?? holdRule(limit, unit);
/** The figure that a measuring phase permits, where one figure says it all. */
export const permittedBy = (limit: MeasureLimit) => roomOfMeasure(limit).permits?.(limit);
/** The movement that a hold's limit calls perceptible; none where it judges no movement. */
export const thresholdOf = (limit: HoldLimit): string | undefined => roomOfHold(limit).threshold?.(limit);

export { bandOf, compareAcross, inBand, lateToleranceMs, timeText } from './compare';
export {
  barometerDoubtPa,
  type Correction,
  correctionShape,
  type Drifts,
  driftsOf,
  longestUncorrectedS,
  mustRead,
  shortestCorrectedS,
  temperatureDoubtK,
} from './correction';
export type { Condition, HeldBefore, HoldFacts, Measured, MeasureFacts, PointValue } from './facts';
export { instrumentUnit, instrumentUnits } from './in-bands';
export { fallOutOfBest } from './leak-rate';
export { makeUpPoints } from './make-up';
export type { Effect, Figure, LimitLine, SightedPoints, Verdict } from './room';
export { atOnce, type Data, type Finding, finder, type Reason, reason, type Sayings, type Weight, weights } from './say';
export {
  amountText,
  type Contents,
  contentsShape,
  type Drift,
  roundedUp,
  type Sight,
  type SightedHold,
  sightOfHold,
  sightSum,
  type Term,
  type TermKind,
  termKinds,
  termWords,
} from './sight';
export { type Chunk, type Sample, type Samples, type Stood, stoodBetween, traceMost } from './stood';
