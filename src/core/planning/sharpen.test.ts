import { toSi } from '../quantities';
import { exampleFor, examplePlan, planInput } from '../simulation/examples.fixture';
import type { AnyInstrument } from '../sizing/gauge';
import { type PlanInput, planTest } from './plan';
import { changed, holdFor, waysToSharpen } from './sharpen';

/* What would sharpen a test, and the hold that a leak of concern asks for (DOMAIN 3.3). */

const calibration = { needed: true, last: '2026-01-01', due: '2027-01-01' } as const;
const clip: AnyInstrument = {
  id: 'clip',
  name: 'Clip',
  kind: 'digital',
  unit: 'C',
  readability: '0.1',
  rangeLow: '-40',
  rangeHigh: '90',
  serial: 'C-1',
  simulated: false,
  calibration,
};
const fine: AnyInstrument = { ...clip, id: 'fine', name: 'Fine gauge', unit: 'psi', readability: '0.01', rangeLow: '0', rangeHigh: '10' };

const planOf = (input: PlanInput) => {
  const made = planTest(input);
  if (!made.ok) throw new Error(made.problems.map(({ message }) => message).join(' '));
  return made.value.plan;
};
const ways = (input: PlanInput, van: readonly AnyInstrument[] = []) => waysToSharpen(input, planOf(input), van);

describe('ways to sharpen', () => {
  test('each names the figure that its own plan reaches, the best first, and all are better than what stands', () => {
    for (const input of [planInput({}), exampleFor('gas-piping-psi'), exampleFor('meter-turn-on-inches'), exampleFor('drain-level-hold')]) {
      const before = Number(planOf(input).sight[0]?.sure);
      const found = ways(input, [clip, fine]);
      expect(found.length).toBeGreaterThan(0);
      const reached = found.map(({ sure }) => Number(sure));
      expect([...reached].sort((a, b) => a - b)).toEqual(reached);
      for (const { change, sure, plan } of found) {
        expect(Number(sure)).toBeLessThan(before);
        expect(plan.sight[0]?.sure).toBe(sure);
        expect(planOf(changed(input, change)).hash).toBe(plan.hash);
      }
    }
  });
  test('a let-by is watched longer or parted, a pipe read, a gauge changed, a hold lengthened', () => {
    expect(ways(planInput({}), []).map(({ id }) => id)).toEqual(['plug', 'let-by', 'hold']);
    const piping = exampleFor('gas-piping-psi', { answers: { stages: 'first' } });
    expect(ways(piping, [clip, fine]).map(({ id }) => id)).toEqual(expect.arrayContaining(['thermometer', 'gauge', 'hold']));
    // What the firm has not got is named, and cannot be taken.
    expect(ways(piping, []).find(({ id }) => id === 'thermometer')).toMatchObject({ wanting: true });
    expect(ways(piping, [clip]).find(({ id }) => id === 'thermometer')).toMatchObject({ change: { weather: { thermometer: clip } } });
  });
  test('parted and capped, the valve’s watch is gone from the course, and so is what it may let by', () => {
    const plan = planOf(planInput({ answers: { 'supply-end': 'parted' } }));
    expect(plan.phases.some(({ id }) => id.startsWith('let-by'))).toBe(false);
    expect(plan.sight[0]?.terms.map(({ what }) => what)).toEqual(['limit', 'step', 'temperature']);
    expect(plan.boundaries.map(({ id }) => id)).toContain('parted');
  });
  test('a figure that a job takes stricter stands as the job’s, may never be looser, and plans again the same', () => {
    const stricter = [{ figure: 'let-by-seconds', value: '240', reference: 'a longer watch' }];
    const plan = planOf(planInput({ stricter }));
    expect(plan.figures.find(({ id }) => id === 'let-by-seconds')).toMatchObject({
      value: '240',
      procedureValue: '60',
      source: 'this job',
    });
    expect(planTest(planInput({ stricter: [{ figure: 'let-by-seconds', value: '30', reference: 'hurry' }] }))).toMatchObject({ ok: false });
    // Under a house rule that is stricter still, the house's stands.
    const houseRules = [{ procedure: 'domestic-gas-millibar', figure: 'let-by-seconds', value: '300', reference: 'House 1' }];
    expect(planOf(planInput({ stricter, houseRules })).figures.find(({ id }) => id === 'let-by-seconds')).toMatchObject({
      value: '300',
      source: 'house rule',
    });
  });
});

describe('a leak of concern', () => {
  const input = exampleFor('gas-piping-psi', { answers: { stages: 'first' } });
  const plan = planOf(input);
  const part = plan.sight[0];
  if (part === undefined) throw new Error('no part');
  test('asks for the shortest hold that is sure of it', () => {
    const leak = toSi(0.5, 'L/h');
    const found = holdFor(input, plan, part, leak);
    if (!found.ok) throw new Error(found.message);
    const taken = planOf(changed(input, found.change));
    expect(Number(taken.sight[0]?.sure)).toBeLessThanOrEqual(0.505);
    const shorter = planOf(changed(input, { answers: { asked: `${found.seconds / 60 - 1} min` } }));
    expect(Number(shorter.sight[0]?.sure)).toBeGreaterThan(0.5);
    expect(holdFor(input, taken, taken.sight[0] ?? part, leak)).toMatchObject({ ok: true, enough: true });
  });
  test('that no hold is sure of says what hides it', () => {
    const gas = planInput({});
    const own = planOf(gas);
    const found = holdFor(gas, own, own.sight[0] ?? part, toSi(0.01, 'L/h'));
    expect(found).toMatchObject({ ok: false, message: expect.stringContaining('watch it longer, or plug it') });
  });
  test('where nobody knows the volume, or no hold decides, that is said', () => {
    const unknown = planOf(exampleFor('water-isolation-hold', { pipes: '', statedVolume: 'unknown' }));
    expect(unknown.volume.how).toBe('unknown');
    const [seen] = unknown.sight;
    expect([seen?.alone, seen?.sure]).toEqual([undefined, undefined]);
    expect(seen && holdFor(exampleFor('water-isolation-hold'), unknown, seen, 1)).toMatchObject({
      ok: false,
      message: expect.stringContaining('volume'),
    });
    const ducts = examplePlan('duct-tightness');
    expect(ducts.sight[0] && holdFor(exampleFor('duct-tightness'), ducts, ducts.sight[0], 1)).toMatchObject({ ok: false });
    // Where limits and times go by the volume it must be known.
    expect(planTest(exampleFor('gas-piping-psi', { pipes: '', statedVolume: 'unknown' }))).toMatchObject({
      ok: false,
      problems: [{ code: 'volume-needed', field: 'volume' }],
    });
  });
});
