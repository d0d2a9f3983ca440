import type { Phase } from '../course/phases';
import type { Plan } from '../planning/plan';
import type { Judgement } from './judge';
import { heldSoFar, outcomeOf } from './state';

/** A hold that runs, or waits for its settling, with the moment at which it falls due, ms. */
export interface Due {
  readonly phase: Phase;
  readonly at: number;
}

/** All that fall due, the next first; a checklist has no clock. */
export function duesOf(plan: Plan, judgement: Judgement): readonly Due[] {
  const { openFrom } = judgement;
  const settles = judgement.phases.some((one) => outcomeOf(one) === 'settled' && heldSoFar(one)?.dueAt === openFrom);
  return judgement.phases
    .flatMap((state): Due[] => {
      const phase = plan.phases.find(({ id }) => id === state.id);
      if (phase?.kind !== 'hold' || (state.state !== 'current' && state.id !== judgement.current)) return [];
      const at = heldSoFar(state)?.dueAt ?? (settles && state.id === judgement.current ? openFrom : undefined);
      return at === undefined ? [] : [{ phase, at }];
    })
    .sort((a, b) => a.at - b.at);
}

/** When the next of them falls due. */
export const dueOf = (plan: Plan, judgement: Judgement): number | undefined => duesOf(plan, judgement).at(0)?.at;
