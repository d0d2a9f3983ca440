import type { HoldPhase, Phase } from '../course/phases';
import { type Correction, longestUncorrectedS, shortestCorrectedS, thresholdOf } from '../limits';
import { unreadBarometerPa } from '../physics/hold-sight';
import { isPressureUnit, type PressureUnit, toSi } from '../quantities';
import { thermometerStepK, type Weather } from '../sizing/gauge';

/**
 * Every hold of gas of ten minutes and more is corrected for temperature and barometer, whatever its procedure; only one of
 * four hours and more needs temperatures, and the barometer where its usual change reaches half the threshold (DOMAIN 4.6).
 * What a procedure asks for beyond that stays.
 */
export const withCorrections = (
  phases: readonly Phase[],
  unit: PressureUnit,
  filled: 'gas' | 'water',
  atmosphereHpa: string,
  weather: Weather = {},
): readonly Phase[] =>
  phases.map((phase) => {
    if (phase.kind !== 'hold' || filled === 'water' || phase.limit.kind === 'wait' || !isPressureUnit(phase.unit ?? unit)) return phase;
    if (phase.seconds < shortestCorrectedS && phase.corrects === undefined) return phase;
    const own: Correction = phase.corrects ?? { atmosphereHpa, needed: 'nothing' };
    return { ...phase, corrects: { ...own, needed: wider(own.needed, neededBy(phase, unit)), ...named(phase, weather) } };
  });

/** Steps of what the plan names, to a millionth; in a hold too short to be corrected by it a thermometer decides nothing. */
const named = ({ seconds }: HoldPhase, { thermometer, barometer }: Weather) => ({
  thermometerK: thermometer === undefined || seconds < shortestCorrectedS ? undefined : decimals(thermometerStepK(thermometer)),
  barometerPa: barometer === undefined ? undefined : decimals(toSi(Number(barometer.readability), barometer.unit)),
});
const decimals = (value: number): string => String(Number(value.toFixed(6)));

function neededBy({ seconds, limit, unit }: HoldPhase, planUnit: PressureUnit): Correction['needed'] {
  if (seconds < longestUncorrectedS) return 'nothing';
  const threshold = thresholdOf(limit);
  const pa = threshold === undefined ? 0 : toSi(Number(threshold), unit ?? planUnit);
  return unreadBarometerPa(seconds) >= pa / 2 ? 'both' : 'temperatures';
}

const wider = (one: Correction['needed'], other: Correction['needed']): Correction['needed'] =>
  one === 'nothing' ? other : other === 'nothing' || one === other ? one : 'both';
