import { type Phase, whenHolds } from '../course/phases';
import type { Plan } from '../planning/plan';
import type { Task } from '../procedures/procedure';
import { type Judgement, judge, saysSoFar } from './judge';
import { hopedOf } from './rooms';
import { outcomeOf, spanOf } from './state';

/** The phases to show: what was done, what is open, and what follows if all goes well. */
export function expectedCourse(plan: Plan, judgement: Judgement): readonly Phase[] {
  const outcomes = new Map<string, string>();
  const shown: Phase[] = [];
  // Undecided, the way to a pass is shown; decided, the way that was.
  const says = judgement.provisional === 'in progress' ? 'pass' : saysSoFar(judgement.provisional);
  for (const phase of plan.phases) {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state === undefined || (state.state === 'skipped' && spanOf(state).startAt === undefined)) continue;
    const ahead = state.state === 'waiting' || state.state === 'beside';
    const fits = whenHolds(phase.when, (condition) => {
      if ('signal' in condition || 'begunBefore' in condition) return false;
      if ('conclusion' in condition) return condition.conclusion === says;
      return condition.outcome.includes(outcomes.get(condition.phase) ?? '');
    });
    if (ahead && !fits) continue;
    shown.push(phase);
    outcomes.set(phase.id, state.state === 'done' ? (outcomeOf(state) ?? '') : hopedOf(phase));
  }
  return shown;
}

/** How long a phase is waited for; what runs beside another takes no time of its own. */
export const waitOf = (phase: Phase): number => (phase.kind === 'hold' && phase.alongside === undefined ? phase.seconds : 0);

/**
 * A procedure's tasks with the waiting that a plan takes when all goes well: where its holds are longer than usual, as by a
 * house rule, every wait grows by the same share; never shorter than the procedure reckons.
 */
export function plannedTasks(tasks: readonly Task[], plan: Plan): readonly Task[] {
  const seconds = expectedCourse(plan, judge(plan, [])).reduce((sum, phase) => sum + waitOf(phase), 0);
  const usual = tasks.reduce((sum, { passiveMinutes }) => sum + passiveMinutes, 0);
  const factor = usual === 0 ? 1 : Math.max(1, seconds / 60 / usual);
  return tasks.map((task) => ({ ...task, passiveMinutes: Math.ceil(task.passiveMinutes * factor) }));
}
