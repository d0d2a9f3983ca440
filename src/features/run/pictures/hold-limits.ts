import type { PlacedLine } from '@/core/course';

/** Room for the words of a line, px. */
const wordsPx = 13;

/**
 * Where the words of each line stand, px: above their line, or under it where it must not be gone below, and never over one another.
 * @param y of a figure on the axis; @param lowest the last baseline that is still seen
 */
export function wordsOfLines(
  lines: readonly PlacedLine[],
  y: (value: number) => number,
  lowest: number,
): readonly (PlacedLine & { readonly words: number })[] {
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
