import { measuredVolume } from '../physics/measured-volume';
import { parseQuantity, subtract, toNumber, toSi } from '../quantities';
import { bad, good, type Result, refuse } from '../quantities/result';

/* A volume that was measured, as a line of words: what was let in, and the rise that it made or the gauge before and after (DOMAIN 3.4). */

/** A measured volume in its steps, as they were typed. */
export interface MeasuredSteps {
  readonly letIn: string;
  readonly before: string;
  readonly after: string;
}

export type MeasuredVolume = { readonly litres: number; readonly measured: true };

/** The steps of a measured volume; undefined where it was said in another way. A step may still be missing. */
export function measuredSteps(text: string): MeasuredSteps | undefined {
  const found = /^(.*?)\s*\bfrom\b\s*(.*?)\s*\bto\b\s*(.*)$/i.exec(text.trim());
  return found === null ? undefined : { letIn: found[1], before: found[2], after: found[3] };
}

/** The steps as one line, which {@link measuredSteps} reads back; empty where none was typed. */
export const measuredLine = ({ letIn, before, after }: MeasuredSteps): string =>
  [letIn, before, after].every((one) => one.trim() === '') ? '' : `${letIn.trim()} from ${before.trim()} to ${after.trim()}`;

/**
 * Reads `0.6 L from 1.0 to 21.0 mbar` or `0.6 L at 20 mbar`; undefined where the words are of another kind. Litres of all that
 * was filled, with meter and rig.
 */
export function readMeasured(text: string): Result<MeasuredVolume> | undefined {
  const steps = measuredSteps(text);
  if (steps !== undefined) return between(steps);
  const letIn = /^(.+?)\s+at\s+(.+)$/i.exec(text.trim());
  if (letIn === null) return undefined;
  const rise = parseQuantity(letIn[2], 'pressure', 'mbar');
  return rise.ok ? volumeOf(letIn[1], toSi(toNumber(rise.value.value), rise.value.unit)) : refuse({ ...rise.problem, field: 'volume' });
}

function volumeOf(letIn: string, risePa: number): Result<MeasuredVolume> {
  const gas = parseQuantity(letIn, 'volume', 'L');
  if (!gas.ok) return refuse({ ...gas.problem, field: 'volume' });
  const volume = measuredVolume(toSi(toNumber(gas.value.value), gas.value.unit), risePa);
  return volume.ok ? good({ litres: volume.value * 1000, measured: true }) : refuse({ ...volume.problem, field: 'volume' });
}

/** What follows the figure. */
const unitIn = (text: string): string => /[^\d.,\s+-].*$/.exec(text)?.[0] ?? '';

/** Both ends are read off one gauge: one that has no unit has that of the other. */
function between({ letIn, before, after }: MeasuredSteps): Result<MeasuredVolume> {
  const missing = [
    ...(letIn.trim() === '' ? ['what was let in'] : []),
    ...(before.trim() === '' ? ['the gauge before'] : []),
    ...(after.trim() === '' ? ['the gauge after'] : []),
  ];
  if (missing.length > 0) return bad('volume-missing', `Measured volume: ${missing.join(' and ')} is still to be typed.`, 'volume');
  const read = (text: string, other: string) => parseQuantity(unitIn(text) === '' ? `${text} ${unitIn(other)}` : text, 'pressure', 'mbar');
  const from = read(before, after);
  if (!from.ok) return refuse({ ...from.problem, field: 'volume' });
  const to = read(after, before);
  if (!to.ok) return refuse({ ...to.problem, field: 'volume' });
  if (from.value.unit !== to.value.unit)
    return bad('volume-steps', 'Both figures are read off one gauge: type them in one unit.', 'volume');
  const rise = subtract(to.value.value, from.value.value);
  if (rise.digits <= 0n)
    return bad('volume-steps', 'The gauge has to stand higher after gas was let in: read it again, or let in more.', 'volume');
  return volumeOf(letIn, toSi(toNumber(rise), to.value.unit));
}
