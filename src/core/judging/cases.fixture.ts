import type { Plan } from '../planning/plan';
import { demoGauge, planFor } from '../simulation/examples.fixture';
import type { RunEvent } from './events';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { heldSoFar, outcomeOf as outcome } from './state';

/** Plans and short ways of asking, shared by the judge's tests. */
export const tight = planFor({ answers: { work: 'new' } });
export const permitting = planFor({});
export const oneDecimal = planFor({ answers: { work: 'new' }, gauge: { ...demoGauge, readability: '0.1' } });

export const build = (plan: Plan) => new LogBuilder(plan);
export const upToHold = (plan: Plan) => build(plan).proved().settled();
export const codes = (plan: Plan, events: readonly RunEvent[]) => judge(plan, events).reasons.map(({ code }) => code as string);
export const said = (plan: Plan, log: LogBuilder) => judge(plan, log.events).provisional;
export const outcomeOf = (plan: Plan, events: readonly RunEvent[], phase: string) =>
  outcome(judge(plan, events).phases.find(({ id }) => id === phase));
export const heldOf = (plan: Plan, events: readonly RunEvent[], phase: string) =>
  heldSoFar(judge(plan, events).phases.find(({ id }) => id === phase));
