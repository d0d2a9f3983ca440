import fc from 'fast-check';
import { tight, upToHold } from './cases.fixture';
import type { RunEvent } from './events';
import { judge } from './judge';
import { stepsOf } from './readings';

/** A plus before a figure says the same and is read the long way. */
const longWay = (events: readonly RunEvent[]): readonly RunEvent[] =>
  events.map((event) =>
    event.type === 'reading' && event.role === 'between' && /^\d/.test(event.value) ? { ...event, value: `+${event.value}` } : event,
  );

const inText = (value: unknown): string => JSON.stringify(value).replace(/([" ])\+/g, '$1');

test('readings on the way come to the same, taken in a row or one by one', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          at: fc.integer({ min: -5, max: 140 }),
          value: fc.constantFrom('20.50', '20.5', '20.47', '20.25', '20.20', '21', '19.00', '-1.00', '20.505', '999', 'x', ''),
          phase: fc.constantFrom('hold', 'hold', 'hold', 'let-by'),
          round: fc.constantFrom(1, 1, 1, 2),
          unit: fc.constantFrom('mbar' as const, 'mbar' as const, 'psi' as const),
          source: fc.constantFrom('keypad' as const, 'keypad' as const, 'simulated gauge' as const),
          gone: fc.boolean(),
        }),
        { maxLength: 12 },
      ),
      fc.constantFrom('20.50', '20.30', '20.20'),
      (readings, end) => {
        const log = upToHold(tight).at(300).read('hold', 'start', '20.50');
        const withdrawn: string[] = [];
        for (const { at, value, phase, round, unit, source, gone } of readings) {
          log.at(300 + at).read(phase, 'between', value, { round, unit, source });
          if (gone) withdrawn.push(log.lastId);
        }
        for (const reading of withdrawn) log.write({ type: 'withdrawn', reading, reason: 'Mistyped' });
        log.at(421).read('hold', 'end', end);
        expect(inText(judge(tight, log.events))).toBe(inText(judge(tight, longWay(log.events))));
      },
    ),
    { numRuns: Number(process.env.VAST_PROPERTY_RUNS ?? 200) },
  );
});

test('a figure in whole steps of a scale, or no number', () => {
  expect(stepsOf('20.05', 2)).toBe(2005);
  expect(stepsOf('20.5', 2)).toBe(2050);
  expect(stepsOf('20', 2)).toBe(2000);
  for (const text of ['20.055', '+20', '-1', '', '.5', '5.', '1e3', '20,5', '2 0', '1.2.3', '1234567890123'])
    expect(stepsOf(text, 2)).toBeNaN();
});
