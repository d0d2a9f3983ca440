import type { Plan } from '../planning/plan';
import type { PhaseJudgement } from './judge';

/** How one edge of what was tested was proved (DOMAIN 4.13). */
export interface BoundaryState {
  readonly id: string;
  readonly label: string;
  readonly beyond: string;
  readonly proved: boolean;
  /** In words that follow the label: "proved by the let-by test", "plugged or capped", "not proved". */
  readonly how: string;
}

type Judged = Pick<PhaseJudgement, 'id' | 'outcome' | 'items'>;

const answers: Readonly<Record<string, string>> = { proved: 'proved', plugged: 'plugged or capped', 'not-applicable': 'does not apply' };

/** Every boundary of a plan, with what the phases so far say of it. */
export function boundaryStates(plan: Plan, phases: readonly Judged[]): readonly BoundaryState[] {
  return plan.boundaries.map(({ id, label, beyond, provedBy }) => {
    const about = { id, label, beyond };
    if (provedBy !== undefined) {
      const by = provedBy.find((all) =>
        all.every(
          (condition) =>
            'outcome' in condition && condition.outcome.includes(phases.find((phase) => phase.id === condition.phase)?.outcome ?? ''),
        ),
      );
      const title = by?.map((condition) => ('phase' in condition ? titleOf(plan, condition.phase) : '')).join(', ');
      return { ...about, proved: by !== undefined, how: title === undefined ? 'not proved' : `proved by “${title}”` };
    }
    const answered = plan.phases
      .flatMap((phase) =>
        phase.kind === 'check'
          ? phase.items
              .filter((item) => item.boundary === id)
              .map((item) => phases.find((one) => one.id === phase.id)?.items?.find((one) => one.id === item.id))
          : [],
      )
      .find((state) => state !== undefined && state.state in answers);
    return answered === undefined
      ? { ...about, proved: false, how: 'not proved' }
      : { ...about, proved: true, how: `${answers[answered.state]}${answered.text === undefined ? '' : ` (${answered.text})`}` };
  });
}

const titleOf = (plan: Plan, phase: string): string => plan.phases.find(({ id }) => id === phase)?.title ?? phase;
