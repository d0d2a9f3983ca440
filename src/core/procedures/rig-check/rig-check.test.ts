import { judge } from '../../judging/judge';
import { LogBuilder } from '../../judging/log-builder.fixture';
import { rigResult } from '../../judging/rig-result';
import { planTest } from '../../planning/plan';
import { exampleEvents, exampleFor, examplePlan } from '../../simulation/examples.fixture';
import { holdOf } from '../../simulation/of-plan.fixture';
import type { Instrument } from '../../sizing/gauge';
import { adviceText } from '../procedure';

const id = 'rig-check';
const fan: Instrument = {
  id: 'fan-1',
  name: 'Fan',
  kind: 'digital',
  unit: 'CFM',
  readability: '0.1',
  rangeLow: '1',
  rangeHigh: '60',
  serial: 'F-1',
  simulated: false,
  calibration: { needed: false },
};
const pascal = { ...exampleFor(id).gauge, unit: 'Pa' as const, readability: '0.1', rangeHigh: '500' };
const adviceOf = (rigCheck: Instrument['rigCheck'], procedure = 'gas-piping-psi') => {
  const input = exampleFor(procedure);
  const planned = planTest({ ...input, gauge: { ...input.gauge, ...(rigCheck === undefined ? {} : { rigCheck }) } });
  return planned.ok ? planned.value.advice.map(adviceText).filter((one) => one.includes('rig')) : planned.problems;
};

describe('rig check (DOMAIN 5.18)', () => {
  test('3 min at the pressure of the test to come, in the unit of the gauge; one step is a movement', () => {
    expect(holdOf(id, { answers: { pressure: '3 psi' } })).toMatchObject({
      seconds: 180,
      band: { low: '3', high: '3.15' },
      limit: { kind: 'no-fall', threshold: '0.05' },
    });
    expect(holdOf(id, { answers: { pressure: '1 bar' } }).band.low).toBe('14.50');
    // What the test to come calls perceptible, never finer than the gauge shows; a gauge coarser than that proves nothing.
    expect(holdOf(id, { answers: { threshold: '0.1 psi' } }).limit).toMatchObject({ threshold: '0.1' });
    expect(holdOf(id, { answers: { threshold: '0.01 psi' } }).limit).toMatchObject({ threshold: '0.05' });
    const coarse = examplePlan(id, { answers: { threshold: '0.01 psi' } });
    expect(judge(coarse, exampleEvents(coarse, 'sound')).verdict).toBe('inconclusive');
  });

  test.each([
    ['sound', 'holds'],
    ['hose', 'does not hold'],
  ])('%s: its rig %s, at what it was raised to, dated', (fault, what) => {
    const plan = examplePlan(id);
    const events = exampleEvents(plan, fault);
    expect(rigResult(plan, judge(plan, events), events)).toEqual({
      instrument: plan.gauge.id,
      found: { on: '2026-01-05', what, value: expect.stringMatching(/^3\.[01]\d$/), unit: 'psi' },
    });
  });

  test('what proved nothing, or is not over, says nothing of the rig; no other test does', () => {
    const plan = examplePlan(id);
    for (const fault of ['cap', 'unzeroed']) {
      const events = exampleEvents(plan, fault);
      expect(rigResult(plan, judge(plan, events), events)).toBeUndefined();
    }
    const events = exampleEvents(plan, 'sound').slice(0, -1);
    expect(rigResult(plan, judge(plan, events), events)).toBeUndefined();
    const other = examplePlan('gas-piping-psi');
    const passed = exampleEvents(other, 'sound');
    expect(rigResult(other, judge(other, passed), passed)).toBeUndefined();
  });

  const measured = (pa: string, flow: string, shown = 'flow') => {
    const plan = examplePlan(id, {
      answers: { kind: 'fan', 'fan-pressure': `${pa} Pa` },
      gauge: { ...pascal, calibration: { needed: false } },
      instruments: { flow: fan },
    });
    const log = new LogBuilder(plan)
      .at(0)
      .tick('prepare')
      .read('zero', 'zero', '0.0', { unit: 'Pa' })
      .figure('fan', 'point', 'pressure', pa, 'Pa', { point: 'fan' })
      .figure('fan', 'point', 'flow', flow, 'CFM', { point: 'fan' })
      .observe('shown', shown)
      .tick(shown === 'flow' ? 'restore' : 'make-safe');
    return rigResult(plan, judge(plan, log.events), log.events);
  };

  test('a fan’s own leakage is brought back to 25 Pa by the exponent 0.6, rounded up', () => {
    // 3.0 CFM at 100 Pa: 3 · 0.25^0.6 = 1.306.
    expect(measured('100.0', '3.0')).toMatchObject({ instrument: 'fan-1', found: { what: 'leaks', value: '1.4', unit: 'CFM' } });
    expect(measured('25.0', '1.2')).toMatchObject({ found: { value: '1.2' } });
    expect(measured('25.0', '1.0', 'nothing')).toBeUndefined();
  });

  test('plans that use the rig know: held, held lower, not held; without a check nothing is said', () => {
    const at = (value: string, what: 'holds' | 'does not hold' = 'holds') => ({ on: '2026-01-02', what, value, unit: 'psi' as const });
    expect(adviceOf(undefined)).toEqual([]);
    expect(adviceOf(at('10.00'))).toEqual([expect.stringMatching(/held 10\.00 psi on 2026-01-02.*soaped in the test all the same/)]);
    expect(adviceOf(at('1.00'))).toEqual([expect.stringMatching(/below the .* psi of this test: check it again/)]);
    expect(adviceOf(at('10.00', 'does not hold'))).toEqual([expect.stringMatching(/did not hold .*: mend it/)]);
  });

  test('it is frozen into the plan; ducts take the fan’s own check before what is answered', () => {
    const input = exampleFor('duct-tightness');
    const flow = input.instruments?.flow as Instrument;
    const rigCheck = { on: '2026-01-02', what: 'leaks', value: '2.5', unit: 'CFM' } as const;
    const planned = planTest({ ...input, instruments: { flow: { ...flow, rigCheck } } });
    if (!planned.ok) throw new Error('not planned');
    const { plan } = planned.value;
    expect(plan.instruments?.flow.rigCheck).toEqual(rigCheck);
    expect(plan.phases.find(({ id: phase }) => phase === 'points')).toMatchObject({ limit: { baseline: '2.50' } });
    expect(plan.derivation.join(' ')).toContain('2.50 CFM, measured on 2026-01-02');
    expect(plan.hash).not.toBe(examplePlan('duct-tightness').hash);
  });
});
