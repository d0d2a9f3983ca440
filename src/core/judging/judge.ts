import type { TestVerdict } from '../course/phases';
import { type Finding, weights } from '../limits';
import type { Plan } from '../planning/plan';
import { isPass, saysSoFar } from './conclude';
import type { RunEvent } from './events';
import { foldOf, growingFold } from './fold';
import { type NextStep, nextSteps } from './next-steps';
import { find } from './sayings';
import type { PhaseJudgement } from './state';
import { saidBeside } from './trust';

export type { ItemState, PhaseJudgement } from './state';
export { isPass, saysSoFar };

/** Version of the judge; sealed with every judgement, raised when any verdict could change. */
export const judgeVersion = '2';

export interface Judgement {
  readonly judge: string;
  readonly planHash: string;
  /** In progress until the closing steps are done, or the next attempt has taken them over. */
  readonly verdict: TestVerdict;
  /** What the verdict will be once the closing steps are done. */
  readonly provisional: TestVerdict;
  /** Codes with their data, the weightiest first; sentences are rendered by whoever reads. */
  readonly reasons: readonly Finding[];
  readonly phases: readonly PhaseJudgement[];
  /** The phase that is open now, or waits to be done again; absent when all is done. */
  readonly current?: string;
  /** The phase before must run until then before the current one can start, ms. */
  readonly openFrom?: number;
  readonly next: readonly NextStep[];
  readonly simulated: boolean;
  /** Readings that were withdrawn in time and count for nothing. */
  readonly withdrawn: readonly string[];
  /** Device that holds the pen. */
  readonly pen?: string;
}

/**
 * Judges a run. A pure function of plan and events: no clock, no I/O; the log's own order counts, not the one in which the
 * events are handed in (DOMAIN 4.1, 4.19).
 */
export const judge = (plan: Plan, events: readonly RunEvent[]): Judgement => judgementOf(plan, foldOf(plan, events));

/**
 * Judges a log that grows at its end, as often as it is asked: what was taken in is not taken in again. What it says is what
 * `judge` says of the log as it then stands.
 */
export function judgeGrowing(plan: Plan, log: readonly RunEvent[]): () => Judgement {
  const fold = growingFold(plan, log);
  let last: { readonly of: number; readonly judgement: Judgement } | undefined;
  return () => {
    if (last?.of !== log.length) last = { of: log.length, judgement: fold.takesAll() ? judgementOf(plan, fold) : judge(plan, log) };
    return last.judgement;
  };
}

function judgementOf(plan: Plan, fold: ReturnType<typeof foldOf>): Judgement {
  const said = fold.finish();
  const { settled, found, phases, current, openFrom, spoilt, stopReason, withdrawn, pen, simulated, goesOn } = said;
  const phase = plan.phases.find(({ id }) => id === current);
  const closing = current === undefined || (phase?.kind === 'check' && phase.closing);
  const provisional: TestVerdict =
    (closing && spoilt === undefined) || found.some(({ weight }) => weight === 'override') ? settled.verdict : 'in progress';
  // What proved tightness is closed where it was proved.
  const continued = goesOn && current !== undefined && provisional !== 'in progress' && !isPass(provisional);
  const reasons = ordered([
    // First of its weight: what the test came to is said before what else stands in doubt.
    ...(provisional !== 'in progress' && settled.reason !== undefined ? [settled.reason] : []),
    ...found,
    ...(stopReason === undefined ? [] : [find('stopped', { reason: stopReason })]),
    ...(continued ? [find('continued', {})] : []),
    ...saidBeside(plan, said),
  ]);
  return {
    judge: judgeVersion,
    planHash: plan.hash,
    verdict: current === undefined || continued ? provisional : 'in progress',
    provisional,
    reasons,
    phases,
    current,
    openFrom: openFrom !== undefined && Number.isFinite(openFrom) ? openFrom : undefined,
    next: nextSteps(plan, phases, current, provisional, reasons),
    withdrawn,
    simulated: plan.gauge.simulated || simulated,
    pen,
  };
}

const ordered = (found: readonly Finding[]): readonly Finding[] =>
  [...found].sort((a, b) => weights.indexOf(a.weight) - weights.indexOf(b.weight));
