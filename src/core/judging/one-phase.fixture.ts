import type { Conclusion, Criterion, HoldPhase, Phase } from '../course/phases';
import type { Plan } from '../planning/plan';
import { holdPhase } from '../procedures/phase-shapes';
import { planFor } from '../simulation/examples.fixture';
import type { Instrument } from '../sizing/gauge';
import type { RunEvent } from './events';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { said } from './render';
import { heldSoFar, isSpoilt, outcomeOf, type PhaseJudgement } from './state';

/* Plans of one phase and nothing else, for tests of its criterion. */

export const base = planFor({ answers: { work: 'new' } });
export const instrument = (unit: Instrument['unit'], readability: string, rangeHigh = '1000'): Instrument => ({
  id: unit,
  name: unit,
  kind: 'digital',
  unit,
  readability,
  rangeLow: '0',
  rangeHigh,
  serial: 'T-2',
  calibration: { needed: false },
  simulated: false,
});

export function planOf(phases: readonly Phase[], change: Partial<Plan> = {}, conclusions: readonly Conclusion[] = []): Plan {
  return { ...base, phases, conclusions, boundaries: [], judgedBy: phases[0].id, ...change };
}

export const hold = (criterion: Criterion, change: Partial<HoldPhase> = {}): HoldPhase =>
  holdPhase({
    id: 'hold',
    title: 'Hold',
    say: '',
    purpose: 'tightness',
    band: { low: '0', high: '1000' },
    seconds: 600,
    limit: criterion,
    restartFrom: 'hold',
    ...change,
  });

/** A phase's state laid flat, for worked cases. */
export const flat = (state: PhaseJudgement) => ({
  ...heldSoFar(state),
  id: state.id,
  round: state.round,
  outcome: outcomeOf(state),
  spoilt: isSpoilt(state),
});

/** A judgement with its phases laid flat and its findings as they are read. */
export const judged = (plan: Plan, events: readonly RunEvent[]) => {
  const judgement = judge(plan, events);
  return { ...judgement, phases: judgement.phases.map(flat), reasons: said(plan, judgement) };
};

/** A hold read at both ends on the plan's gauge; what is written at its end comes before that is read. */
export function outcome(plan: Plan, start: string, end: string, more: (log: LogBuilder) => LogBuilder = (log) => log) {
  const log = more(new LogBuilder(plan).at(0).read('hold', 'start', start))
    .at(601)
    .read('hold', 'end', end);
  return judged(plan, log.events).phases.find(({ id }) => id === 'hold');
}
