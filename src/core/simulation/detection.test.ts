import { procedures } from '../procedures';
import { toSi } from '../quantities';
import { type Asked, caughtAt, curveOf, detect, detecting, noCurve, type Tally, tryLeak } from './detection';
import { examplePlan, planFor } from './examples.fixture';

/* The chance that a plan passes a leak, by its size (DOMAIN 3.14). */

const plan = planFor({});
const part = plan.sight[0];
if (part === undefined) throw new Error('no part');

test('small leaks pass more often than large ones, and of those above sure hardly any', () => {
  const found = detect({ plan, part, sizes: 9, runs: 30 });
  expect(found.sizes).toHaveLength(9);
  const passed = found.sizes.map((one) => one.passed);
  expect(passed[0]).toBeGreaterThan(10);
  expect(passed.at(-1)).toBe(0);
  expect(found.surelyCaught).toBeLessThanOrEqual(Number(part.sure));
  expect(found.sound.runs).toBe(30);
  expect(found).toMatchObject({ plan: plan.hash, part: 'the pipework', unit: 'L/h' });
});

test('the same plan gives the same curve, step by step', () => {
  const steps = [...detecting({ plan, part, sizes: 3, runs: 10 })];
  expect(steps.at(-1)).toBeCloseTo(1, 6);
  expect([...steps].sort((a, b) => a - b)).toEqual(steps);
  expect(detect({ plan, part, sizes: 3, runs: 10 })).toEqual(detect({ plan, part, sizes: 3, runs: 10 }));
});

test('what several workers tried comes to the same curve as one', () => {
  const tallyOf = (asked: Asked): Tally => {
    const steps = detecting(asked);
    for (let step = steps.next(); ; step = steps.next()) if (step.done === true) return step.value;
  };
  const tallies = [0, 1, 2].map((nth) => tallyOf({ plan, part, sizes: 3, runs: 10, share: { nth, of: 3 } }));
  expect(tallies.map(({ sound }) => sound.runs)).toEqual([4, 3, 3]);
  expect(curveOf(plan, part, tallies)).toEqual(detect({ plan, part, sizes: 3, runs: 10 }));
});

test('a plan that has no plant is refused rather than tried on a sound one', () => {
  const dye = examplePlan('pool-dye-static');
  expect(() => tryLeak(dye, part, 1e-6, 1)).toThrow('no plant');
});

test('every procedure that can pass has a curve, and a leak far above sure is caught in each; one that never passes says so', () => {
  for (const { id } of procedures) {
    const own = examplePlan(id);
    const first = own.sight[0];
    if (id === 'pool-dye-static') {
      expect(noCurve(own, first)).toContain('never passes');
      continue;
    }
    expect(noCurve(own, first)).toBeUndefined();
    if (first === undefined) continue;
    const verdicts = [1, 2, 3, 4].map((seed) => tryLeak(own, first, toSi(3 * Number(first.sure), first.unit), seed));
    expect(verdicts.filter((verdict) => verdict.startsWith('pass'))).toEqual([]);
  }
});

test('without a volume there is no size to draw against', () => {
  const unknown = examplePlan('water-isolation-hold', { pipes: '', statedVolume: 'unknown' });
  expect(noCurve(unknown, unknown.sight[0])).toContain('Nobody knows the volume');
});

test('sizes caught so often lie between those tried, and are named only where they do', () => {
  const sizes = [40, 30, 10, 0, 0].map((passed, index) => ({ leak: 2 ** index, runs: 40, passed }));
  expect(caughtAt(sizes, 0.5)).toBeCloseTo(2 * 2 ** 0.5, 6);
  expect(caughtAt(sizes, 0.75)).toBeCloseTo(4, 6);
  expect(caughtAt([{ leak: 1, runs: 10, passed: 9 }], 0.5)).toBeUndefined();
  expect(caughtAt([{ leak: 1, runs: 10, passed: 0 }], 0.5)).toBeUndefined();
});
