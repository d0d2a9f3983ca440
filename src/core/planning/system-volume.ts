import type { Answers, Procedure } from '../procedures/procedure';
import type { Problem } from '../quantities';
import { parsePipeSchedule, parseVolume, systemVolume, type VolumeSum } from '../sizing/pipe-volume';

/** Stated where nobody knows the volume: limits then stand without a rate. */
export const unknownVolume = 'unknown';

/** Rig hose and tee, litres; small beside any installation, stated in the sum. */
const rigHoseL = 0.1;

export interface ResolvedVolume {
  readonly value: VolumeSum;
  readonly how: 'schedule' | 'stated' | 'measured' | 'answers' | 'unknown';
  readonly problems: readonly Problem[];
}

/** Whether a plan must know the volume; where it need not, no leak rate is claimed. */
export const volumeDecides = ({ volumeFrom, volumeDecides: decides }: Procedure, answers: Answers): boolean =>
  volumeFrom === 'pipes' && (decides?.(answers) ?? true);

/** Volume of what is tested, from the schedule or as stated; a procedure may need none. */
export function resolveVolume(
  procedure: Procedure,
  input: { readonly answers: Answers; readonly pipes: string; readonly statedVolume: string },
): ResolvedVolume {
  const meterL = procedure.meterLitres?.(input.answers) ?? 0;
  const nothing: VolumeSum = { pipesL: 0, fittingsL: 0, meterL, rigHoseL, totalL: 0, systemL: 0, largestNominalMm: 0 };
  if (procedure.volumeFrom === 'answers') return { value: { ...nothing, rigHoseL: 0 }, how: 'answers', problems: [] };
  if (input.statedVolume.trim().toLowerCase() === unknownVolume)
    return {
      value: nothing,
      how: 'unknown',
      problems: !volumeDecides(procedure, input.answers)
        ? []
        : [
            {
              code: 'volume-needed',
              field: 'volume',
              message: `${procedure.title} goes by the volume: type the pipe lines, state an estimate such as 40..60 L, or measure it.`,
            },
          ],
    };
  if (input.statedVolume.trim() !== '') {
    const litres = parseVolume(input.statedVolume);
    if (!litres.ok) return { value: nothing, how: 'stated', problems: [litres.problem] };
    const { litres: given, lowest, measured } = litres.value;
    // What was let in filled meter and rig as well: they are in it already.
    const beside = measured === true ? 0 : meterL + rigHoseL;
    return {
      value: {
        ...nothing,
        pipesL: measured === true ? Math.max(0, given - meterL - rigHoseL) : given,
        totalL: given + beside,
        lowestL: lowest === undefined ? undefined : lowest + beside,
        systemL: measured === true ? Math.max(0, given - rigHoseL) : given + meterL,
      },
      how: measured === true ? 'measured' : 'stated',
      problems: [],
    };
  }
  const { pipes, problems } = parsePipeSchedule(input.pipes);
  if (pipes.length === 0 && problems.length === 0 && !volumeDecides(procedure, input.answers))
    return { value: nothing, how: 'unknown', problems: [] };
  if (pipes.length === 0 && problems.length === 0)
    return {
      value: nothing,
      how: 'schedule',
      problems: [{ code: 'volume-missing', field: 'volume', message: 'Type the pipe lines, like 22cu 6.5, or state the volume.' }],
    };
  const sum = systemVolume({ pipes, meterL, rigHoseL });
  return sum.ok
    ? { value: sum.value, how: 'schedule', problems: [...problems] }
    : { value: nothing, how: 'schedule', problems: [...problems, sum.problem] };
}
