import { instrumentOf, quantityRead } from '../course/instruments';
import {
  type CheckItem,
  type CheckPhase,
  fieldsAt,
  type HoldPhase,
  type MeasurePhase,
  type MeasurePoint,
  type ObservePhase,
  type Phase,
  type ReadQuantity,
  type ZeroPhase,
} from '../course/phases';
import type { EventOf, ReadingRole, RunEvent } from '../judging/events';
import type { Judgement } from '../judging/judge';
import { readingFault } from '../judging/readings';
import { againFrom } from '../judging/rounds';
import { asItStands, mayStart, readBefore } from '../judging/starts';
import { heldSoFar, isSpoilt, itemsOf, outcomeOf, type PhaseJudgement } from '../judging/state';
import type { Plan } from '../planning/plan';
import type { Decimal } from '../quantities';
import type { Instrument } from '../sizing/gauge';

/** A figure that is to be read next. */
export interface Ask {
  readonly role: ReadingRole;
  readonly quantity: ReadQuantity;
  readonly instrument: Instrument;
  /** Role of that instrument; the plan's gauge where there is none. */
  readonly of?: string;
  /** Of a measuring phase. */
  readonly point?: MeasurePoint;
  readonly label?: string;
}

interface At<P extends Phase> {
  readonly phase: P;
  readonly round: number;
}

/**
 * What is to be done, read or waited for now. The run screen, the simulated technician and the command line ask this and
 * decide nothing again.
 */
export type Present =
  | ({ readonly do: 'tick'; readonly items: readonly CheckItem[] } & At<CheckPhase>)
  | ({ readonly do: 'choose' } & At<ObservePhase>)
  /** A zero, a start, a figure at a point; or a hold's end, once it is due. */
  | ({ readonly do: 'read'; readonly ask: Ask } & At<ZeroPhase | HoldPhase | MeasurePhase>)
  /** The settling before it is not over: the next start is not accepted earlier. What is read meanwhile shows whether it settles. */
  | ({ readonly do: 'settle'; readonly until: number; readonly settling: HoldPhase; readonly ask: Ask } & At<HoldPhase>)
  /** The hold runs; what is read meanwhile is a reading in between. */
  | ({ readonly do: 'hold'; readonly until: number; readonly ask: Ask } & At<HoldPhase>)
  /** The end is in; what belongs to it is still to be read or declined. */
  | ({ readonly do: 'condition'; readonly owes: readonly ('temperature' | 'barometer')[]; readonly until: number } & At<HoldPhase>)
  /** The round proves nothing: repeat from there, or end the test. */
  | ({ readonly do: 'repeat'; readonly from: Phase | undefined; readonly why: string } & At<Phase>)
  | { readonly do: 'nothing' };

/**
 * Phases that something may be done in now: the one that leads, and holds on other gauges that run, or may begin, beside it. More
 * than one only where two circuits are held at the same time.
 */
export function openPhases(plan: Plan, judgement: Judgement): readonly Phase[] {
  const open = judgement.phases.filter(({ state, id }) => state === 'current' || id === judgement.current).map(({ id }) => id);
  return plan.phases.filter(({ id }) => open.includes(id));
}

/** How soon something is wanted of a phase, ms: a start at once, an end when it is due, what belongs to it until its time is over. */
function wantedAt(phase: Phase, state: PhaseJudgement | undefined, time: number): number {
  if (phase.kind !== 'hold' || state?.state !== 'current') return time;
  if (state.is === 'running') return state.dueAt;
  // Bubbles, a doubt, a figure beside it: after a start that is to be read, and after an end that is due.
  return state.is === 'unstarted' ? time - 1 : time;
}

/**
 * @param time now, ms; `events` the run's own, of which a measuring phase's readings are looked at
 * @param at one of the open phases; without it the one in which something is wanted first
 */
export function present(plan: Plan, judgement: Judgement, events: readonly RunEvent[], time: number, at?: string): Present {
  const stateOf = (id: string | undefined) => judgement.phases.find((one) => one.id === id);
  const open = openPhases(plan, judgement);
  const chosen = open.find(({ id }) => id === at);
  const first = open.reduce<Phase | undefined>(
    (best, one) => (best === undefined || wantedAt(one, stateOf(one.id), time) < wantedAt(best, stateOf(best.id), time) ? one : best),
    undefined,
  );
  const phase = chosen ?? first;
  const state = stateOf(phase?.id);
  return phase === undefined || state === undefined ? { do: 'nothing' } : presentAt(plan, judgement, events, time, phase, state);
}

function presentAt(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  time: number,
  phase: Phase,
  state: PhaseJudgement,
): Present {
  const { round } = state;
  if (isSpoilt(state)) {
    const back = againFrom(phase, outcomeOf(state) ?? '');
    return { do: 'repeat', phase, round, from: plan.phases.find(({ id }) => id === back), why: outcomeOf(state) ?? '' };
  }
  switch (phase.kind) {
    case 'check': {
      const done = itemsOf(state);
      return { do: 'tick', phase, round, items: phase.items.filter(({ id }) => !done.some((one) => one.id === id)) };
    }
    case 'observe':
      return { do: 'choose', phase, round };
    case 'zero':
      return { do: 'read', phase, round, ask: askFor(plan, phase, 'zero') };
    case 'measure': {
      const ask = nextFigure(plan, phase, round, events, judgement.withdrawn);
      return ask === undefined ? { do: 'nothing' } : { do: 'read', phase, round, ask };
    }
    case 'hold':
      return presentHold(plan, judgement, holdNow(plan, judgement, phase), state, time);
  }
}

const beforeOf = (plan: Plan, { phases }: Judgement, phase: HoldPhase) =>
  readBefore(plan, phase, (id) => {
    const state = phases.find((one) => one.id === id);
    return state !== undefined && 'came' in state ? state.came : undefined;
  });

/** A hold with the band that its start needs as things stand. */
export const holdNow = (plan: Plan, judgement: Judgement, phase: HoldPhase): HoldPhase =>
  asItStands(plan, phase, beforeOf(plan, judgement, phase));

/** Whether a figure on its gauge may start a hold, as things stand. */
export const mayStartNow = (plan: Plan, judgement: Judgement, phase: HoldPhase, value: Decimal): boolean =>
  mayStart(plan, phase, beforeOf(plan, judgement, phase), value);

function presentHold(plan: Plan, judgement: Judgement, phase: HoldPhase, state: PhaseJudgement, time: number): Present {
  const { round } = state;
  if (state.state === 'current' && state.is === 'ended') return { do: 'condition', phase, round, owes: state.owes, until: state.until };
  const held = heldSoFar(state);
  if (held !== undefined)
    return time >= held.dueAt
      ? { do: 'read', phase, round, ask: askFor(plan, phase, 'end') }
      : { do: 'hold', phase, round, until: held.dueAt, ask: askFor(plan, phase, 'between') };
  const openFrom = phase.id === judgement.current ? judgement.openFrom : undefined;
  const settling = openFrom === undefined || time >= openFrom ? undefined : settlingTo(plan, judgement, openFrom);
  return openFrom !== undefined && settling !== undefined
    ? { do: 'settle', phase, round, until: openFrom, settling, ask: askFor(plan, settling, 'between') }
    : { do: 'read', phase, round, ask: askFor(plan, phase, 'start') };
}

/** The settling whose time is over then. */
function settlingTo(plan: Plan, judgement: Judgement, until: number): HoldPhase | undefined {
  const state = judgement.phases.findLast((one) => outcomeOf(one) === 'settled' && heldSoFar(one)?.dueAt === until);
  return plan.phases.find((phase): phase is HoldPhase => phase.kind === 'hold' && phase.id === state?.id);
}

const askFor = (plan: Plan, phase: ZeroPhase | HoldPhase, role: ReadingRole): Ask => ({
  role,
  quantity: quantityRead(plan, phase),
  instrument: instrumentOf(plan, phase.instrument),
  of: phase.instrument,
});

/** The first figure of a measuring phase that nobody has read yet, point by point; none when all are read. */
function nextFigure(
  plan: Plan,
  phase: MeasurePhase,
  round: number,
  events: readonly RunEvent[],
  withdrawn: readonly string[],
): Ask | undefined {
  const read = readingsOf(events, withdrawn, phase.id, round);
  for (const point of phase.points)
    for (const { quantity, label, instrument: of } of fieldsAt(phase, point)) {
      const instrument = instrumentOf(plan, of);
      const there = read.some(
        (event) =>
          event.role === 'point' &&
          event.quantity === quantity &&
          (event.point ?? phase.points[0].id) === point.id &&
          readingFault(instrument, event) === undefined,
      );
      if (!there) return { role: 'point', quantity, instrument, point, label, of };
    }
  return undefined;
}

/** Readings of a phase's round that still stand, in the order in which they were taken. */
export const readingsOf = (
  events: readonly RunEvent[],
  withdrawn: readonly string[],
  phase: string,
  round: number,
): readonly EventOf<'reading'>[] =>
  events
    .filter(
      (event): event is EventOf<'reading'> =>
        event.type === 'reading' && event.phase === phase && event.round === round && !withdrawn.includes(event.id),
    )
    .sort((a, b) => a.observedAt - b.observedAt);
