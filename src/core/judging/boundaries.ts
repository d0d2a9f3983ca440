import { type Boundary, type Condition, whenHolds } from '../course/phases';
import type { Plan } from '../planning/plan';
import { type ItemState, itemsOf, outcomeOf, type PhaseJudgement } from './state';

/** How one edge of what was tested was proved (DOMAIN 4.13). */
export interface BoundaryState {
  readonly id: string;
  readonly label: string;
  readonly beyond: string;
  readonly proved: boolean;
  /** In words that follow the label: "proved by “Let-by”", "plugged or capped", "not proved". */
  readonly how: string;
}

const answers: Readonly<Record<string, string>> = { proved: 'proved', plugged: 'plugged or capped', 'not-applicable': 'does not apply' };

type Settled = ItemState & { readonly word: string };

const outcomeHolds =
  (phases: readonly PhaseJudgement[]) =>
  (condition: Condition): boolean =>
    'outcome' in condition && condition.outcome.includes(outcomeOf(phases.find(({ id }) => id === condition.phase)) ?? '');

/** The checklist answers that settle a boundary: items that share one must all be proved (DOMAIN 4.13). */
function answered(plan: Plan, boundary: string, phases: readonly PhaseJudgement[]): readonly Settled[] | undefined {
  const found: Settled[] = [];
  for (const phase of plan.phases) {
    if (phase.kind !== 'check') continue;
    const judged = phases.find(({ id }) => id === phase.id);
    for (const item of phase.items) {
      if (item.boundary !== boundary || judged?.state === 'skipped') continue;
      const state = itemsOf(judged).find(({ id }) => id === item.id);
      if (state === undefined || !(state.state in answers)) return undefined;
      // A ball is seated and a register sealed: neither is plugged or capped.
      found.push({ ...state, word: state.state === 'plugged' ? (item.plugged?.toLowerCase() ?? answers.plugged) : answers[state.state] });
    }
  }
  return found.length === 0 ? undefined : found;
}

export const boundaryProved = (plan: Plan, { id, provedBy }: Boundary, phases: readonly PhaseJudgement[]): boolean =>
  provedBy === undefined ? answered(plan, id, phases) !== undefined : whenHolds(provedBy, outcomeHolds(phases));

/** Every boundary of a plan, with what the phases so far say of it. */
export const boundaryStates = (plan: Plan, phases: readonly PhaseJudgement[]): readonly BoundaryState[] =>
  plan.boundaries.map((boundary) => {
    const { id, label, beyond } = boundary;
    const proved = boundaryProved(plan, boundary, phases);
    return { id, label, beyond, proved, how: proved ? howProved(plan, boundary, phases) : 'not proved' };
  });

function howProved(plan: Plan, { id, provedBy }: Boundary, phases: readonly PhaseJudgement[]): string {
  if (provedBy !== undefined) {
    const way = provedBy.find((all) => all.every(outcomeHolds(phases))) ?? [];
    const titles = way.map((condition) => ('phase' in condition ? plan.phases.find((phase) => phase.id === condition.phase)?.title : ''));
    return `proved by “${titles.join(', ')}”`;
  }
  const given = answered(plan, id, phases) ?? [];
  return given.map(({ word, text }) => `${word}${text === undefined ? '' : ` (${text})`}`).join('; ');
}
