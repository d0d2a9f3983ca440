import { judge } from '../judging/judge';
import { planTest } from '../planning/plan';
import { exampleEvents, exampleFor, examplePlan } from '../simulation/examples.fixture';
import { procedures } from '.';

/* What a good technician would conclude from each simulated fault: every procedure has its table. Traps are marked. */

describe.each(procedures.map(({ id, plant, faults }) => [id, plant, faults] as const))('%s', (id, { scenarios }, table) => {
  const plan = examplePlan(id);

  test.each(table.map(([fault, verdict, code]) => [fault, verdict, code] as const))('%s: %s (%s)', (fault, verdict, code) => {
    for (let seed = 1; seed <= 5; seed += 1) {
      const judgement = judge(plan, exampleEvents(plan, fault, seed));
      // Where a fault lies at the edge of what the weather lets anyone tell, either answer is right, and neither is a pass.
      expect(verdict.split(' or ')).toContain(judgement.verdict);
      expect(judgement.reasons.map((reason) => reason.code).filter((one) => code.split(' or ').includes(one))).not.toEqual([]);
    }
  });

  test('its table has every fault that the plant knows, and a trap that no pass comes of', () => {
    const faults = table.map(([fault]) => fault);
    expect([...faults].sort()).toEqual(scenarios.map((scenario) => scenario.id).sort());
    const traps = table.filter(([, , , trap]) => trap === 'trap');
    expect(traps.length).toBeGreaterThan(0);
    for (const [, verdict] of traps) expect(verdict).not.toMatch(/^pass/);
  });

  test('read on a gauge too coarse for it, even a sound one is no pass', () => {
    const { gauge } = exampleFor(id);
    if (plan.conclusions.every(({ verdict }) => verdict !== 'pass')) return;
    const planned = planTest(exampleFor(id, { gauge: { ...gauge, readability: String(Number(gauge.rangeHigh ?? '1') / 5) } }));
    if (planned.ok) expect(judge(planned.value.plan, exampleEvents(planned.value.plan, 'sound')).verdict).not.toMatch(/^pass/);
    else expect(planned.problems.length).toBeGreaterThan(0);
  });
});
