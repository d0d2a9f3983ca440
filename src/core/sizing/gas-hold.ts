import { endThrust, frictionPlugN } from '../physics/end-thrust';
import { holdTimeForLeak, smallestVisibleLeak, unmeasuredTemperaturePa } from '../physics/hold-sight';
import { stayClearJ, storedEnergy } from '../physics/stored-energy';
import {
  decimal,
  exactFactor,
  fromSi,
  good,
  type PressureUnit,
  type Result,
  referencePressure,
  referenceTemperatureK,
  round,
  toSi,
  toText,
  unitLabel,
} from '../quantities';
import type { Gauge } from './gauge';

/** Planning that every hold of gas in pipes shares: threshold, sight, hold time, stored energy, thrust. */

/**
 * One step of the gauge as a threshold in the plan's unit. Where the units differ it is rounded down to a millionth, so that
 * a movement of one step always reaches it.
 */
export function oneStep({ readability, unit }: Gauge, planUnit: PressureUnit): string {
  if (unit === planUnit) return readability;
  const scale = 6;
  const own = decimal(readability);
  const factor = exactFactor(unit);
  const under = exactFactor(planUnit);
  const digits = own.digits * factor.digits * 10n ** BigInt(scale + under.scale);
  return toText(round({ digits: digits / under.digits, scale: scale + own.scale + factor.scale }, scale, 'down'));
}

export interface GasHold {
  readonly litres: number;
  /** Start of the hold, gauge, and the threshold, both in `unit`. */
  readonly pressure: string;
  readonly threshold: string;
  readonly unit: PressureUnit;
  /** Warming or cooling that may go unnoticed, K. */
  readonly unnoticedK: string;
}

/** What may move unseen: a movement just under the threshold, and an unnoticed change of temperature; Pa. */
function unseenPa({ pressure, threshold, unit, unnoticedK }: GasHold): Result<number> {
  const byTemperature = unmeasuredTemperaturePa(
    toSi(Number(pressure), unit) + referencePressure,
    Number(unnoticedK),
    referenceTemperatureK,
  );
  return byTemperature.ok ? good(toSi(Number(threshold), unit) + byTemperature.value) : byTemperature;
}

/** Smallest leak that the hold can show (DOMAIN 3.3), rounded up, with its working. */
export function gasSight(hold: GasHold, seconds: number): Result<{ readonly litresPerHour: string; readonly working: string }> {
  const unseen = unseenPa(hold);
  if (!unseen.ok) return unseen;
  const leak = smallestVisibleLeak({ volumeM3: hold.litres / 1000, unseenPa: unseen.value, seconds });
  if (!leak.ok) return leak;
  const litresPerHour = (Math.ceil(leak.value * 3.6e6 * 1e3) / 1e3).toFixed(3);
  return good({
    litresPerHour,
    working: `${hold.litres.toFixed(1)} L × ${(unseen.value / 100).toFixed(2)} mbar (one step of ${hold.threshold} ${unitLabel(hold.unit)}, and ${hold.unnoticedK} K unnoticed) / (1013.25 mbar × ${seconds} s) = ${litresPerHour} L/h`,
  });
}

/** Seconds that show a leak of concern, rounded up to a whole minute. @param litresPerHour above zero */
export function secondsForLeak(hold: GasHold, litresPerHour: number): Result<number> {
  const unseen = unseenPa(hold);
  if (!unseen.ok) return unseen;
  const time = holdTimeForLeak(hold.litres / 1000, unseen.value, litresPerHour / 3.6e6);
  return time.ok ? good(Math.ceil(time.value / 60) * 60) : time;
}

/** The energy that the test stores and the thrust on its largest end, in words, with the warning where one is due. */
export function storedAdvice(litres: number, pressure: string, unit: PressureUnit, largestMm: number): readonly string[] {
  const pa = toSi(Number(pressure), unit);
  const energy = storedEnergy(litres / 1000, pa + referencePressure, referencePressure);
  const thrust = largestMm > 0 ? endThrust(pa, largestMm / 1000) : undefined;
  return [
    ...(energy.ok
      ? [
          `Stored energy ${kilo(energy.value)}J${energy.value > stayClearJ ? ': stay clear of ends and plugs, one person at the valve; liquid stores hundreds of times less.' : '.'}`,
        ]
      : []),
    ...(thrust?.ok === true ? [thrustWords(thrust.value, largestMm)] : []),
  ];
}

/** Thrust on an end in words. */
export const thrustWords = (newtons: number, bore: number): string =>
  `End thrust on a plug or cap of ${bore.toFixed(0)} mm: ${kilo(newtons)}N${newtons > frictionPlugN ? '; never trust a plug that only friction holds.' : '.'}`;

/** Three digits, with k from a thousand on. */
const kilo = (value: number): string => (value >= 1000 ? `${Number((value / 1000).toPrecision(3))} k` : `${Number(value.toPrecision(3))} `);

/** For sentences: a volume in ft³ of so many litres. */
export const cubicFeet = (litres: number): number => fromSi(litres / 1000, 'ft3');
