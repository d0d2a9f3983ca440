import type { PlantAct } from '../plants/plant';
import { procedures } from '../procedures';
import { toSi } from '../quantities';
import { examplePlan } from './examples.fixture';
import { plantModel, scenarioFor, scenariosFor } from './plants';

/* The three newer plants as worlds of their own: what moves their instruments, and what does not. */

const hour = 3_600_000;
const raised = (plan: { readonly unit: 'psi' | 'Pa' }, value: number, atMs = 0): PlantAct => ({
  atMs,
  action: 'raise',
  to: toSi(value, plan.unit),
});

describe('piping under air', () => {
  const plan = examplePlan('gas-piping-psi');
  const track = (scenario: string, acts: readonly PlantAct[]) => plantModel(plan).track(plan, scenario, 3, acts);
  const zeroed: PlantAct = { atMs: 0, action: 'zero' };
  const up = raised({ unit: 'psi' }, 3.25, 1000);

  test('sound piping stands still for an hour; each gauge shows it in its own steps', () => {
    const sound = track('sound', [zeroed, up]);
    expect(sound.shownAt(hour)).toBe('3.25');
    expect(sound.shownAt(hour, 'fine')).toMatch(/^3\.2[45]$/);
    expect(sound.measuredAt(hour, plan.phases[0] as never, 'flow')).toBeUndefined();
  });
  test('a leak drops what it is made for: 2.4 steps of 0.05 psi in the hold of 900 s', () => {
    const leaking = track('pipework-leak', [zeroed, up]);
    const fall = 3.25 - Number(leaking.shownAt(1000 + 900_000));
    expect(fall).toBeGreaterThan(0.099);
    expect(fall).toBeLessThan(0.2);
  });
  test('a leak beyond the stops shows only once they are open', () => {
    const shut = track('control-leak', [zeroed, { atMs: 500, action: 'isolate' }, up]);
    expect(shut.shownAt(hour)).toBe('3.25');
    const open = track('control-leak', [zeroed, { atMs: 500, action: 'isolate' }, up, { atMs: 2000, action: 'reconnect' }]);
    expect(Number(open.shownAt(hour))).toBeLessThan(3.25);
  });
  test('what warming hides in the gauge the pipe’s thermometer tells; the weather moves the barometer', () => {
    const warming = track('hidden-by-warming', [zeroed, up]);
    expect(Math.abs(3.25 - Number(warming.shownAt(1_801_000)))).toBeLessThan(0.051);
    expect(warming.temperatureAt(1_800_000) - warming.temperatureAt(0)).toBeGreaterThan(1);
    const weather = track('weather', [zeroed, up]);
    expect(weather.barometerAt(hour)).toBeLessThan(weather.barometerAt(0));
    expect(track('sound', [zeroed, up]).barometerAt(hour)).toBeCloseTo(1013.25, 6);
  });
});

describe('a water main', () => {
  const plan = examplePlan('water-main-make-up');
  const track = (scenario: string, acts: readonly PlantAct[]) => plantModel(plan).track(plan, scenario, 3, acts);
  const up = raised({ unit: 'psi' }, 200);
  const psi = (scenario: string, ms: number) => Number(track(scenario, [up]).shownAt(ms));

  test('it falls as it leaks, the leaking one faster, and its air hides more than half of that', () => {
    const [sound, leaking, aerated] = ['sound', 'leak', 'trapped-air'].map((scenario) => 200 - psi(scenario, hour / 2));
    expect(sound).toBeGreaterThan(2);
    expect(leaking).toBeGreaterThan(4 * sound);
    expect(aerated).toBeLessThan(leaking / 2);
  });
  test('pumping back takes what was lost, whatever the air did to the gauge', () => {
    const made = (scenario: string) => {
      const pumped = track(scenario, [up, raised({ unit: 'psi' }, 200, hour)]);
      return Number(pumped.measuredAt(hour + 1000, { id: 'drawn', label: '' }, 'volume'));
    };
    // Six times the sound main's leak, less what a lower pressure leaks less.
    expect(made('leak')).toBeGreaterThan(3 * made('sound'));
    expect(made('trapped-air') / made('leak')).toBeGreaterThan(0.9);
  });
  test('an open end never comes up; before anything is pumped there is no pressure', () => {
    expect(psi('open-end', 1000)).toBeLessThan(30);
    expect(track('sound', []).shownAt(hour)).toBe('0');
    expect(track('unzeroed', []).shownAt(hour)).not.toBe('0');
  });
  test('asked in any order it answers the same', () => {
    const inOrder = track('leak', [up]);
    const forward = [60_000, 600_000, hour].map((ms) => inOrder.shownAt(ms));
    const back = track('leak', [up]);
    expect([hour, 600_000, 60_000].map((ms) => back.shownAt(ms)).reverse()).toEqual(forward);
  });
});

describe('ducts', () => {
  const plan = examplePlan('duct-tightness');
  const phase = plan.phases.find(({ id }) => id === 'points');
  if (phase?.kind !== 'measure') throw new Error('no points');
  const [reference, half] = phase.points;
  const read = (scenario: string, seed = 3) => {
    const track = plantModel(plan).track(plan, scenario, seed, []);
    const at = (point: typeof reference) => ({
      pa: Number(track.measuredAt(0, point, 'pressure')),
      flow: track.measuredAt(0, point, 'flow'),
    });
    return { full: at(reference), half: at(half) };
  };
  const ratio = (scenario: string) => {
    const { full, half: low } = read(scenario);
    return Math.log(Number(full.flow) / Number(low.flow)) / Math.log(full.pa / low.pa);
  };

  test('pressures come near their aim, and the flow grows as the exponent says', () => {
    for (let seed = 1; seed <= 20; seed += 1) expect(Math.abs(read('sound', seed).full.pa - 25)).toBeLessThan(0.6);
    expect(ratio('sound')).toBeCloseTo(0.62, 1);
    expect(ratio('hose-off')).toBeLessThan(0.4);
    expect(ratio('taped-register')).toBeGreaterThan(1.2);
  });
  test('the fan carries the rig’s own leakage too, and shows nothing under its ring’s range', () => {
    expect(Number(read('sound').full.flow)).toBeCloseTo(0.6 * 16 + 1.2, 0);
    expect(read('below-range').full.flow).toBeUndefined();
  });
});

test('each plant knows its faults by name, and no other’s', () => {
  expect(scenarioFor({ procedure: { id: 'duct-tightness' } }, 'hose-off')?.label).toContain('hose');
  expect(scenarioFor({ procedure: { id: 'water-main-make-up' } }, 'hose-off')).toBeUndefined();
  expect(scenarioFor({ procedure: { id: 'domestic-gas-millibar' } }, 'let-by')).toBeDefined();
  expect(() => plantModel({ procedure: { id: 'guess' } })).toThrow(RangeError);
  for (const procedure of procedures) {
    const ids = scenariosFor({ procedure }).map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids[0]).toBe('sound');
  }
});
