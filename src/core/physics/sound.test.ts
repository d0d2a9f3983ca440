import fc from 'fast-check';
import type { AbsolutePa, GaugePa } from '../quantities';
import type { Result } from '../quantities/result';
import { areaLimit, classLeakage, fitDuct, flowAt, impliedExponent } from './duct-flow';
import { endThrust } from './end-thrust';
import { gasLeakRate } from './gas-leak';
import { correctionDoubt, expectedGauge, temperatureSensitivity } from './gas-temperature';
import { holdTimeForLeak, smallestVisibleLeak, unmeasuredTemperaturePa } from './hold-sight';
import { mainAllowance } from './main-allowance';
import { measuredVolume } from './measured-volume';
import { refrigerants, saturation, strengthPressure } from './saturation';
import { levelLoss, openingArea, staticHead } from './static-head';
import { storedEnergy } from './stored-energy';
import { testDialFlow } from './test-dial';
import { trappedAir } from './trapped-air';
import { balancePressure, twoWaySlope } from './two-way-flow';
import { fallForLoss, filledStiffness, type WallMaterial, wallAndWater, wallMaterials, waterSensitivity } from './water-stiffness';

/** Any number at all, and often one that is near enough to be taken. */
const any = fc.oneof(
  fc.double(),
  fc.constantFrom(0, -0, 1, Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 1e308, 5e-324),
  fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
  fc.double({ min: 200, max: 400, noNaN: true }),
  fc.double({ min: 90_000, max: 400_000, noNaN: true }),
);
const materials = Object.keys(wallMaterials) as WallMaterial[];

/** Every formula, fed with numbers from a list. */
const formulas: Readonly<Record<string, (a: number, b: number, c: number, d: number, e: number, pick: number) => Result<unknown>>> = {
  gasLeakRate: (a, b, c, d, e) =>
    gasLeakRate({ volumeM3: a, startPa: b as AbsolutePa, endPa: c as AbsolutePa, seconds: d, startK: e, endK: e }),
  expectedGauge: (a, b, c, d, e) =>
    expectedGauge({ startGaugePa: a as GaugePa, startK: b, endK: c, startAtmospherePa: d as AbsolutePa, endAtmospherePa: e as AbsolutePa }),
  temperatureSensitivity: (a, b, c) => temperatureSensitivity(a as GaugePa, b as AbsolutePa, c),
  correctionDoubt: (a, b, c, d) => correctionDoubt({ absolutePa: a, kelvin: b, temperatureDoubtK: c, barometerDoubtPa: d }),
  smallestVisibleLeak: (a, b, c) => smallestVisibleLeak({ volumeM3: a, unseenPa: b, seconds: c }),
  holdTimeForLeak,
  unmeasuredTemperaturePa,
  measuredVolume,
  testDialFlow,
  flowAt: (a, b, c, d) => flowAt({ pa: a, flowM3s: b }, c, d),
  impliedExponent: (a, b, c, d, e) => impliedExponent({ pa: a, flowM3s: b }, { pa: c, flowM3s: d }, e, b / 100),
  fitDuct: (a, b, c, d, e) =>
    fitDuct(
      [
        { pa: a, flowM3s: b },
        { pa: c, flowM3s: d },
        { pa: b, flowM3s: a },
      ],
      e,
      0.1,
      1e-5,
    ),
  classLeakage: (a) => classLeakage('B', a),
  areaLimit,
  wallAndWater: (a, b, c, _d, _e, pick) =>
    wallAndWater({ material: materials[pick % materials.length], outsideM: a, wallM: b, aluminiumM: c }),
  filledStiffness: (a, b, c, d, _e, pick) =>
    filledStiffness({ material: materials[pick % materials.length], outsideM: a, wallM: b, airFraction: c, absolutePa: d }),
  fallForLoss,
  trappedAir: (a, b, c, d, e) =>
    trappedAir({ volumeM3: a, addedM3: b, lowAbsolutePa: c, highAbsolutePa: d, atmospherePa: e, wallAndWater: 1e-9 }),
  waterSensitivity: (a, _b, _c, _d, _e, pick) => waterSensitivity(materials[pick % materials.length], a),
  mainAllowance: (a, b, c) => mainAllowance({ material: 'iron', lengthM: a, diameterM: b, meanPa: c }),
  staticHead,
  openingArea,
  levelLoss,
  saturation: (a, _b, _c, _d, _e, pick) => saturation(refrigerants[pick % refrigerants.length], a),
  strengthPressure,
  storedEnergy,
  endThrust,
  twoWaySlope: (a, b, c, d, e) => twoWaySlope({ supplyPa: a, kIn: b, kOut: c }, d, e),
  balancePressure: (a, b, c) => balancePressure({ supplyPa: a, kIn: b, kOut: c }),
};

const allFinite = (value: unknown): boolean =>
  typeof value === 'number'
    ? Number.isFinite(value)
    : typeof value === 'object' && value !== null
      ? Object.values(value).every(allFinite)
      : true;

test.each(Object.entries(formulas))('%s never gives NaN, Infinity or an exception; a refusal says what is wrong', (_, formula) => {
  fc.assert(
    fc.property(any, any, any, any, any, fc.nat(), (a, b, c, d, e, pick) => {
      const result = formula(a, b, c, d, e, pick);
      return result.ok ? allFinite(result.value) : result.problem.code !== '' && result.problem.message.length > 10;
    }),
    { numRuns: 1000 },
  );
});
