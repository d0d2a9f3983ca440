import type { Plan } from '../planning/plan';
import { type Criterion, type MeasureCriterion, type Phase, whenHolds } from '../procedures/phases';
import type { Task } from '../procedures/procedure';
import { type Judgement, judge, saysSoFar } from './judge';

/** What a phase comes to when all goes well; used to show the way ahead, never to judge. */
function hoped(phase: Phase): string {
  switch (phase.kind) {
    case 'check':
      return 'done';
    case 'zero':
      return 'zeroed';
    case 'observe':
      return phase.options.find(({ hoped: good }) => good)?.id ?? '';
    case 'hold':
      return hopedOfHold(phase.criterion);
    case 'measure':
      return hopedOfMeasure(phase.criterion);
  }
}

/** Of figures in bands the middle one is hoped for: the only one that no list of worse ones names. */
function hopedOfMeasure(criterion: MeasureCriterion): string {
  switch (criterion.kind) {
    case 'recorded':
      return 'recorded';
    case 'in-bands': {
      const { steps, beyond } = criterion.bands;
      return [...steps.map(({ outcome }) => outcome), beyond].find((outcome) => !criterion.worst.includes(outcome)) ?? beyond;
    }
    default:
      return 'within';
  }
}

function hopedOfHold(criterion: Criterion): string {
  switch (criterion.kind) {
    case 'wait':
      return 'settled';
    case 'no-rise':
      return 'steady';
    case 'no-fall':
      return 'tight';
    case 'at-most':
      return criterion.bands?.steps.find(({ outcome }) => outcome === 'within') === undefined
        ? (criterion.bands?.beyond ?? 'within')
        : 'within';
    case 'keep':
      return 'kept';
    case 'dial':
      return 'still';
    case 'leak-rate':
      return criterion.bands[0]?.outcome ?? criterion.beyond;
  }
}

/** The phases to show: what was done, what is open, and what follows if all goes well. */
export function expectedCourse(plan: Plan, judgement: Judgement): readonly Phase[] {
  const outcomes = new Map<string, string>();
  const shown: Phase[] = [];
  // Undecided, the way to a pass is shown; decided, the way that was.
  const says = judgement.provisional === 'in progress' ? 'pass' : saysSoFar(judgement.provisional);
  for (const phase of plan.phases) {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state === undefined || (state.state === 'skipped' && state.startAt === undefined)) continue;
    const ahead = state.state === 'waiting';
    const fits = whenHolds(phase.when, (condition) => {
      if ('signal' in condition || 'begunBefore' in condition) return false;
      if ('conclusion' in condition) return condition.conclusion === says;
      return condition.outcome.includes(outcomes.get(condition.phase) ?? '');
    });
    if (ahead && !fits) continue;
    shown.push(phase);
    outcomes.set(phase.id, state.state === 'done' ? (state.outcome ?? '') : hoped(phase));
  }
  return shown;
}

/**
 * A procedure's tasks with the waiting that a plan takes when all goes well: where its holds are longer than usual, as by a
 * house rule, every wait grows by the same share; never shorter than the procedure reckons.
 */
export function plannedTasks(tasks: readonly Task[], plan: Plan): readonly Task[] {
  const seconds = expectedCourse(plan, judge(plan, [])).reduce((sum, phase) => sum + (phase.kind === 'hold' ? phase.seconds : 0), 0);
  const usual = tasks.reduce((sum, { passiveMinutes }) => sum + passiveMinutes, 0);
  const factor = usual === 0 ? 1 : Math.max(1, seconds / 60 / usual);
  return tasks.map((task) => ({ ...task, passiveMinutes: Math.ceil(task.passiveMinutes * factor) }));
}
