import type { Plan } from '../planning/plan';
import { type Boundary, type Condition, whenHolds } from '../procedures/phases';
import type { ItemState, PhaseJudgement } from './judge';

/** How one edge of what was tested was proved (DOMAIN 4.13). */
export interface BoundaryState {
  readonly id: string;
  readonly label: string;
  readonly beyond: string;
  readonly proved: boolean;
  /** In words that follow the label: "proved by “Let-by”", "plugged or capped", "not proved". */
  readonly how: string;
}

type Judged = Pick<PhaseJudgement, 'id' | 'outcome' | 'items'>;

const answers: Readonly<Record<string, string>> = { proved: 'proved', plugged: 'plugged or capped', 'not-applicable': 'does not apply' };

const outcomeHolds =
  (phases: readonly Judged[]) =>
  (condition: Condition): boolean =>
    'outcome' in condition && condition.outcome.includes(phases.find(({ id }) => id === condition.phase)?.outcome ?? '');

/** The checklist answer that settles a boundary, where one was given. */
function answered(plan: Plan, boundary: string, phases: readonly Judged[]): ItemState | undefined {
  for (const phase of plan.phases) {
    if (phase.kind !== 'check') continue;
    for (const item of phase.items) {
      if (item.boundary !== boundary) continue;
      const state = phases.find(({ id }) => id === phase.id)?.items?.find(({ id }) => id === item.id);
      if (state !== undefined && state.state in answers) return state;
    }
  }
  return undefined;
}

export const boundaryProved = (plan: Plan, { id, provedBy }: Boundary, phases: readonly Judged[]): boolean =>
  provedBy === undefined ? answered(plan, id, phases) !== undefined : whenHolds(provedBy, outcomeHolds(phases));

/** Every boundary of a plan, with what the phases so far say of it. */
export const boundaryStates = (plan: Plan, phases: readonly Judged[]): readonly BoundaryState[] =>
  plan.boundaries.map((boundary) => {
    const { id, label, beyond } = boundary;
    const proved = boundaryProved(plan, boundary, phases);
    return { id, label, beyond, proved, how: proved ? howProved(plan, boundary, phases) : 'not proved' };
  });

function howProved(plan: Plan, { id, provedBy }: Boundary, phases: readonly Judged[]): string {
  if (provedBy !== undefined) {
    const way = provedBy.find((all) => all.every(outcomeHolds(phases))) ?? [];
    const titles = way.map((condition) => ('phase' in condition ? plan.phases.find((phase) => phase.id === condition.phase)?.title : ''));
    return `proved by “${titles.join(', ')}”`;
  }
  const answer = answered(plan, id, phases);
  return answer === undefined ? '' : `${answers[answer.state]}${answer.text === undefined ? '' : ` (${answer.text})`}`;
}
