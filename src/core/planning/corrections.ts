import type { HoldPhase, Phase } from '../course/phases';
import { type Correction, longestUncorrectedS, shortestCorrectedS, thresholdOf, unseenBarometerPa } from '../limits';
import { isPressureUnit, type PressureUnit, toSi } from '../quantities';

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
): readonly Phase[] =>
  phases.map((phase) => {
    if (phase.kind !== 'hold' || filled === 'water' || phase.limit.kind === 'wait' || !isPressureUnit(phase.unit ?? unit)) return phase;
    if (phase.seconds < shortestCorrectedS && phase.corrects === undefined) return phase;
    const own: Correction = phase.corrects ?? { atmosphereHpa, needed: 'nothing' };
    return { ...phase, corrects: { ...own, needed: wider(own.needed, neededBy(phase, unit)) } };
  });

function neededBy({ seconds, limit, unit }: HoldPhase, planUnit: PressureUnit): Correction['needed'] {
  if (seconds < longestUncorrectedS) return 'nothing';
  const threshold = thresholdOf(limit);
  const pa = threshold === undefined ? 0 : toSi(Number(threshold), unit ?? planUnit);
  return unseenBarometerPa(seconds) >= pa / 2 ? 'both' : 'temperatures';
}

const wider = (one: Correction['needed'], other: Correction['needed']): Correction['needed'] =>
  one === 'nothing' ? other : other === 'nothing' || one === other ? one : 'both';
