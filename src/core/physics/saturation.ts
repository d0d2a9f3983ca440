import { bad, good, inRange, type Result, refuse } from '../quantities/result';

interface Fluid {
  readonly criticalK: number;
  readonly criticalPa: number;
  /** Coefficients of the saturation formula with their exponents. */
  readonly terms: readonly (readonly [coefficient: number, exponent: number])[];
  /** Molar mass, g/mol, for the blends. */
  readonly molarMass?: number;
}

/** Coefficients by fluid (DOMAIN 3.10); blends with a row of their own give the bubble pressure. */
const fluids = {
  R134a: {
    criticalK: 374.21,
    criticalPa: 40.5928e5,
    molarMass: 102.032,
    terms: [
      [-7.686556, 1],
      [2.311791, 1.5],
      [-2.039554, 2],
      [-3.583758, 4],
    ],
  },
  R290: {
    criticalK: 369.89,
    criticalPa: 42.512e5,
    terms: [
      [-6.7722, 1],
      [1.6938, 1.5],
      [-1.3341, 2.2],
      [-3.1876, 4.8],
      [0.94937, 6.2],
    ],
  },
  R600a: {
    criticalK: 407.81,
    criticalPa: 36.29e5,
    terms: [
      [-6.85093103, 1],
      [1.36543198, 1.5],
      [-1.32542691, 2.5],
      [-2.56190994, 4.5],
    ],
  },
  R744: {
    criticalK: 304.1282,
    criticalPa: 73.773e5,
    terms: [
      [-7.0602087, 1],
      [1.9391218, 1.5],
      [-1.6463597, 2],
      [-3.2995634, 4],
    ],
  },
  R32: {
    criticalK: 351.255,
    criticalPa: 57.82e5,
    molarMass: 52.024,
    terms: [
      [-7.44892, 1],
      [1.6886, 1.5],
      [-1.908, 2.5],
      [-2.81, 5],
    ],
  },
  R125: {
    criticalK: 339.173,
    criticalPa: 36.177e5,
    molarMass: 120.021,
    terms: [
      [-7.5295, 1],
      [1.9026, 1.5],
      [-2.2966, 2.3],
      [-3.448, 4.6],
    ],
  },
  R143a: {
    criticalK: 345.857,
    criticalPa: 37.61e5,
    molarMass: 84.041,
    terms: [
      [-7.3526, 1],
      [1.9162, 1.5],
      [-1.203, 2],
      [-2.0897, 3.5],
    ],
  },
  R1234yf: {
    criticalK: 367.85,
    criticalPa: 33.822e5,
    molarMass: 114.042,
    terms: [
      [-7.4697, 1],
      [2.7915, 1.5],
      [-2.1312, 1.8],
      [-2.9531, 3.8],
    ],
  },
  R717: {
    criticalK: 405.4,
    criticalPa: 113.33e5,
    terms: [
      [-7.0993, 1],
      [-2.433, 1.5],
      [8.7591, 1.7],
      [-6.4091, 1.95],
      [-2.1185, 4.2],
    ],
  },
  R410A: {
    criticalK: 344.494,
    criticalPa: 49.012e5,
    terms: [
      [-7.2818, 1],
      [2.5093, 1.8],
      [-3.2695, 2.4],
      [-2.8022, 4.9],
    ],
  },
  R407C: {
    criticalK: 359.345,
    criticalPa: 46.317e5,
    terms: [
      [0.48722, 0.54],
      [-6.6959, 0.925],
      [-1.4165, 2.7],
      [-2.5109, 4.7],
    ],
  },
} as const satisfies Record<string, Fluid>;
type FluidName = keyof typeof fluids;

/** Mass fractions of blends without a row of their own. */
const blends = {
  R407F: { R32: 0.3, R125: 0.3, R134a: 0.4 },
  R404A: { R125: 0.44, R143a: 0.52, R134a: 0.04 },
  R454B: { R32: 0.689, R1234yf: 0.311 },
} as const satisfies Record<string, Partial<Record<FluidName, number>>>;
type BlendName = keyof typeof blends;

export type Refrigerant = FluidName | BlendName;
export const refrigerants = [...Object.keys(fluids), ...Object.keys(blends)] as readonly Refrigerant[];
export const isRefrigerant = (name: string): name is Refrigerant => Object.hasOwn(fluids, name) || Object.hasOwn(blends, name);

export interface Saturation {
  /** Bubble pressure, Pa absolute. */
  readonly absolutePa: number;
  /** From Raoult's rule, up to 5 % off either way: it may be compared, and never sets a test pressure. */
  readonly estimate: boolean;
}

const coldest = 200;

function ofFluid(name: FluidName, kelvin: number): number {
  const { criticalK, criticalPa, terms } = fluids[name];
  const theta = 1 - kelvin / criticalK;
  const sum = terms.reduce((total, [coefficient, exponent]) => total + coefficient * theta ** exponent, 0);
  return criticalPa * Math.exp((criticalK / kelvin) * sum);
}

/** Hottest temperature at which a saturation pressure is given, K: the critical one, of a blend its lowest part's. */
export const hottestSaturation = (name: Refrigerant): number =>
  name in fluids
    ? fluids[name as FluidName].criticalK
    : Math.min(...Object.keys(blends[name as BlendName]).map((part) => fluids[part as FluidName].criticalK));

/**
 * Saturation (bubble) pressure: p = p_c·exp(T_c/T·Σ aᵢ·θ^tᵢ), θ = 1 − T/T_c (DOMAIN 3.10). A blend without a row is summed
 * by Raoult's rule on mole fractions and marked as an estimate.
 * @param kelvin 200 K to the critical temperature
 * @returns `above-critical` above it: there is no saturation pressure, so the nameplate must say
 */
export function saturation(name: Refrigerant, kelvin: number): Result<Saturation> {
  const problem = inRange(kelvin, coldest, 500, 'temperature', 'K');
  if (problem !== undefined) return refuse(problem);
  const critical = hottestSaturation(name);
  if (!(kelvin <= critical))
    return bad(
      'above-critical',
      `Above ${(critical - 273.15).toFixed(1)} °C ${name} has no saturation pressure. Take the permitted pressure from the nameplate.`,
      'temperature',
    );
  if (name in fluids) return good({ absolutePa: ofFluid(name as FluidName, kelvin), estimate: false });
  const parts = Object.entries(blends[name as BlendName]) as [FluidName, number][];
  const moles = parts.map(([part, mass]) => mass / ((fluids[part] as Fluid).molarMass ?? Number.NaN));
  const total = moles.reduce((sum, amount) => sum + amount, 0);
  const absolutePa = parts.reduce((sum, [part], index) => sum + (moles[index] / total) * ofFluid(part, kelvin), 0);
  return good({ absolutePa, estimate: true });
}

/** Factors of a strength test on the permitted pressure PS of a side (DOMAIN 3.10). */
export const strengthFactors = ['1.1', '1.43'] as const;

/** Strength-test pressure, Pa gauge: factor × PS. @param permittedPa PS, gauge, 10 kPa to 20 MPa @param factor 1 to 2 */
export function strengthPressure(permittedPa: number, factor: number): Result<number> {
  const problem = inRange(permittedPa, 10_000, 2e7, 'permitted pressure', 'Pa') ?? inRange(factor, 1, 2, 'factor', '');
  return problem === undefined ? good(permittedPa * factor) : refuse(problem);
}
