import type { Contents } from '../limits';
import { endThrust, frictionPlugN } from '../physics/end-thrust';
import { stayClearJ, storedEnergy } from '../physics/stored-energy';
import { decimal, exactFactor, fromSi, type PressureUnit, referencePressure, round, toSi, toText } from '../quantities';
import type { Gauge } from './gauge';

/** Planning that every hold of gas in pipes shares: threshold, stored energy, thrust. */

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

/** What a system of gas holds, for what its test can see. @param litres nothing where it is not known */
export const gasIn = (litres: number): Contents => (litres > 0 ? { kind: 'gas', litres: litres.toFixed(3) } : { kind: 'unknown' });

type Said = string | { readonly beware: string };

/** The energy that the test stores and the thrust on its largest end, in words and in the plan's own units; a warning where one is due. */
export function storedAdvice(litres: number, pressure: string, unit: PressureUnit, largestMm: number): readonly Said[] {
  const pa = toSi(Number(pressure), unit);
  const energy = storedEnergy(litres / 1000, pa + referencePressure, referencePressure);
  const thrust = largestMm > 0 ? endThrust(pa, largestMm / 1000) : undefined;
  return [
    ...(litres > 0 && energy.ok ? [energyWords(energy.value, unit)] : []),
    ...(litres > 0 ? [] : ['Without the volume its stored energy is not known: take it for high, and stay clear of ends and plugs.']),
    ...(thrust?.ok === true ? [thrustWords(thrust.value, largestMm, unit)] : []),
  ];
}

function energyWords(joules: number, unit: PressureUnit): Said {
  const much = unit === 'psi' ? `${kilo(joules / footPoundJ)}ft·lbf` : `${kilo(joules)}J`;
  return joules > stayClearJ
    ? { beware: `Stored energy ${much}: stay clear of ends and plugs, one person at the valve; liquid stores hundreds of times less.` }
    : `Stored energy ${much}.`;
}

/** Thrust on an end in words; in pounds and inches where the plan is in psi. */
export function thrustWords(newtons: number, boreMm: number, unit: PressureUnit): Said {
  const much = unit === 'psi' ? `${kilo(newtons / poundN)}lbf` : `${kilo(newtons)}N`;
  const bore = unit === 'psi' ? `${Number((boreMm / 25.4).toFixed(2))} in` : `${boreMm.toFixed(0)} mm`;
  const words = `End thrust on a plug or cap of ${bore}: ${much}`;
  return newtons > frictionPlugN ? { beware: `${words}; never trust a plug that only friction holds.` } : `${words}.`;
}

/** Joules in a foot-pound, newtons in a pound of force: exact by the definitions of foot, pound and standard gravity. */
const footPoundJ = 1.35581794833;
const poundN = 4.4482216152605;

/** Three digits, with k from a thousand on. */
const kilo = (value: number): string => (value >= 1000 ? `${Number((value / 1000).toPrecision(3))} k` : `${Number(value.toPrecision(3))} `);

/** For sentences: a volume in ft³ of so many litres. */
export const cubicFeet = (litres: number): number => fromSi(litres / 1000, 'ft3');
