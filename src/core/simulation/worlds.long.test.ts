import fc from 'fast-check';
import { fallForLoss } from '../physics/water-stiffness';
import type { Plan } from '../planning/plan';
import { HydraulicTrack, leakOver, softnessAt, soundWater } from '../plants/hydraulic-plant';
import type { PlantAct, PlantTrack } from '../plants/plant';
import { procedures } from '../procedures';
import { toSi, type Unit } from '../quantities';
import { examplePlan } from './examples.fixture';
import { plantModel, scenariosFor } from './plants';
import { actOf } from './simulated-gauge';

/* Plants as worlds of their own: what moves their instruments, and what does not. */

const act = (atS: number, action: PlantAct['action'], value?: number, unit: Unit = 'bar'): PlantAct => ({
  atMs: atS * 1000,
  action,
  ...(value === undefined ? {} : { to: toSi(value, unit) }),
});
const trackOf = (plan: Plan, scenario: string, acts: readonly PlantAct[], seed = 3): PlantTrack =>
  plantModel(plan).track(plan, scenario, seed, acts);
const at = (track: PlantTrack, seconds: number, role?: string): number => Number(track.shownAt(seconds * 1000, role));

describe.each(procedures.map(({ id }) => id))('the plant of %s', (id) => {
  const plan = examplePlan(id);
  const unit = plan.unit;
  const acts: readonly PlantAct[] = [
    act(0, 'zero'),
    act(5, 'feed'),
    act(40, 'raise', Number(plan.highest) * 0.8, unit),
    act(900, 'isolate'),
    act(901, 'raise', Number(plan.highest) * 0.5, unit),
    act(1500, 'reconnect'),
  ];
  const times = [1, 39, 60, 400, 899, 950, 1499, 1600, 2400];

  test('is a function of time, whatever the order of asking', () => {
    for (const { id: scenario } of scenariosFor(plan)) {
      const forward = trackOf(plan, scenario, acts);
      const inOrder = times.map((time) => at(forward, time));
      const back = trackOf(plan, scenario, acts);
      expect(
        [...times]
          .reverse()
          .map((time) => at(back, time))
          .reverse(),
      ).toEqual(inOrder);
      const anew = times.map((time) => at(trackOf(plan, scenario, acts), time));
      expect(anew).toEqual(inOrder);
    }
  });

  test('an act that is written down later changes only what comes after it', () => {
    for (const { id: scenario } of scenariosFor(plan)) {
      const written: PlantAct[] = acts.slice(0, 3);
      const live = trackOf(plan, scenario, written);
      const before = times.filter((time) => time < 900).map((time) => at(live, time));
      // Asked ahead of time, as somebody does who looks whether it will settle.
      at(live, 2000);
      written.push(...acts.slice(3));
      const whole = trackOf(plan, scenario, acts);
      expect(times.map((time) => at(live, time))).toEqual(times.map((time) => at(whole, time)));
      expect(times.filter((time) => time < 900).map((time) => at(live, time))).toEqual(before);
    }
  });

  test('the same seed shows the same; temperatures and barometer are plausible', () => {
    for (const { id: scenario } of scenariosFor(plan)) {
      const [one, other] = [trackOf(plan, scenario, acts, 9), trackOf(plan, scenario, acts, 9)];
      for (const time of times) {
        expect(one.shownAt(time * 1000)).toBe(other.shownAt(time * 1000));
        expect(Math.abs(one.temperatureAt(time * 1000))).toBeLessThan(60);
        expect(Math.abs(one.barometerAt(time * 1000) - 1013)).toBeLessThan(40);
      }
    }
  });
});

describe('pipes full of water', () => {
  const plan = examplePlan('heating-hydraulic', { answers: { pipe: 'copper' } });
  const sound = { ...soundWater(plan), volumeM3: 0.1, airAtAtmosphere: 0, softness: 1 / 1.522e9, leakAtPa: 3e5 };
  const track = (change: Partial<typeof sound>, acts: readonly PlantAct[]) => new HydraulicTrack({ ...sound, ...change }, plan, acts);
  const up = [act(0, 'raise', 3)];
  const pa = (one: PlantTrack, seconds: number) => at(one, seconds) * 1e5;

  test('a loss of 10 mL from 100 L of copper is a fall of 1.5 bar (DOMAIN 3.7)', () => {
    const fall = fallForLoss(1e-5, 0.1, 1.522e9);
    expect(fall.ok && fall.value / 1e5).toBeCloseTo(1.52, 2);
    // 10 mL an hour at 3 bar, for ten minutes: 1.67 mL, 0.25 bar.
    const leaking = track({ leakM3s: 1e-5 / 3600 }, up);
    expect(pa(leaking, 0) - pa(leaking, 600)).toBeCloseTo(0.25e5, -4);
  });
  test('trapped air and soft walls make the same leak a smaller fall', () => {
    const fall = (change: Partial<typeof sound>) => {
      const one = track({ leakM3s: 1e-5 / 3600, ...change }, up);
      return pa(one, 0) - pa(one, 3600);
    };
    expect(fall({ airAtAtmosphere: 0.01 })).toBeLessThan(fall({}) / 5);
    expect(fall({ softness: 1 / 95.6e6 })).toBeLessThan(fall({}) / 10);
    expect(softnessAt({ ...sound, airAtAtmosphere: 0.01 }, 3e5)).toBeGreaterThan(softnessAt({ ...sound, airAtAtmosphere: 0.01 }, 9e5));
  });
  test('a fault that is measured by its fall falls so', () => {
    const leakM3s = leakOver(sound, 20_000, 900);
    const one = track({ leakM3s }, up);
    expect(pa(one, 0) - pa(one, 900)).toBeCloseTo(20_000, -4);
  });
  test('soft pipe gives up its share, is raised again, and then hardly moves', () => {
    const relaxing = { relaxes: 0.05, relaxS: 45 };
    const first = track(relaxing, up);
    expect(pa(first, 600)).toBeCloseTo(3e5 / 1.05, -4);
    const again = track(relaxing, [...up, act(600, 'raise', 3)]);
    expect(3e5 - pa(again, 1200)).toBeLessThan(1500);
  });
  test('a valve that passes lifts it to the supply’s pressure, and balances a leak below that', () => {
    const fed = { supplyPa: 4e5, letByM3s: 3e-8 };
    expect(pa(track(fed, up), 7200)).toBeGreaterThan(3.9e5);
    const both = track({ ...fed, leakM3s: 1e-8 }, up);
    const balance = pa(both, 7200);
    expect(Math.abs(pa(both, 14_400) - balance)).toBeLessThan(3000);
    expect(balance).toBeGreaterThan(3e5);
    expect(balance).toBeLessThan(4e5);
  });
  test('water is drawn once, and only after nothing was raised for that long', () => {
    const drawn = { drawn: { afterS: 400, pa: 60_000 } };
    const quiet = track(drawn, up);
    expect(pa(quiet, 399)).toBeCloseTo(3e5, -4);
    expect(pa(quiet, 401)).toBeCloseTo(2.4e5, -4);
    expect(pa(quiet, 2000)).toBeCloseTo(2.4e5, -4);
    const busy = track(drawn, [...up, act(300, 'raise', 3)]);
    expect(pa(busy, 690)).toBeCloseTo(3e5, -4);
  });
  test('steps keep a plug in that one stride fires', () => {
    const plug = { firesAbovePa: 45_000 };
    const steps = [0.4, 0.8, 1.2].map((bar, index) => act(index * 10, 'raise', bar));
    expect(pa(track(plug, steps), 60)).toBeCloseTo(1.2e5, -4);
    const stride = track(plug, [act(0, 'raise', 1.2), act(30, 'raise', 0.3)]);
    expect([pa(stride, 10), pa(stride, 60)]).toEqual([0, 0]);
  });
  test('the water that a rise takes is that of water, wall and air', () => {
    const litres = (airAtAtmosphere: number) => {
      const one = track({ airAtAtmosphere }, [act(0, 'raise', 1.5), act(10, 'raise', 3)]);
      return Number(one.measuredAt(12_000, { id: 'high' }, 'volume'));
    };
    // 0.15 MPa over 1.522 GPa of 100 L: 9.9 mL; 1 % of air adds what its two pressures give.
    expect(litres(0)).toBeCloseTo(9.86, 0);
    expect(litres(0.01)).toBeCloseTo(9.86 + 1000 * 1.01325 * (1 / 2.51325 - 1 / 4.01325), 0);
  });
  test('warming moves it whichever way it goes; the thermometer says so', () => {
    const warm = track({ warmingPaS: 10, warmingKPerMin: 0.1 }, up);
    expect(pa(warm, 1000)).toBeCloseTo(3.1e5, -4);
    expect(warm.temperatureAt(600_000)).toBeCloseTo(13, 6);
  });
});

describe('gas behind a regulator', () => {
  const plan = examplePlan('meter-turn-on-inches');
  const track = (scenario: string, acts: readonly PlantAct[]) => trackOf(plan, scenario, acts);
  const fed = [act(0, 'zero'), act(10, 'feed')];
  test('open, it stands at lock-up; shut and bled it stays where it was left', () => {
    const shut = track('sound', [...fed, act(300, 'raise', 5, 'inH2O')]);
    expect([at(shut, 200), at(shut, 900)]).toEqual([7.5, 5]);
  });
  test('a regulator that creeps rises while it feeds, and not once it is shut', () => {
    const creeping = track('creep', [...fed, act(300, 'raise', 5, 'inH2O')]);
    expect(at(creeping, 190) - at(creeping, 10)).toBeCloseTo(0.45, 1);
    expect(at(creeping, 900)).toBe(5);
  });
  test('a stop that seeps lifts what was bled, up to lock-up and no further', () => {
    const seeping = track('inlet-seeps', [...fed, act(300, 'raise', 5, 'inH2O')]);
    expect(at(seeping, 480)).toBeGreaterThan(5.2);
    expect(at(seeping, 36_000)).toBeLessThanOrEqual(7.55);
  });
  test('the dial turns by what leaks while the supply is open: 3 L/h is 0.035 turn of ½ ft³ in ten minutes', () => {
    const leaking = track('large-leak', [...fed]);
    const turned = at(leaking, 610, 'dial') - at(leaking, 10, 'dial');
    expect(turned).toBeCloseTo((3 * Math.sqrt(18.68 / 20) * (600 / 3600)) / 14.1584, 1);
    expect(at(track('sound', fed), 610, 'dial')).toBe(0);
    const closed = track('large-leak', [...fed, act(20, 'raise', 7.5, 'inH2O')]);
    expect(at(closed, 900, 'dial')).toBe(at(closed, 20, 'dial'));
  });
  test('a cylinder that hides a leak holds it still at the pressure of the hold, and lifts it from zero', () => {
    const vehicle = examplePlan('propane-vehicle');
    const masked = trackOf(vehicle, 'masked-leak', [...fed, act(100, 'raise', 7.5, 'inH2O')]);
    expect(Math.abs(at(masked, 400) - 7.5)).toBeLessThan(0.1);
    const bled = trackOf(vehicle, 'masked-leak', [...fed, act(100, 'raise', 0, 'inH2O')]);
    expect(at(bled, 280)).toBeGreaterThan(0.1);
  });
  test('the flow at half load is read of the regulator, in steps of the gauge', () => {
    const vehicle = examplePlan('propane-vehicle');
    const point = { id: 'half-load', label: 'Half load' };
    expect(trackOf(vehicle, 'sound', fed).measuredAt(0, point, 'pressure')).toMatch(/^11\.0[05]?$/);
    expect(Number(trackOf(vehicle, 'starved', fed).measuredAt(0, point, 'pressure'))).toBeLessThan(10.5);
    expect(trackOf(examplePlan('gas-piping-psi'), 'sound', fed).measuredAt(0, point, 'flow')).toBeUndefined();
  });
});

describe('a drain behind a ball', () => {
  const plan = examplePlan('drain-level-hold');
  const filled: readonly PlantAct[] = [{ atMs: 0, action: 'raise', to: 0.2 }];
  const fall = (scenario: string, from: number, to: number) => {
    const track = trackOf(plan, scenario, filled);
    return at(track, from, 'rule') - at(track, to, 'rule');
  };
  test('a sound one wets in the first minutes and then stands', () => {
    expect(fall('wetting', 0, 300)).toBeGreaterThan(4);
    expect(fall('wetting', 600, 1800)).toBe(0);
    expect(fall('sound', 300, 1500)).toBe(0);
  });
  test('a leak and a passing ball fall as they are named, in millimetres in twenty minutes', () => {
    expect(fall('leak', 300, 1500)).toBe(4);
    expect(fall('slow-leak', 300, 1500)).toBe(2);
    expect(fall('passing-ball', 300, 1500)).toBe(5);
  });
  test('somebody’s water lifts the level once', () => {
    expect(fall('water-used', 690, 710)).toBeLessThan(-15);
    expect(fall('water-used', 800, 1400)).toBeGreaterThan(0);
  });
  test('the ball’s gauge lies open until the ball is blown up, which may not last', () => {
    const ball = { id: 'ball', label: 'Ball' };
    const soft = trackOf(plan, 'soft-ball', filled);
    expect(at(soft, 10)).toBe(0);
    expect([soft.measuredAt(0, ball, 'pressure'), Number(soft.measuredAt(1_800_000, ball, 'pressure')) < 40.5]).toEqual(['45', true]);
    expect(Number(trackOf(plan, 'ball-flat', filled).measuredAt(0, ball, 'pressure'))).toBe(27);
  });
});

describe('what is done to a plant is written in the plan’s unit, or with its own', () => {
  test.each([
    ['20.5', 'mbar', 2050],
    ['7.5 inH2O', 'psi', 1868.17],
    ['250 mm', 'psi', 0.25],
    ['3 parsec', 'bar', 300_000],
  ] as const)('%s where the plan speaks %s', (value, unit, si) => expect(actOf({ unit }, 5, 'raise', value).to).toBeCloseTo(si, 1));
  test('what is no raising has no figure', () => expect(actOf({ unit: 'bar' }, 5, 'feed', '1')).toEqual({ atMs: 5, action: 'feed' }));
  test('whatever the figure, the pressure it gives is its own in pascals', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), fc.constantFrom('psi', 'bar', 'mbar', 'inH2O' as const), (value, unit) => {
        const found = actOf({ unit }, 0, 'raise', String(value)).to ?? Number.NaN;
        return Math.abs(found - toSi(value, unit)) <= 1e-9 * Math.max(1, found);
      }),
    ));
});
