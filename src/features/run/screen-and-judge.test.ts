import fc from 'fast-check';
import { limitLines } from '@/core/course';
import { heldSoFar, judge, outcomeOf } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { inBand } from '@/core/limits';
import { decimal } from '@/core/quantities';
import { bandAdvice } from '@/core/running';
import { planFor } from '@/core/simulation/examples.fixture';
import { countdown } from '@/device/use-now';
import { estimateWords } from './run-model';

/* What the run screen says and draws of a figure is what the judge makes of it. */

const plan = planFor({ answers: { work: 'new' } });
const hold = plan.phases.find(({ id }) => id === 'hold');
if (hold?.kind !== 'hold') throw new Error('no hold');
const hundredths = (value: number) => (value / 100).toFixed(2);
const starts = fc.integer({ min: 2000, max: 2100 });

test('a fall to the drawn floor fails, a step above it does not: the line is where the judge has it', () => {
  fc.assert(
    fc.property(starts, (start) => {
      const [floor] = limitLines(hold, start / 100, 'mbar');
      expect(floor.decides).toBe(true);
      const at = Math.round(floor.at * 100);
      const outcome = (end: number) =>
        outcomeOf(
          judge(plan, new LogBuilder(plan).proved().settled().held(hundredths(start), hundredths(end)).events).phases.find(
            ({ id }) => id === 'hold',
          ),
        );
      expect(outcome(at)).not.toBe('tight');
      expect(outcome(at + 1)).toBe('tight');
    }),
    { numRuns: 40 },
  );
});

test('a start that the screen wants bled or raised begins no hold, and one that it accepts does', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1950, max: 2150 }), (start) => {
      const value = hundredths(start);
      const isIn = inBand(decimal(value), 'mbar', hold.band.low, hold.band.high, 'mbar');
      const advice = bandAdvice(plan, hold, value, isIn);
      const judgement = judge(plan, new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', value).events);
      const begun = heldSoFar(judgement.phases.find(({ id }) => id === 'hold')) !== undefined;
      expect(begun).toBe(advice === undefined);
      if (advice !== undefined) expect(advice).toMatch(start > 2100 ? /bleed to 20–21/ : /raise to 20–21/);
    }),
    { numRuns: 60 },
  );
});

test('a forecast never says that the test is over, but where the limit is surely passed', () => {
  const estimate = { rate: 0, low: 0, high: 0, forecast: 0.1, forecastLow: 0, forecastHigh: 0.2 };
  const words = (status: 'below' | 'above' | 'unclear' | 'bends', least?: number, most = least ?? 0, about?: number) =>
    estimateWords({ ...estimate, status, ...(least === undefined ? {} : { needed: { least, most, about } }) } as never, 'mbar', hold);
  expect(words('below')).toMatch(/0\.10 mbar \(0\.00 to 0\.20\) when due: below the limit so far\. The full time still counts\.$/);
  expect(words('above')).toMatch(/You may stop early\.$/);
  expect(words('unclear')).toMatch(/cannot tell yet\.$/);
  expect(words('unclear', 90)).toMatch(/about 90 s more at this gauge\.$/);
  expect(words('unclear', 121)).toMatch(/about 3 min more at this gauge\.$/);
  expect(words('unclear', 60, 600)).toMatch(/60 s to 10 min more at this gauge\.$/);
  expect(words('unclear', 60, 600, 300)).toMatch(/about 5 min more at this gauge\.$/);
  expect(words('bends', 60, 600)).toMatch(/cannot tell yet: it still bends, 60 s to 10 min more at this gauge\.$/);
});

test('a countdown never shows less time than is left, and counts up by whole seconds once it is due', () => {
  const seconds = (text: string) => {
    const [minutes, rest] = text.replace('+', '').split(':').map(Number);
    return minutes * 60 + rest;
  };
  fc.assert(
    fc.property(fc.integer({ min: -7_200_000, max: 86_400_000 }), (ms) => {
      const text = countdown(ms);
      if (ms >= 0) {
        expect(text).not.toContain('+');
        expect(seconds(text) * 1000).toBeGreaterThanOrEqual(ms);
        expect(seconds(text) * 1000 - ms).toBeLessThan(1000);
      } else {
        expect(seconds(text) * 1000).toBeLessThan(-ms + 1000);
        expect(text.startsWith('+')).toBe(seconds(text) > 0);
      }
    }),
  );
  expect(countdown(95_000)).toBe('1:35');
  expect(countdown(-61_000)).toBe('+1:01');
});
