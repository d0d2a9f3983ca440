import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { proved } from '@/core/library';
import { procedures } from '@/core/procedures';
import { cases, planOf } from './cases';
import { failedOf, leaking, passedOf, runOf, sound } from './prove';

/* The short form of the proof that every claim is kept; the long one is `npm run prove`. */

const runs = 40;
const known = new Map(proved.map((one) => [one.case, one]));

describe.each(cases.map((one) => [one.id, one] as const))('%s', (id, one) => {
  test('of leaks above what it is sure of one in twenty passes at most', () => {
    expect(passedOf(leaking(one, runs, 'sure'))).toBeLessThanOrEqual(runs / 20);
  });
  test('sound systems come to what Procedures says of them', () => {
    const row = known.get(id);
    expect(row?.plan).toBe(planOf(one).hash);
    const found = sound(one, runs);
    // Within four deviations of a share that was measured on many more.
    const near = (count: number, whole = 0) => {
      const share = whole / (row?.runs ?? 1);
      expect(Math.abs(count / runs - share)).toBeLessThanOrEqual(0.02 + 4 * Math.sqrt((share * (1 - share)) / runs));
    };
    near(passedOf(found), row?.soundPassed);
    near(failedOf(found), row?.soundFailed);
  });
});

test('the long form held: at most one in twenty over sure passed, in every case, of 400 and more', () => {
  expect(proved.map((row) => row.case)).toEqual(cases.map(({ id }) => id));
  for (const row of proved) {
    expect(row.runs).toBeGreaterThanOrEqual(400);
    expect(row.passedOverSure / row.runs).toBeLessThanOrEqual(0.05);
  }
});

test('the proof can fail: over the other figure, which promises less, leaks do pass', () => {
  const through = cases.filter((one) => passedOf(leaking(one, 20, 'alone')) > 0);
  expect(through.length).toBeGreaterThan(cases.length / 4);
});

test('every procedure that can pass has its case', () => {
  const passing = procedures.filter((procedure) =>
    planOf({ procedure: procedure.id }).conclusions.some(({ verdict }) => verdict === 'pass' || verdict === 'pass with permitted drop'),
  );
  const proven = new Set(cases.map(({ procedure }) => procedure));
  expect(passing.filter(({ id }) => !proven.has(id)).map(({ id }) => id)).toEqual([]);
});

test('it shares no code with the product’s plants and technician', () => {
  const files = readdirSync('proof').filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'));
  const imported = files.flatMap((file) =>
    [...readFileSync(join('proof', file), 'utf8').matchAll(/from '([^']+)'/g)].map(([, from]) => from),
  );
  expect(imported.filter((from) => /plants|simulation/.test(from))).toEqual([]);
  expect(imported.some((from) => from === '@/core/judging')).toBe(true);
});

test('the same seed makes the same run', () => {
  const [first, second] = [1, 1].map(() => runOf(cases[0], 7, 1e-7).events);
  expect(second).toEqual(first);
});
