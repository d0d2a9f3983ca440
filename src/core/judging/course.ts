import type { Plan } from '../planning/plan';
import { type Criterion, type Phase, whenHolds } from '../procedures/phases';
import { isPass, type Judgement } from './judge';

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
      return phase.criterion.kind === 'recorded' ? 'recorded' : 'within';
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
      return 'within';
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
  const passing = judgement.provisional === 'in progress' || isPass(judgement.provisional);
  for (const phase of plan.phases) {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state === undefined || (state.state === 'skipped' && state.startAt === undefined)) continue;
    const ahead = state.state === 'waiting';
    const fits = whenHolds(phase.when, (condition) => {
      if ('signal' in condition || 'begunBefore' in condition) return false;
      if ('conclusion' in condition) return (condition.conclusion === 'pass') === passing;
      return condition.outcome.includes(outcomes.get(condition.phase) ?? '');
    });
    if (ahead && !fits) continue;
    shown.push(phase);
    outcomes.set(phase.id, state.state === 'done' ? (state.outcome ?? '') : hoped(phase));
  }
  return shown;
}
