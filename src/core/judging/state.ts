import type { Data, Drifts, Effect } from '../limits';
import type { ReadQuantity } from '../quantities';
import type { CheckState } from './events';

/** How one step of a checklist was answered. */
export interface ItemState {
  readonly id: string;
  readonly state: CheckState;
  readonly text?: string;
}

/** A hold that has its start reading. */
export interface Begun {
  readonly startAt: number;
  readonly dueAt: number;
  readonly start: string;
}

/** The end of a hold. */
export interface Ended {
  readonly endAt: number;
  readonly end: string;
}

/** A point of a measuring phase that is read whole. */
export interface PointState {
  readonly id: string;
  readonly values: Readonly<Partial<Record<ReadQuantity, string>>>;
}

/** What a phase that is over came to. */
export type Came =
  | { readonly of: 'check'; readonly items: readonly ItemState[] }
  | { readonly of: 'zero'; readonly shown: string }
  | { readonly of: 'look' }
  /** The pressure did not come up, or fell as fast as it was fed. */
  | { readonly of: 'not-reached'; readonly endAt: number }
  /** Without an end where it was done again before one was read. */
  | ({ readonly of: 'hold'; readonly fall?: string; readonly corrected?: string; readonly drifts?: Drifts; readonly data: Data } & Begun &
      Partial<Ended>)
  | {
      readonly of: 'points';
      readonly points: readonly PointState[];
      readonly startAt: number;
      readonly endAt: number;
      readonly data: Data;
    };

interface Round {
  readonly id: string;
  readonly round: number;
}

/** A phase as the log leaves it: each state with its own fields. */
export type PhaseJudgement = Round &
  (
    | { readonly state: 'waiting' | 'skipped' }
    /** A list that is gone through beside a hold's clock. */
    | { readonly state: 'beside'; readonly items: readonly ItemState[] }
    | { readonly state: 'current'; readonly is: 'ticking'; readonly items: readonly ItemState[] }
    | { readonly state: 'current'; readonly is: 'looking' }
    | { readonly state: 'current'; readonly is: 'zeroing'; readonly shown?: string }
    | { readonly state: 'current'; readonly is: 'unstarted' }
    | ({ readonly state: 'current'; readonly is: 'running' } & Begun)
    /** Its end is in; what belongs to it is still to be read, until then. */
    | ({
        readonly state: 'current';
        readonly is: 'ended';
        readonly owes: readonly ('temperature' | 'barometer')[];
        readonly until: number;
      } & Begun &
        Ended)
    | { readonly state: 'current'; readonly is: 'measuring'; readonly points: readonly PointState[]; readonly startAt?: number }
    /** The round proves nothing: do it again, or end the test. */
    | { readonly state: 'current'; readonly is: 'spoilt'; readonly outcome: string; readonly came: Came }
    /** Also one that spoils, where the test was ended with it. */
    | { readonly state: 'done'; readonly outcome: string; readonly effect: Effect; readonly came: Came }
  );

/** What a hold that has begun has so far; undefined for anything else. */
export interface HoldSoFar extends Begun, Partial<Ended> {
  readonly fall?: string;
  readonly corrected?: string;
}

export function heldSoFar(state: PhaseJudgement | undefined): HoldSoFar | undefined {
  if (state?.state === 'done') return state.came.of === 'hold' ? state.came : undefined;
  if (state?.state !== 'current') return undefined;
  if (state.is === 'running' || state.is === 'ended') return state;
  return state.is === 'spoilt' && state.came.of === 'hold' ? state.came : undefined;
}

/** The outcome of a phase that is over, also of one that proves nothing. */
export const outcomeOf = (state: PhaseJudgement | undefined): string | undefined =>
  state !== undefined && 'outcome' in state ? state.outcome : undefined;

export const isSpoilt = (state: PhaseJudgement | undefined): boolean => state?.state === 'current' && state.is === 'spoilt';

/** Answers of a checklist so far. */
export const itemsOf = (state: PhaseJudgement | undefined): readonly ItemState[] =>
  state === undefined ? [] : 'items' in state ? state.items : 'came' in state && state.came.of === 'check' ? state.came.items : [];

/** Points that are read whole so far. */
export const pointsOf = (state: PhaseJudgement | undefined): readonly PointState[] =>
  state === undefined ? [] : 'points' in state ? state.points : 'came' in state && state.came.of === 'points' ? state.came.points : [];

/** When a phase began and ended to be read, where it is read at all. */
export function spanOf(state: PhaseJudgement | undefined): { readonly startAt?: number; readonly endAt?: number } {
  const held = heldSoFar(state);
  if (held !== undefined) return held;
  if (state === undefined) return {};
  if ('came' in state && (state.came.of === 'points' || state.came.of === 'not-reached')) return state.came;
  return 'startAt' in state && state.startAt !== undefined ? { startAt: state.startAt } : {};
}
