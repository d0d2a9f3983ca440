import { type Finding, roomOfHold, roomOfMeasure } from '../limits';
import type { Plan } from '../planning/plan';
import { isConclusion } from '../procedures/conclusions';
import { sentenceOf, workingOf } from './catalogue';
import type { Judgement } from './judge';
import { decides } from './rooms';

/** A finding in words, with the arithmetic behind it. */
export interface Said extends Finding {
  readonly sentence: string;
  readonly working: readonly string[];
}

/** The sums behind a conclusion: those of every phase that was judged. */
export function workingIn(plan: Plan, { phases }: Pick<Judgement, 'phases'>): readonly string[] {
  return plan.phases.flatMap((phase) => {
    const state = phases.find(({ id }) => id === phase.id);
    if (state === undefined || !('came' in state) || !('data' in state.came) || !decides(phase)) return [];
    const { data } = state.came;
    if (phase.kind === 'hold' && state.came.of === 'hold' && state.came.end !== undefined) return roomOfHold(phase.limit).sum?.(data) ?? [];
    return phase.kind === 'measure' && Object.keys(data).length > 1 ? (roomOfMeasure(phase.limit).sum?.(data) ?? []) : [];
  });
}

/** A judgement's findings as they are read, each with its sentence and its sum. */
export const said = (plan: Plan, judgement: Pick<Judgement, 'phases' | 'reasons'>): readonly Said[] =>
  judgement.reasons.map((finding) => ({
    ...finding,
    sentence: sentenceOf(finding),
    working: isConclusion(finding.code) ? workingIn(plan, judgement) : workingOf(finding),
  }));
