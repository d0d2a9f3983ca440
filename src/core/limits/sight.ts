import { decimalText, is, may, name, type Of, oneOf, shape, union } from '../exact/shape';
import { leakThatFalls, unmeasuredTemperaturePa, unperceivedLetByPa } from '../physics/hold-sight';
import { fromSi, type InstrumentUnit, type Result, referencePressure, referenceTemperatureK, unitKind, unitLabel } from '../quantities';

/**
 * What a test can see (DOMAIN 3.3), in two figures that are named apart everywhere: the leak that shows *if nothing else moves*, and
 * the one that it is *sure* of, with what that takes for granted. The movement that a limit calls a leak comes from its room.
 */

/** What holds the pressure or the level: what turns a movement into a rate. */
export const contentsShape = union(
  shape({ kind: is('gas'), litres: decimalText }),
  shape({
    kind: is('water'),
    litres: decimalText,
    pipe: name,
    /** Softness of water and wall, 1/GPa, and trapped air in % of the volume at the test pressure (DOMAIN 3.7). */
    softness: decimalText,
    airPercent: decimalText,
    airIs: oneOf('assumed', 'allowed', 'measured'),
    /** |β − 3α|, millionths a kelvin; left out where the pipe gives no sign. */
    expansionPpm: may(decimalText),
  }),
  /** Water that stands open: the area of its openings. */
  shape({ kind: is('level'), squareCm: decimalText }),
  /** Its volume is not known, so that a movement is no rate. */
  shape({ kind: is('unknown') }),
  /** The limit is a flow itself. */
  shape({ kind: is('flow') }),
);
export type Contents = Of<typeof contentsShape>;

/** What may move unnoticed, in the order in which it is told. */
export const termKinds = ['limit', 'step', 'temperature', 'barometer', 'let-by', 'pressures', 'vessel'] as const;
export type TermKind = (typeof termKinds)[number];
export const termWords: Readonly<Record<TermKind, string>> = {
  limit: 'limit',
  step: 'a step of the gauge',
  temperature: 'temperature',
  barometer: 'barometer',
  'let-by': 'let-by',
  pressures: 'pressures read',
  vessel: 'a step of the vessel',
};

/** Part of what may move unnoticed, in SI of what is read: Pa, m; m³/s where the limit is a flow. */
export interface Term {
  readonly what: TermKind;
  readonly si: number;
}

/** Two figures, m³/s, and what they stand on. */
export interface Sight {
  readonly terms: readonly Term[];
  /** Left out where the volume is not known. */
  readonly alone?: number;
  /** Left out also where it is sure of no leak, which `blind` says why. */
  readonly sure?: number;
  readonly blind?: string;
  readonly assumes: readonly string[];
  readonly outside: readonly string[];
}

/** How a drift is known: nobody looked, or an instrument said so at both ends. */
export interface Drift {
  readonly amount: number;
  readonly read: boolean;
}

/** A hold as its sight needs it. Pressures are gauge, Pa; levels, m. */
export interface SightedHold {
  readonly contents: Contents;
  readonly seconds: number;
  readonly unit: InstrumentUnit;
  /** Where it begins: the lowest and highest that counts, or the reading. */
  readonly low: number;
  readonly high: number;
  readonly step: number;
  /** Turns a rate found with the test medium into that of the gas carried. */
  readonly factor: number;
  /** K, and Pa. */
  readonly warms: Drift;
  readonly presses: Drift;
  /** The watch that proves the valve before it; none where it is plugged, capped or parted. */
  readonly letBy?: { readonly threshold: number; readonly seconds: number; readonly at: number };
  readonly supply?: number;
}

/** Three digits, never less than it is. */
export function roundedUp(value: number): string {
  if (!(value > 0)) return '0';
  const decimals = Math.min(9, Math.max(0, 2 - Math.floor(Math.log10(value))));
  return (Math.ceil(value * 10 ** decimals - 1e-9) / 10 ** decimals).toFixed(decimals);
}

/** Part of a pressure in a sentence, in the unit of the hold: as it stands among the terms, without the zeros at its end. */
export const amountText = (si: number, unit: InstrumentUnit): string =>
  roundedUp(fromSi(si, unit))
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');
const kelvins = (value: number): string => `${Number(value.toPrecision(2))} K`;

/** Drift of the pipe: nothing where it gives no sign, or where no pressure is read. */
function temperaturePa({ contents, high, warms }: SightedHold, stiffnessPa: number): number {
  if (contents.kind === 'gas' || contents.kind === 'unknown') {
    const moved = unmeasuredTemperaturePa(Math.max(1, high + referencePressure), Math.min(100, warms.amount), referenceTemperatureK);
    return moved.ok ? moved.value : 0;
  }
  if (contents.kind !== 'water' || contents.expansionPpm === undefined) return 0;
  return Number(contents.expansionPpm) * 1e-6 * stiffnessPa * warms.amount;
}

/** What a change of the whole volume would move the gauge by, Pa, at a gauge pressure: air gives way the more the lower it stands. */
function stiffness(contents: Contents, low: number, at: number): number {
  if (contents.kind !== 'water') return referencePressure;
  // The air was a share of the volume at the start; let down to a pressure it pushes back by that pressure.
  const air = Number(contents.airPercent) / 100;
  const lowest = Math.max(0.2 * (low + referencePressure), at + referencePressure);
  return 1 / (Number(contents.softness) / 1e9 + air / lowest);
}

/**
 * Sight of a hold whose limit calls a movement of so much a leak. A level leaks through its opening's area; water by its stiffness; a
 * gas by its volume.
 */
export function sightOfHold(movement: number, hold: SightedHold): Sight {
  const { contents, seconds, low, step, factor, presses, letBy, supply } = hold;
  const level = unitKind(hold.unit) !== 'pressure';
  const temperature = level ? 0 : temperaturePa(hold, stiffness(contents, low, low));
  const barometer = contents.kind === 'gas' || contents.kind === 'unknown' ? presses.amount : 0;
  const fed =
    letBy === undefined
      ? 0
      : orPlain(
          unperceivedLetByPa({
            thresholdPa: letBy.threshold,
            watchedS: letBy.seconds,
            watchedAtPa: letBy.at,
            seconds,
            lowestPa: low - movement - step,
            supplyPa: supply,
          }),
          (letBy.threshold * seconds) / letBy.seconds,
        );
  const terms: Term[] = (
    [
      { what: 'limit', si: movement },
      { what: 'step', si: step },
      { what: 'temperature', si: temperature },
      { what: 'barometer', si: barometer },
      { what: 'let-by', si: fed },
    ] as const
  ).filter(({ what, si }) => what === 'limit' || si > 0);
  const all = terms.reduce((sum, { si }) => sum + si, 0);
  const said = { terms, assumes: assumptions(hold, letBy !== undefined), outside: outsideOf(hold, letBy !== undefined) };
  if (contents.kind === 'unknown' || contents.kind === 'flow') return said;
  if (contents.kind === 'level') {
    const area = Number(contents.squareCm) / 1e4;
    return { ...said, alone: (area * movement) / seconds, sure: (area * all) / seconds };
  }
  const leak = (fallPa: number) =>
    leakThatFalls({
      volumeM3: Number(contents.litres) / 1000,
      startPa: low,
      fallPa,
      seconds,
      stiffnessPa: stiffness(contents, low, low - fallPa),
    });
  const [alone, sure] = [leak(movement), leak(all)];
  return {
    ...said,
    ...(alone.ok ? { alone: alone.value * factor } : {}),
    ...(sure.ok ? { sure: sure.value * factor } : { blind: sure.problem.message }),
  };
}

const orPlain = (found: Result<number>, plain: number): number => (found.ok ? found.value : plain);

/** What *sure* takes for granted, in words. */
function assumptions({ contents, warms, presses, letBy, seconds }: SightedHold, valve: boolean): readonly string[] {
  const gas = contents.kind === 'gas' || contents.kind === 'unknown';
  const soft = contents.kind === 'water' && contents.expansionPpm === undefined;
  return [
    ...(contents.kind === 'level' || soft
      ? []
      : [
          warms.read
            ? `the pipe’s drift is known to ${kelvins(warms.amount)} by its thermometer`
            : `the pipe drifts no more than ${kelvins(warms.amount)}`,
        ]),
    ...(gas && presses.amount > 0
      ? [
          presses.read
            ? `the barometer’s change is known to ${Number((presses.amount / 100).toPrecision(2))} hPa`
            : `the barometer moves no more than ${Number((presses.amount / 100).toPrecision(2))} hPa`,
        ]
      : []),
    ...(valve && letBy !== undefined ? [`the valve before it lets by no more than its ${minutes(letBy.seconds)} watch shows`] : []),
    ...(contents.kind === 'water'
      ? [
          contents.airIs === 'measured'
            ? `${contents.airPercent} % of air at the test pressure, as measured`
            : `no more than ${contents.airPercent} % of air at the test pressure${contents.airIs === 'allowed' ? ', which the air test allows' : ''}`,
        ]
      : []),
    ...(seconds > 0 ? ['the gauge reads true to its step'] : []),
  ];
}

/** What lies outside, and is named beside the figure. */
function outsideOf({ contents, warms }: SightedHold, valve: boolean): readonly string[] {
  return [
    ...(valve ? ['a let-by that the leak itself hides'] : []),
    ...(contents.kind === 'water' && contents.expansionPpm === undefined
      ? ['what warming and cooling do to soft pipe: it may raise or lower the gauge, by how much is not known']
      : []),
    ...(warms.read ? ['a thermometer that reads another spot than the pipe’s mean'] : []),
    ...(contents.kind === 'level' ? ['a branch with a larger free surface, which hides the fall'] : []),
  ];
}

const minutes = (seconds: number): string => (seconds >= 120 && seconds % 60 === 0 ? `${seconds / 60} min` : `${Math.round(seconds)} s`);

/** The sum behind the two figures, in the unit that is read. */
export function sightSum({ terms }: Pick<Sight, 'terms'>, unit: InstrumentUnit): string {
  const parts = terms.map(({ what, si }) => `${amountText(si, unit)} ${termWords[what]}`);
  const all = terms.reduce((sum, { si }) => sum + si, 0);
  return `${parts.join(' + ')} = ${amountText(all, unit)} ${unitLabel(unit)}`;
}
