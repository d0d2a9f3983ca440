import { fromSi, toSi, type Unit } from '../quantities';
import type { Result } from '../quantities/result';
import { areaLimit, classLeakage, fitDuct, flowAt, impliedExponent } from './duct-flow';
import { endThrust } from './end-thrust';
import { correctionDoubt } from './gas-temperature';
import { holdTimeForLeak, smallestVisibleLeak } from './hold-sight';
import { mainAllowance } from './main-allowance';
import { measuredVolume } from './measured-volume';
import { saturation, strengthPressure } from './saturation';
import { levelLoss, openingArea, staticHead } from './static-head';
import { storedEnergy } from './stored-energy';
import { testDialFlow } from './test-dial';
import { trappedAir } from './trapped-air';
import { balancePressure, twoWaySlope } from './two-way-flow';
import { fallForLoss, filledStiffness, wallAndWater, waterSensitivity } from './water-stiffness';

const value = <T>(result: Result<T>): T => {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};
const code = (result: Result<unknown>): string => (result.ok ? 'fine' : result.problem.code);
const air = 101_325;
const in_ = (result: Result<number>, unit: Unit): number => fromSi(value(result), unit);

describe('what a hold can see (3.3)', () => {
  test('60 L, 0.1 psi, 1 L/h: 24.5 min; 15 min there shows nothing under 1.63 L/h', () => {
    const unseenPa = toSi(0.1, 'psi');
    expect(in_(holdTimeForLeak(0.06, unseenPa, toSi(1, 'L/h')), 'min')).toBeCloseTo(24.5, 1);
    expect(in_(smallestVisibleLeak({ volumeM3: 0.06, unseenPa, seconds: 900 }), 'L/h')).toBeCloseTo(1.63, 2);
  });
});

test('measured volume (3.4): 0.6 L at a step of 20 mbar is 30.4 L', () => {
  expect(in_(measuredVolume(0.0006, 2000), 'L')).toBeCloseTo(30.4, 2);
});

test('test dial (3.5): ½ ft³, 0.02 turn in 10 min is 0.06 ft³/h, 1.70 L/h', () => {
  const flow = testDialFlow(toSi(0.5, 'ft3'), 0.02, 600);
  expect(in_(flow, 'ft3/h')).toBeCloseTo(0.06, 10);
  expect(in_(flow, 'L/h')).toBeCloseTo(1.7, 2);
});

describe('duct leakage (3.6)', () => {
  const cfm = (flow: number): number => toSi(flow, 'CFM');
  test('17.0 CFM at 155 Pa is 5.69 CFM25', () => {
    expect(in_(flowAt({ pa: 155, flowM3s: cfm(17) }, 25), 'CFM')).toBeCloseTo(5.69, 2);
  });
  test('half the pressure gives 0.660 of the flow at n = 0.6', () => {
    expect(value(flowAt({ pa: 25, flowM3s: 1 }, 12.5))).toBeCloseTo(0.66, 3);
  });
  test.each([
    [0.66, 'normal'],
    [Math.SQRT1_2, 'suspicious'],
    [0.7, 'suspicious'],
    [0.8, 'impossible'],
    [0.45, 'impossible'],
    [0.5, 'suspicious'],
  ])('a flow ratio of %d at half the pressure is %s', (ratio, verdict) => {
    const result = impliedExponent({ pa: 50, flowM3s: cfm(20) }, { pa: 25, flowM3s: cfm(20 * ratio) }, 0.1, cfm(0.1));
    expect(value(result).verdict).toBe(verdict);
  });
  test('0.5 and 1 themselves are possible, without any readability to help', () => {
    for (const n of [0.5, 1]) {
      const exact = impliedExponent({ pa: 50, flowM3s: 0.01 }, { pa: 25, flowM3s: 0.01 * 0.5 ** n }, 0, 0);
      expect(value(exact).verdict).toBe('suspicious');
    }
    expect(value(impliedExponent({ pa: 50, flowM3s: 0.01 }, { pa: 25, flowM3s: 0.01 * 0.5 ** 0.499 }, 0, 0)).verdict).toBe('impossible');
  });
  test('readability turns a bare impossible number into a suspicious one', () => {
    const coarse = impliedExponent({ pa: 50, flowM3s: cfm(4) }, { pa: 25, flowM3s: cfm(3) }, 1, cfm(1));
    expect(value(coarse).n).toBeLessThan(0.5);
    expect(value(coarse).verdict).toBe('suspicious');
  });
  test('a fit finds C, n and the flow again, and its interval holds the truth', () => {
    const points = [15, 20, 25, 35, 50].map((pa) => ({ pa, flowM3s: 0.002 * pa ** 0.63 }));
    const fit = value(fitDuct(points, 25, 0.1, cfm(0.1)));
    expect(fit.n).toBeCloseTo(0.63, 6);
    expect(fit.c).toBeCloseTo(0.002, 6);
    expect(fit.r2).toBeCloseTo(1, 9);
    expect(fit.low).toBeLessThan(0.002 * 25 ** 0.63);
    expect(fit.high).toBeGreaterThan(0.002 * 25 ** 0.63);
  });
  test('interval of a fit worked by hand: three points, one degree of freedom', () => {
    // ln p = 0, 1, 2 and ln Q = 0, 0.6, 1.3: n = 0.65, residuals 1/60, −1/30, 1/60; at ln p = 1 the mean stands.
    const points = [1, Math.E, Math.E ** 2].map((pa, index) => ({ pa, flowM3s: Math.exp([0, 0.6, 1.3][index]) }));
    const fit = value(fitDuct(points, Math.E, 0, 0));
    const reach = 12.706 * Math.sqrt((2 / 3600 + 4 / 3600) / 3);
    expect(fit.n).toBeCloseTo(0.65, 9);
    expect(Math.log(fit.high / fit.flowM3s)).toBeCloseTo(reach, 9);
    expect(Math.log(fit.flowM3s / fit.low)).toBeCloseTo(reach, 9);
  });
  test('limits: 400 ft² at 4 per 100 is 16 CFM25; class C at 400 Pa is 0.1474 L/s per m²', () => {
    expect(in_(areaLimit(cfm(4) / toSi(100, 'ft2'), toSi(400, 'ft2')), 'CFM')).toBeCloseTo(16, 9);
    expect(in_(classLeakage('C', 400), 'L/s')).toBeCloseTo(0.1474, 4);
  });
  test('points at one pressure say nothing of an exponent', () => {
    expect(code(impliedExponent({ pa: 25, flowM3s: 0.01 }, { pa: 25.1, flowM3s: 0.01 }, 0.1, 1e-5))).toBe('points-together');
    expect(
      code(
        fitDuct(
          [25, 25, 25.5].map((pa) => ({ pa, flowM3s: 0.01 })),
          25,
          0.1,
          1e-5,
        ),
      ),
    ).toBe('points-together');
  });
});

describe('water-filled pipe (3.7)', () => {
  const at5bar = air + 5e5;
  const copper = { material: 'copper', outsideM: 0.022, wallM: 0.0009, airFraction: 0, absolutePa: at5bar } as const;
  const pex = { material: 'PEX', outsideM: 0.016, wallM: 0.002, airFraction: 0, absolutePa: at5bar } as const;
  test.each([
    ['copper 22 × 0.9', copper, 1.522e9],
    ['PEX 16 × 2', pex, 95.6e6],
    ['PEX with 1 % air', { ...pex, airFraction: 0.01 }, 36.9e6],
    ['multilayer 16 × 2', { ...pex, material: 'multilayer' as const, aluminiumM: 0.0002 }, 0.73e9],
  ])('%s', (_, pipe, expected) => {
    expect(value(filledStiffness(pipe)) / expected).toBeCloseTo(1, 2);
  });
  test('10 mL from 100 L is 1.5 bar in copper, 0.04 bar in aerated PEX', () => {
    expect(in_(fallForLoss(1e-5, 0.1, value(filledStiffness(copper))), 'bar')).toBeCloseTo(1.5, 1);
    expect(in_(fallForLoss(1e-5, 0.1, value(filledStiffness({ ...pex, airFraction: 0.01 }))), 'bar')).toBeCloseTo(0.04, 2);
  });
  test('4 % of air at atmospheric pressure is 0.7 % at 5 bar', () => {
    expect((0.04 * air) / at5bar).toBeCloseTo(0.007, 3);
  });
  test('a compression test finds the air that was put in', () => {
    const soft = value(wallAndWater(copper));
    const [low, high] = [air + 1e5, air + 4e5];
    const addedM3 = 0.1 * ((high - low) * soft + 0.03 * air * (1 / low - 1 / high));
    const test = { volumeM3: 0.1, addedM3, lowAbsolutePa: low, highAbsolutePa: high, atmospherePa: air, wallAndWater: soft };
    expect(value(trappedAir(test))).toBeCloseTo(0.03, 9);
    expect(code(trappedAir({ ...test, addedM3: 0 }))).toBe('compression-impossible');
    expect(code(trappedAir({ ...test, highAbsolutePa: low }))).toBe('pressure-order');
  });
  test('a kelvin moves copper by (2.07e-4 − 3·17e-6)·K; soft pipe has no sign', () => {
    expect(value(waterSensitivity('copper', 1.522e9))).toBeCloseTo(1.56e-4 * 1.522e9, -3);
    for (const soft of ['PE', 'PEX', 'multilayer'] as const) expect(code(waterSensitivity(soft, 1e8))).toBe('no-sign');
  });
});

describe('water main (3.8)', () => {
  const main = { material: 'iron', lengthM: toSi(1320, 'ft'), diameterM: toSi(8, 'in'), meanPa: toSi(155, 'psi') } as const;
  test('1320 ft of 8 in at a mean of 155 psi: 0.888 US gal/h, 3.363 L/h', () => {
    expect(in_(mainAllowance(main), 'galUS/h')).toBeCloseTo(0.888, 3);
    expect(in_(mainAllowance(main), 'L/h')).toBeCloseTo(3.363, 3);
  });
  test('PE is refused by name', () => {
    expect(code(mainAllowance({ ...main, material: 'PE' }))).toBe('main-creeps');
  });
});

test('static head (3.9): a metre is 0.0979 bar, a foot 0.4328 psi; a riser loses 0.0707 L/h, two lose twice that', () => {
  expect(in_(staticHead(1), 'bar')).toBeCloseTo(0.0979, 4);
  // The last digit differs: 998.2 kg/m³ gives 0.43275, and 0.4328 only from the rounded 0.0979.
  expect(Math.abs(in_(staticHead(0.3048), 'psi') - 0.4328)).toBeLessThan(1e-4);
  const area = value(openingArea(0.1));
  expect(in_(levelLoss(area, 0.003, 1200), 'L/h')).toBeCloseTo(0.0707, 4);
  expect(in_(levelLoss(2 * area, 0.003, 1200), 'L/h')).toBeCloseTo(0.1414, 4);
});

describe('refrigerants (3.10)', () => {
  test.each([
    ['R134a', 25, 6.65],
    ['R290', 25, 9.52],
    ['R32', 25, 16.9],
    ['R410A', 25, 16.57],
    ['R407C', 25, 11.9],
    ['R717', 25, 10.03],
    ['R600a', 25, 3.51],
    ['R1234yf', 25, 6.83],
    ['R744', 20, 57.3],
  ] as const)('%s at %d °C is %d bar absolute', (name, celsius, bar) => {
    const found = value(saturation(name, celsius + 273.15));
    expect(Math.abs(found.absolutePa / 1e5 - bar)).toBeLessThan(bar > 50 ? 0.06 : 0.006);
    expect(found.estimate).toBe(false);
  });
  test('R407F at 32 °C is 15.6 bar by estimate, and says that it is one', () => {
    const found = value(saturation('R407F', 305.15));
    expect(found.absolutePa / 1e5).toBeCloseTo(15.6, 1);
    expect(found.estimate).toBe(true);
  });
  test('14.8 bar gauge asks for 16.3 bar of strength test', () => {
    expect(in_(strengthPressure(14.8e5, 1.1), 'bar')).toBeCloseTo(16.28, 2);
  });
  test('above the critical temperature there is none', () => {
    expect(code(saturation('R744', 305))).toBe('above-critical');
    expect(code(saturation('R744', 304.1282))).toBe('fine');
    expect(code(saturation('R404A', 345))).toBe('above-critical');
  });
});

test('stored energy and thrust (3.11)', () => {
  expect(value(storedEnergy(0.06, air + toSi(3, 'psi'), air)) / 1000).toBeCloseTo(0.95, 2);
  expect(value(storedEnergy(0.05, air + 16.3e5, air)) / 1000).toBeCloseTo(120, -1);
  expect(value(endThrust(toSi(20, 'psi'), toSi(2, 'in'))) / 280).toBeCloseTo(1, 2);
  expect(value(endThrust(toSi(200, 'psi'), toSi(8, 'in'))) / 1000).toBeCloseTo(44.7, 1);
  expect(code(storedEnergy(1, 90_000, air))).toBe('below-atmosphere');
});

test('two-way flow (3.13): supply 25 mbar and 2 : 1.5 balance at 16.0 mbar, where the gauge stands still', () => {
  expect(in_(balancePressure({ supplyPa: 2500, kIn: 2, kOut: 1.5 }), 'mbar')).toBeCloseTo(16, 9);
  expect(value(twoWaySlope({ supplyPa: 2500, kIn: 2e-9, kOut: 1.5e-9 }, 0.03, 1600))).toBeCloseTo(0, 9);
  expect(value(twoWaySlope({ supplyPa: 2500, kIn: 2e-9, kOut: 1.5e-9 }, 0.03, 900))).toBeGreaterThan(0);
});

test('the doubt of a correction: half a kelvin and half a hectopascal at 3 psi, worked by hand', () => {
  const absolutePa = air + toSi(3, 'psi');
  const doubt = value(correctionDoubt({ absolutePa, kelvin: 293.15, temperatureDoubtK: 0.5, barometerDoubtPa: 50 }));
  expect(doubt).toBeCloseTo(Math.sqrt(2 * ((absolutePa / 293.15 / 2) ** 2 + 2500)), 6);
});
