import { procedures } from '@/core/procedures';
import { examplePlan } from '@/core/simulation/examples.fixture';
import { groundOf, systemOf } from '@/device/ground.fixture';
import { asUsual, startOf, startOfPlan, usualStart } from './use-draft';

/* What a plan starts from: the system, its last test, or another's. */

const gas = procedures[0];
const system = { ...systemOf('gas', gas.id), answers: { meter: 'ultrasonic-6', stranger: 'x' }, pipes: '22cu 4', statedVolume: '12 L' };
const bare = groundOf([system]);
const gauge = { ...bare.instruments[0], simulated: false };
const kit = { ...bare, instruments: [gauge] };
const earlier = {
  test: 't',
  systemId: system.id,
  on: '2026-01-01',
  verdict: 'pass' as const,
  procedure: gas.id,
  answers: { meter: 'diaphragm-6', smell: 'no' },
  pipes: '15cu 2',
  statedVolume: '',
  gauge: gauge.id,
  instruments: { second: 'sold' },
};

test('with no test before: what is known of the system, as far as the procedure asks for it', () => {
  expect(usualStart(kit, system, gas)).toEqual({
    // The schedule tells the largest pipe; nothing else that sets a limit is presumed.
    answers: { meter: 'ultrasonic-6', pipe: '<=28', 'supply-end': 'valve' },
    from: { meter: 'register', pipe: 'schedule', 'supply-end': 'usual' },
    pipes: '22cu 4',
    statedVolume: '12 L',
    gaugeId: '',
    instrumentIds: {},
    thermometerId: '',
    barometerId: '',
    stricter: [],
    variantId: '',
  });
});

test('else as the last test of this system by this procedure; no other test counts', () => {
  const of = (change: Partial<typeof earlier>) => usualStart({ ...kit, earlier: [{ ...earlier, ...change }] }, system, gas);
  expect(of({})).toMatchObject({
    answers: { meter: 'diaphragm-6' },
    from: { meter: 'last test' },
    carriedOn: '2026-01-01',
    pipes: '15cu 2',
    gaugeId: gauge.id,
  });
  expect(of({ systemId: 'another' }).pipes).toBe('22cu 4');
  expect(of({ procedure: 'another' }).pipes).toBe('22cu 4');
});

test('practice on a simulated gauge, or one that is sold, is not taken to the next job', () => {
  const start = (simulated: boolean) => usualStart({ ...kit, instruments: [{ ...gauge, simulated }], earlier: [earlier] }, system, gas);
  expect(start(false)).toMatchObject({ gaugeId: gauge.id, instrumentIds: {} });
  expect(start(true)).toMatchObject({ gaugeId: '', instrumentIds: {} });
});

test.each(procedures.map(({ id }) => id))('%s: a plan that is copied starts with all that it was made from', (id) => {
  const plan = examplePlan(id);
  const start = startOfPlan(plan);
  expect(start).toMatchObject({ answers: plan.answers, pipes: plan.pipes.join('\n'), gaugeId: plan.gauge.id, variantId: '' });
  expect(Object.keys(start.instrumentIds)).toEqual(Object.keys(plan.instruments ?? {}));
  const procedure = procedures.find((one) => one.id === id) ?? gas;
  const filled = asUsual(procedure, { ...start, answers: {} });
  // Every question has an answer, and those that were given stand over the usual ones.
  expect(Object.keys(filled.answers)).toEqual(procedure.parameters.map((parameter) => parameter.id));
  expect(asUsual(procedure, start).answers).toMatchObject(plan.answers);
});

test('what was smelled at one test is asked afresh at the next, whichever plan it starts from', () => {
  expect(usualStart({ ...kit, earlier: [earlier] }, system, gas).answers.smell).toBeUndefined();
  expect(startOf(gas, earlier).answers.smell).toBeUndefined();
});

test('an earlier plan as a start keeps its own procedure of the firm', () => {
  expect(startOf(gas, earlier).variantId).toBe('');
  expect(startOf(gas, { ...earlier, variant: 'v' }).variantId).toBe('v');
});
