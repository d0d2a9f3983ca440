import type { Plan } from '../planning/plan';
import type { Judgement } from './judge';
import { heldSoFar } from './state';

/** When the open phase falls due, ms; a hold that waits for its settling is due when that is over. A checklist has no clock. */
export function dueOf(plan: Plan, judgement: Judgement): number | undefined {
  const phase = plan.phases.find(({ id }) => id === judgement.current);
  const state = judgement.phases.find(({ id }) => id === judgement.current);
  return phase?.kind === 'hold' ? (heldSoFar(state)?.dueAt ?? judgement.openFrom) : undefined;
}
