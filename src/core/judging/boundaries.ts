import type { Plan } from '../planning/plan';
import type { Boundary, Condition } from '../procedures/phases';
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

/** The conditions that prove a boundary by phases, where they hold. */
const provedBy = ({ provedBy: ways = [] }: Boundary, phases: readonly Judged[]): readonly Condition[] | undefined =>
  ways.find((all) =>
    all.every(
      (condition) => 'outcome' in condition && condition.outcome.includes(phases.find(({ id }) => id === condition.phase)?.outcome ?? ''),
    ),
  );

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

export const boundaryProved = (plan: Plan, boundary: Boundary, phases: readonly Judged[]): boolean =>
  boundary.provedBy === undefined ? answered(plan, boundary.id, phases) !== undefined : provedBy(boundary, phases) !== undefined;

/** Every boundary of a plan, with what the phases so far say of it. */
export function boundaryStates(plan: Plan, phases: readonly Judged[]): readonly BoundaryState[] {
  return plan.boundaries.map((boundary) => {
    const { id, label, beyond } = boundary;
    const proved = boundaryProved(plan, boundary, phases);
    if (!proved) return { id, label, beyond, proved, how: 'not proved' };
    if (boundary.provedBy !== undefined) {
      const titles = provedBy(boundary, phases)?.map((condition) => ('phase' in condition ? titleOf(plan, condition.phase) : ''));
      return { id, label, beyond, proved, how: `proved by “${titles?.join(', ') ?? ''}”` };
    }
    const answer = answered(plan, id, phases);
    const text = answer?.text === undefined ? '' : ` (${answer.text})`;
    return { id, label, beyond, proved, how: `${answers[answer?.state ?? 'proved']}${text}` };
  });
}

const titleOf = (plan: Plan, phase: string): string => plan.phases.find(({ id }) => id === phase)?.title ?? phase;
