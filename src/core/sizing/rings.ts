import { usualExponent } from '../physics/duct-flow';
import { bad, good, type Result } from '../quantities';

/** A ring that narrows a fan's opening; it is named by the flows that it can measure, m³/s. */
export interface Ring {
  readonly lowM3s: number;
  readonly highM3s: number;
}

/** How a flow is to be measured: with which ring, and at what pressure where the reference is too low for any. */
export interface RingChoice {
  readonly ring: Ring;
  readonly pressurePa: number;
}

/** Highest pressure that a duct is raised to so that its flow comes into a ring's range, Pa. */
const highestPa = 250;

/**
 * The narrowest ring whose range holds the expected flow; below the narrowest one's range the pressure is raised and the
 * result brought back to the reference (DOMAIN 3.6, 5.16).
 * @returns `ring-none` where no ring measures so much, or so little even at 250 Pa
 */
export function chooseRing(rings: readonly Ring[], expectedM3s: number, referencePa: number): Result<RingChoice> {
  const sorted = [...rings].sort((a, b) => a.lowM3s - b.lowM3s);
  const fitting = sorted.find(({ lowM3s, highM3s }) => expectedM3s >= lowM3s && expectedM3s <= highM3s);
  if (fitting !== undefined) return good({ ring: fitting, pressurePa: referencePa });
  const smallest = sorted[0];
  if (smallest === undefined || !(expectedM3s > 0))
    return bad('ring-none', 'There is no ring to choose from, or no flow to expect.', 'flow');
  if (expectedM3s >= smallest.lowM3s)
    return bad('ring-none', 'No ring measures this much: use a larger fan, or test a part of the ducts.', 'flow');
  const pressurePa = Math.ceil(referencePa * (smallest.lowM3s / expectedM3s) ** (1 / usualExponent));
  return pressurePa <= highestPa
    ? good({ ring: smallest, pressurePa })
    : bad('ring-none', `The flow stays under the smallest ring’s range even at ${highestPa} Pa: use a smaller ring.`, 'flow');
}
