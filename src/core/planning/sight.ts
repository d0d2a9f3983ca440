import type { Phase } from '../course/phases';
import { smallestVisibleLeak } from '../physics/hold-sight';
import { bad, good, type PressureUnit, type Result, toSi } from '../quantities';

/**
 * The largest leak that the judging hold may still call tight: a movement just under the perceptible threshold
 * (DOMAIN 3.3 with δ = the threshold). Rounded up to four decimals of a litre per hour.
 */
export function sightOf(
  phases: readonly Phase[],
  judgedBy: string,
  unit: PressureUnit,
  litres: number,
): Result<{ readonly litresPerHour: string; readonly working: string }> {
  const hold = phases.find((phase) => phase.id === judgedBy);
  if (hold?.kind !== 'hold' || (hold.limit.kind !== 'no-fall' && hold.limit.kind !== 'no-rise'))
    return bad('no-judging-hold', 'The procedure names no hold that judges.');
  const { threshold } = hold.limit;
  const leak = smallestVisibleLeak({ volumeM3: litres / 1000, unseenPa: toSi(Number(threshold), unit), seconds: hold.seconds });
  if (!leak.ok) return leak;
  const litresPerHour = (Math.ceil(leak.value * 3.6e6 * 1e4) / 1e4).toFixed(4);
  return good({
    litresPerHour,
    working: `${litres.toFixed(2)} L × ${threshold} ${unit} / (1013.25 mbar × ${hold.seconds} s) = ${litresPerHour} L/h`,
  });
}
