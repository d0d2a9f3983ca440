/**
 * The core for whoever uses it: plan a test, ask what is to be done now, judge what was written down, say it in words, read a
 * record. Pure: no clock, no I/O, no chance. Its floors lie in folders, each importing only those below it.
 *
 * A plan is worked out from answers, pipes and a gauge; it holds every figure, and its hash names it.
 * ```ts
 * const procedure = procedureById('vehicle-water-air');
 * const planned = planTest(exampleInput(procedure, '2026-01-05'));
 * const { plan } = planned.value;
 * plan.procedure.title // → 'Vehicle water system, air'
 * plan.phases.map(({ id }) => id).slice(0, 4) // → ['prepare', 'blow-out', 'zero', 'hold']
 * ```
 *
 * What cannot be planned is refused beside its question, every problem at once.
 * ```ts
 * const input = exampleInput(procedureById('vehicle-water-air'), '2026-01-05');
 * const refused = planTest({ ...input, answers: { ...input.answers, air: 'oily' } });
 * refused.problems.map(({ code, field }) => `${code} at ${field}`) // → ['air-oily at air']
 * ```
 *
 * A log is a list of events. The same log gives the same judgement on any machine; nothing in it is a verdict yet.
 * ```ts
 * const { plan } = planTest(exampleInput(procedureById('vehicle-water-air'), '2026-01-05')).value;
 * const judgement = judge(plan, []);
 * judgement.verdict // → 'in progress'
 * present(plan, judgement, [], 0).do // → 'tick'
 * present(plan, judgement, [], 0).items[0].id // → 'heater'
 * ```
 *
 * A judgement holds codes and figures; `said` renders them, in the words of one catalogue.
 * ```ts
 * const { plan } = planTest(exampleInput(procedureById('pool-dye-static'), '2026-01-05')).value;
 * const stopped = judge(plan, [{ schema: 1, run: '00000000-0000-4000-8000-000000000001',
 *   id: '00000000-0000-4000-8000-000000000002', device: 'd', seq: 1, author: 'A', observedAt: 0, enteredAt: 0,
 *   offsetMinutes: 0, boot: 'b', mono: 0, position: 1, type: 'stopped', reason: 'Rain' }]);
 * stopped.provisional // → 'inconclusive'
 * said(plan, stopped).map(({ code }) => code) // → ['no-proof', 'stopped']
 * said(plan, stopped)[1].sentence // → 'The test was ended before it was complete: Rain'
 * ```
 *
 * A record is read against the published schema; what is let through makes nothing here throw.
 * ```ts
 * readRecord({ format: 'something else' }).ok // → false
 * readRecord({ format: 'something else' }).problem.message // → 'This is no Vast Stone record: the record has no version.'
 * ```
 */

export { catalogueVersion } from './judging/catalogue';
export type { RunEvent } from './judging/events';
export { type Judgement, judge, judgeVersion } from './judging/judge';
export { type Said, said } from './judging/render';
export { planText } from './library/plan-text';
export { exampleInput } from './planning/example-input';
export { type Plan, type PlanInput, type Planned, type PlanResult, planTest } from './planning/plan';
export { type Procedure, procedureById, procedures } from './procedures';
export { readRecord } from './record/read';
export type { TestRecord } from './record/record';
export { checkSeal, recordHash } from './record/seal';
export { type Present, present } from './running';
