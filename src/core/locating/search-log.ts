import { unitOfHold } from '../course/instruments';
import { type HoldPhase, thresholdOf } from '../course/phases';
import type { EventOf, RunEvent } from '../judging/events';
import type { Judgement } from '../judging/judge';
import { heldSoFar, outcomeOf } from '../judging/state';
import type { Plan } from '../planning/plan';
import { compareQuantities, decimal, subtract, type TemperatureUnit, toNumber, toSi, toText, type Unit } from '../quantities';
import type { Isolated, Looked } from './likelihood';

/** An isolation as it was held, with its figures where there are any. */
export interface IsolationRead extends Isolated {
  /** The event that ended it; withdrawn, the isolation counts for nothing. */
  readonly id: string;
  readonly start?: string;
  readonly end?: string;
  readonly fall?: string;
  readonly unit?: Unit;
  readonly at: number;
}

/** What a run's log says of the search for its leak. */
export interface SearchLog {
  readonly looked: readonly (Looked & { readonly id: string; readonly text: string; readonly at: number })[];
  readonly isolated: readonly IsolationRead[];
  /** An isolation whose end is still to be read. */
  readonly open?: EventOf<'isolation'>;
  /** The rig's own joints were soaped and stayed dry, in the run or while searching. */
  readonly rigDry: boolean;
  /** The gauge was checked against another. */
  readonly gaugeChecked: boolean;
}

/** The hold that showed the fall, which isolations are held like. */
export function fallenHold(plan: Plan, judgement: Judgement): HoldPhase | undefined {
  const read = plan.phases.filter(
    (phase): phase is HoldPhase =>
      phase.kind === 'hold' &&
      phase.limit.kind !== 'wait' &&
      judgement.phases.some((state) => state.id === phase.id && heldSoFar(state)?.fall !== undefined),
  );
  return (
    read.findLast(({ id }) =>
      judgement.phases.some((state) => state.id === id && outcomeOf(state) !== 'tight' && outcomeOf(state) !== 'steady'),
    ) ?? read.at(-1)
  );
}

/** @param all the run's, in order; what was withdrawn stays among them and counts for nothing */
export function searchLog(plan: Plan, judgement: Judgement, all: readonly RunEvent[]): SearchLog {
  const gone = new Set(all.flatMap((event) => (event.type === 'withdrawn' ? [event.reading] : [])));
  const events = all.filter(({ id }) => !gone.has(id));
  const looked = events.filter((event): event is EventOf<'searched'> => event.type === 'searched');
  const hold = fallenHold(plan, judgement);
  const isolated: IsolationRead[] = [];
  let open: EventOf<'isolation'> | undefined;
  for (const event of events) {
    if (event.type !== 'isolation') continue;
    if (event.step === 'said') isolated.push({ id: event.id, section: event.section, stillLeaks: event.stillLeaks, at: event.observedAt });
    else if (event.step === 'start') open = event;
    else if (open?.step === 'start' && open.section === event.section) {
      isolated.push(ended(plan, hold, open, event));
      open = undefined;
    }
  }
  // Where bubbles on the rig would have decided the test, the run itself looked at the rig.
  const rig = new Set(
    plan.conclusions
      .filter(({ reason }) => reason === 'rig-leaks')
      .flatMap(({ when }) => when.flat().flatMap((one) => ('phase' in one ? [one.phase] : []))),
  );
  const seen = (section: string) => looked.some((one) => one.section === section && !one.leak);
  return {
    looked: looked.map(({ id, section, method, leak, text, observedAt }) => ({ id, section, method, leak, text, at: observedAt })),
    isolated,
    open,
    rigDry: seen('rig') || judgement.phases.some((state) => rig.has(state.id) && outcomeOf(state) === 'dry'),
    gaugeChecked: seen('gauge'),
  };
}

type Figure = Extract<EventOf<'isolation'>, { step: 'start' | 'end' }>;

/** A fall of the hold's threshold or more in what is still connected: the leak lies there. */
function ended(plan: Plan, hold: HoldPhase | undefined, start: Figure, end: Figure): IsolationRead {
  const fall = subtract(decimal(start.value), decimal(end.value));
  const threshold = hold === undefined ? undefined : thresholdOf(hold.limit);
  const unit = start.unit as Exclude<Unit, TemperatureUnit>;
  const stillLeaks =
    threshold === undefined || hold === undefined
      ? toNumber(fall) > 0
      : compareQuantities(fall, unit, decimal(threshold), unitOfHold(plan, hold)) >= 0;
  return {
    id: end.id,
    section: start.section,
    stillLeaks,
    start: start.value,
    end: end.value,
    fall: toText(fall),
    unit: start.unit,
    at: end.observedAt,
  };
}

/** What is no leak of the system: gas that a valve lets by is the supplier's, and where gas was smelt nobody searches. */
const noLeak: readonly string[] = ['smell', 'let-by-confirmed', 'let-by-repeated', 'valve-passes'];

/** Whether a leak is to be looked for: a test that failed or was left open by what the system itself lost. */
export const isSearched = ({ provisional, reasons }: Judgement): boolean =>
  ['fail', 'inconclusive', 'restricted'].includes(provisional) && !reasons.some(({ code }) => noLeak.includes(code));

/** Shortest isolation, s: a gauge needs a moment to stand. */
const shortestS = 60;

/**
 * Seconds that an isolation is held, so that the fall that was seen would show again with some to spare: half as long again as
 * the fall took to reach the threshold, never longer than the hold itself.
 */
export function isolationSeconds(plan: Plan, judgement: Judgement): number {
  const hold = fallenHold(plan, judgement);
  const state = heldSoFar(judgement.phases.find(({ id }) => id === hold?.id));
  const threshold = hold === undefined ? undefined : thresholdOf(hold.limit);
  if (hold === undefined || threshold === undefined || state?.fall === undefined) return hold?.seconds ?? 300;
  const unit = plan.instruments?.[hold.instrument ?? '']?.unit ?? plan.gauge.unit;
  const fall = toSi(Number(state.fall), unit);
  if (!(fall > 0)) return hold.seconds;
  const reached = (hold.seconds * toSi(Number(threshold), unitOfHold(plan, hold))) / fall;
  const needed = Math.min(hold.seconds, Math.max(shortestS, 1.5 * reached));
  // Whole minutes, as one times it; never longer than the hold.
  return Math.min(hold.seconds, Math.ceil(needed / 60 - 1e-9) * 60);
}

/**
 * What a simulated gauge would show at the end of an isolation: the fall that was seen goes on where the leaky section is
 * still connected, and stops where it is shut off. @param leaky the section that the simulation hides its leak in
 */
export function simulatedIsolation(
  plan: Plan,
  judgement: Judgement,
  start: string,
  seconds: number,
  shutOff: ReadonlySet<string>,
  leaky: string,
): string {
  const hold = fallenHold(plan, judgement);
  const state = heldSoFar(judgement.phases.find(({ id }) => id === hold?.id));
  const { readability } = plan.instruments?.[hold?.instrument ?? ''] ?? plan.gauge;
  if (hold === undefined || state?.fall === undefined || shutOff.has(leaky)) return start;
  const took = (state.endAt ?? 0) - (state.startAt ?? 0);
  const fall = (Number(state.fall) * seconds * 1000) / Math.max(1, took);
  const steps = Math.round(fall / Number(readability));
  const { digits, scale } = decimal(readability);
  return toText(subtract(decimal(start), { digits: digits * BigInt(steps), scale }));
}
