import type { HoldPhase } from '@/core/course';
import { type LimitLine as RoomLine, roomOfHold } from '@/core/limits';
import type { Unit } from '@/core/quantities';

/** A line that a hold must not reach, in the hold's unit. */
export interface LimitLine {
  readonly at: number;
  readonly label: string;
  readonly decides: boolean;
  readonly side: 'above' | 'below';
}

const placed = ({ at, of, label, decides, side }: RoomLine, start: number | undefined): readonly LimitLine[] => {
  if (of === 'start' && start === undefined) return [];
  const value = of === 'start' ? (start ?? 0) + at : at;
  // A fall larger than what stands there is no line that a gauge could reach.
  if (side === 'below' && value < 0 && (start ?? 0) >= 0) return [];
  return [{ at: value, label: `${label} ${Number(value.toFixed(3))}`, decides, side }];
};

/** Lines that a hold is judged by, from its start reading where it has one: those of its limit, and what is connected may see. */
export function limitLines({ limit, seconds, ceiling }: HoldPhase, start: number | undefined, unit: Unit): readonly LimitLine[] {
  const lines = roomOfHold(limit)
    .lines(limit, { seconds, unit })
    .flatMap((line) => placed(line, start));
  return ceiling === undefined
    ? lines
    : [...lines, ...placed({ at: Number(ceiling), of: 'zero', label: 'ceiling', decides: true, side: 'above' }, start)];
}

/** How far the axis reaches about a start while its hold is watched, so that a movement at the threshold can be seen. */
export const closeUp = ({ limit, seconds }: HoldPhase, start: number | undefined, unit: Unit): readonly [number, number] | undefined =>
  start === undefined ? undefined : roomOfHold(limit).reach?.(limit, { seconds, unit }, start);

/** Room for the words of a line, px. */
const wordsPx = 13;

/**
 * Where the words of each line stand, px: above their line, or under it where it must not be gone below, and never over one another.
 * @param y of a figure on the axis; @param lowest the last baseline that is still seen
 */
export function wordsOfLines(
  lines: readonly LimitLine[],
  y: (value: number) => number,
  lowest: number,
): readonly (LimitLine & { readonly words: number })[] {
  const wanted = lines
    // A line that the picture does not show has no words in it either.
    .filter(({ at }) => y(at) >= 0 && y(at) <= lowest + wordsPx)
    .map((line) => ({ ...line, words: y(line.at) + (line.side === 'below' && line.decides ? wordsPx - 1 : -4) }))
    .sort((a, b) => a.words - b.words);
  // From the top down each gives way to the one above it; from the bottom up none is pushed out of the picture.
  for (let index = 1; index < wanted.length; index += 1)
    wanted[index] = { ...wanted[index], words: Math.max(wanted[index].words, wanted[index - 1].words + wordsPx) };
  for (let index = wanted.length - 1; index >= 0; index -= 1)
    wanted[index] = { ...wanted[index], words: Math.min(wanted[index].words, lowest - wordsPx * (wanted.length - 1 - index)) };
  return wanted;
}
