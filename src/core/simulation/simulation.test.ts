import fc from 'fast-check';
import { canonical } from '../exact/canonical';
import { balancePressure } from '../physics/two-way-flow';
import { GasTrack, soundPlant } from '../plants/gas-plant';
import type { PlantAct } from '../plants/plant';
import { bellAt, randomAt, uuidAt } from '../plants/random';
import { scenarios } from '../procedures/domestic-gas-millibar/plant';
import { toSi } from '../quantities';
import { eventsFor, jobFor, planFor } from './examples.fixture';
import { simulateRun } from './technician';

const raised = (mbar: number): PlantAct[] => [
  { atMs: 0, action: 'zero' },
  { atMs: 1000, action: 'raise', to: mbar * 100 },
];
const sound = soundPlant(3, 14, { unit: 'mbar', readability: '0.01' });

describe('the plant (DOMAIN 3.13)', () => {
  test('a leak and a let-by bring any start to the pressure at which they balance', () => {
    const balance = balancePressure({ supplyPa: 2500, kIn: 2, kOut: 1.5 });
    expect(balance).toMatchObject({ ok: true, value: expect.closeTo(1600, 6) });
    // Conductances 2 : 1.5 as flows: let-by into an empty system is k_in·√25, the leak at 20 mbar is k_out·√20.
    const plant = { ...sound, volumeL: 5, letByLh: 2 * Math.sqrt(25), pipeworkLeakLh: 1.5 * Math.sqrt(20) };
    for (const start of [5, 24]) expect(new GasTrack(plant, raised(start)).pressureAt(3_600_000)).toBeCloseTo(16, 2);
  });

  test('a small leak falls as V·Δp = q·p_ref·t says', () => {
    const track = new GasTrack({ ...sound, pipeworkLeakLh: 0.5 }, raised(20));
    expect(20 - track.pressureAt(121_000)).toBeCloseTo((0.5 * 1013.25 * 120) / 3600 / 14, 1);
  });

  test('one kelvin of warming moves it by 3.6 mbar, lock-up caps raising, a sound plant stands still', () => {
    expect(new GasTrack({ ...sound, warmingKPerMin: 1 }, raised(20.5)).pressureAt(61_000) - 20.5).toBeCloseTo(3.59, 1);
    expect(new GasTrack(sound, raised(60)).pressureAt(2000)).toBe(25);
    expect(new GasTrack(sound, raised(20)).pressureAt(3_600_000)).toBe(20);
  });

  test('it is a function of time: asking in any order gives the same', () => {
    const plant = { ...sound, pipeworkLeakLh: 1 };
    const inOrder = new GasTrack(plant, raised(20));
    const expected = [5000, 60_000, 90_000].map((at) => inOrder.shownAt(at));
    const backwards = new GasTrack(plant, raised(20));
    expect([90_000, 60_000, 5000].map((at) => backwards.shownAt(at)).reverse()).toEqual(expected);
  });

  test('before anything is done it shows its zero error, after zeroing none', () => {
    const plant = scenarios.find(({ id }) => id === 'unzeroed')?.change(sound);
    if (plant === undefined) throw new Error('no scenario');
    expect(Number(new GasTrack(plant, []).shownAt(5000))).toBeCloseTo(0.6, 1);
    expect(Math.abs(Number(new GasTrack(plant, raised(20).slice(0, 1)).shownAt(5000)))).toBeLessThan(0.01);
  });

  test('a masked leak stands still at test pressure and rises at let-by pressure', () => {
    const plant = scenarios.find(({ id }) => id === 'masked-leak')?.change(sound);
    if (plant === undefined) throw new Error('no scenario');
    expect(Math.abs(new GasTrack(plant, raised(20.5)).pressureAt(121_000) - 20.5)).toBeLessThan(0.05);
    expect(new GasTrack(plant, raised(8.5)).pressureAt(61_000) - 8.5).toBeGreaterThan(0.5);
  });
});

describe('chance', () => {
  test('uniforms lie in [0, 1) and depend on seed and index; bells have deviation about 1', () => {
    fc.assert(fc.property(fc.integer(), fc.nat(), (seed, index) => randomAt(seed, index) >= 0 && randomAt(seed, index) < 1));
    const bells = Array.from({ length: 4000 }, (_, index) => bellAt(11, index));
    const mean = bells.reduce((sum, one) => sum + one, 0) / bells.length;
    const deviation = Math.sqrt(bells.reduce((sum, one) => sum + (one - mean) ** 2, 0) / bells.length);
    expect(Math.abs(mean)).toBeLessThan(0.06);
    expect(Math.abs(deviation - 1)).toBeLessThan(0.06);
  });
  test('ids have the form of a UUID and do not repeat', () => {
    const ids = Array.from({ length: 2000 }, (_, index) => uuidAt(5, index));
    expect(new Set(ids).size).toBe(2000);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});

test('the same job gives the same events; another seed gives others', () => {
  const plan = planFor({});
  expect(canonical(eventsFor(plan, 'small-leak', 5))).toBe(canonical(eventsFor(plan, 'small-leak', 5)));
  expect(canonical(eventsFor(plan, 'small-leak', 5))).not.toBe(canonical(eventsFor(plan, 'small-leak', 6)));
});

test('a smell before settling ends the job with the emergency call', () => {
  const plan = planFor({});
  const events = simulateRun(jobFor(plan, 'sound', 4, { smellBefore: 'settle' }));
  expect(events.some(({ type }) => type === 'smell')).toBe(true);
  expect(events.some((event) => event.type === 'check' && event.item === 'called' && event.text?.startsWith('REF-'))).toBe(true);
});

describe('the gauge shows its own unit and steps', () => {
  test.each([
    ['mbar', '0.01', /^20\.\d\d$/],
    ['mbar', '0.1', /^20\.\d$/],
    ['Pa', '1', /^20\d\d$/],
    ['kPa', '0.01', /^2\.0\d$/],
    ['inH2O', '0.05', /^8\.\d[05]$/],
  ] as const)('%s in steps of %s', (unit, readability, shape) => {
    const track = new GasTrack(soundPlant(3, 14, { unit, readability }), raised(20.5));
    expect(track.shownAt(60_000)).toMatch(shape);
    expect(Math.abs(toSi(Number(track.shownAt(60_000)), unit) - 2050)).toBeLessThan(toSi(Number(readability), unit) * 1.5);
  });

  test('zero has no sign', () => expect(new GasTrack(sound, raised(0).slice(0, 1)).shownAt(1)).not.toMatch(/^-0\.00$/));

  test('appliances that were isolated leak again once they are reconnected', () => {
    const plant = { ...sound, applianceLeakLh: 3 };
    const isolated: PlantAct[] = [...raised(20), { atMs: 2000, action: 'isolate' }, { atMs: 2000, action: 'raise', to: 2000 }];
    expect(new GasTrack(plant, isolated).pressureAt(120_000)).toBeCloseTo(20, 6);
    const again: PlantAct[] = [...isolated, { atMs: 120_000, action: 'reconnect' }];
    expect(new GasTrack(plant, again).pressureAt(240_000)).toBeLessThan(15);
  });
});
