import fc from 'fast-check';
import { toText } from '../quantities';
import { type Chunk, stoodBetween } from './stood';

/** The same by its words: every reading, and of every unbroken trace the median of each window of ten seconds, half full at least. */
function inWords(from: number, to: number, readings: { at: number[]; steps: number[] }, chunks: readonly Chunk[], scale: number) {
  const seen: { at: number; order: number; value: number }[] = [];
  readings.at.forEach((at, index) => {
    if (at >= from && at <= to) seen.push({ at, order: 1, value: readings.steps[index] });
  });
  const rows: { at: number; value: number }[][] = [];
  for (const { startAt, stepMs, values, scale: own } of chunks)
    values.forEach((value, index) => {
      const at = startAt + index * stepMs;
      if (at < from || at > to) return;
      const last = rows.at(-1)?.at(-1);
      if (last === undefined || at - last.at > 1.5 * stepMs) rows.push([]);
      rows.at(-1)?.push({ at, value: value * 10 ** (scale - own) });
    });
  const size = Math.round(10_000 / chunks[0].stepMs);
  const median = (part: readonly { value: number }[]) => [...part].sort((a, b) => a.value - b.value)[(part.length - 1) >> 1].value;
  for (const row of rows) {
    if (row.length * 2 < size) seen.push({ at: row[row.length - 1].at, order: 0, value: median(row) });
    for (let end = Math.ceil(size / 2); end <= row.length; end += 1)
      seen.push({ at: row[end - 1].at, order: 0, value: median(row.slice(Math.max(0, end - size), end)) });
  }
  return seen;
}

const steps = fc.integer({ min: 1990, max: 2010 });

test('of a trace the medians over ten seconds count, however it is cut into chunks, whatever its pace and its gaps', () => {
  fc.assert(
    fc.property(
      fc.array(steps, { minLength: 1, maxLength: 90 }),
      fc.constantFrom(200, 500, 1000, 3000),
      fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 8 }),
      fc.option(fc.integer({ min: 2, max: 20 }), { nil: undefined }),
      fc.constantFrom(2, 3),
      // The second lies beyond what fits a word with its difference.
      fc.constantFrom(20_000, 2_000_000_000),
      (values, stepMs, cuts, gapAfter, scale, level) => {
        const chunks: Chunk[] = [];
        let index = 0;
        let startAt = 0;
        for (let cut = 0; index < values.length; cut += 1) {
          const part = values.slice(index, index + cuts[cut % cuts.length]);
          chunks.push({ startAt, stepMs, scale, values: part });
          index += part.length;
          startAt += part.length * stepMs + (gapAfter === cut ? 5 * stepMs : 0);
        }
        const to = startAt + 1;
        const readings = { at: [0, to], steps: [level, level], scale: 3 };
        const { lowest, highest, rise } = stoodBetween(0, to, readings, chunks);
        // Readings stand at both ends, above all that the trace shows or within it.
        const between = inWords(0, to, readings, chunks, 3).filter(({ order }) => order === 0);
        let [low, high, most]: number[] = [level, level, 0];
        for (const { value } of [...between, { value: level }]) {
          low = Math.min(low, value);
          high = Math.max(high, value);
          most = Math.max(most, value - low);
        }
        expect([lowest, highest, rise].map(toText)).toEqual(
          [low, high, most].map((digits) => toText({ digits: BigInt(digits), scale: 3 })),
        );
      },
    ),
    { numRuns: Number(process.env.VAST_PROPERTY_RUNS ?? 2000) },
  );
});

test('a day that stands still, with one dip of a minute, is seen to the step', () => {
  const values = Array.from({ length: 600 }, (_, index) => 2050 + (index % 2));
  const chunks = Array.from({ length: 144 }, (_, index): Chunk => ({ startAt: index * 600_000, stepMs: 1000, scale: 2, values }));
  const dip = [...values].fill(2031, 300, 360);
  const { lowest, rise } = stoodBetween(
    0,
    86_400_000,
    { at: [0, 86_400_000], steps: [2050, 2050], scale: 2 },
    chunks.with(70, { ...chunks[70], values: dip }),
  );
  expect([toText(lowest), toText(rise)]).toEqual(['20.31', '0.19']);
});
