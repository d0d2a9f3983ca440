import fc from 'fast-check';
import { tight, upToHold } from './cases.fixture';
import { judge } from './judge';
import { onTheWay } from './on-the-way';
import { tracesOf } from './trace';

/* What is told to be no more than figures on a hold's way changes nothing that is judged, and gives the points that are drawn. */

const started = () => upToHold(tight).at(300).read('hold', 'start', '20.50');

const plain = fc.record({
  at: fc.integer({ min: 0, max: 119 }),
  value: fc.constantFrom('20.50', '20.5', '20.47', '20.30'),
  phase: fc.constant('hold'),
  round: fc.constant(1),
  role: fc.constant('between' as const),
  unit: fc.constant('mbar' as const),
  source: fc.constant('keypad' as const),
});
const odd = fc.record({
  at: fc.integer({ min: -5, max: 140 }),
  value: fc.constantFrom('20.50', '20.5', '20.47', '20.25', '+20.25', '21', '-1.00', '20.505', '999', 'x'),
  phase: fc.constantFrom('hold', 'hold', 'hold', 'let-by'),
  round: fc.constantFrom(1, 1, 1, 2),
  role: fc.constantFrom('between' as const, 'between' as const, 'between' as const, 'end' as const, 'start' as const),
  unit: fc.constantFrom('mbar' as const, 'mbar' as const, 'psi' as const),
  source: fc.constantFrom('keypad' as const, 'keypad' as const, 'simulated gauge' as const),
});

test('whatever joins: it is either told to say more, or nothing that is judged has changed', () => {
  const counted = { plain: 0, more: 0 };
  fc.assert(
    fc.property(
      fc.array(fc.oneof({ weight: 5, arbitrary: plain }, { weight: 1, arbitrary: odd }), { minLength: 1, maxLength: 4 }),
      (joined) => {
        const log = started();
        const before = [...log.events];
        const takes = onTheWay(tight, judge(tight, before), before);
        for (const { at, value, phase, round, role, unit, source } of joined)
          log.at(300 + at).read(phase, role, value, { round, unit, source });
        const read = takes(log.events.slice(before.length));
        if (read === undefined) {
          counted.more += 1;
          return;
        }
        counted.plain += 1;
        expect(judge(tight, log.events)).toEqual(judge(tight, before));
        const points = [...(read.get('hold') ?? [])].sort((a, b) => a.seconds - b.seconds);
        const drawn =
          tracesOf(tight, judge(tight, log.events), log.events, undefined, 0).find(({ phase }) => phase === 'hold')?.points ?? [];
        const [start] = tracesOf(tight, judge(tight, before), before, undefined, 0).find(({ phase }) => phase === 'hold')?.points ?? [];
        expect([start, ...points].sort((a, b) => a.seconds - b.seconds)).toEqual(drawn);
      },
    ),
    { numRuns: Number(process.env.VAST_PROPERTY_RUNS ?? 400) },
  );
  expect(Math.min(counted.plain, counted.more)).toBeGreaterThan(20);
});

test('piece by piece, for as long as it goes on', () => {
  const log = started();
  const takes = onTheWay(tight, judge(tight, log.events), [...log.events]);
  for (let second = 1; second < 100; second += 1) {
    const from = log.events.length;
    log.at(300 + second).read('hold', 'between', '20.49');
    expect(takes(log.events.slice(from))?.get('hold')).toEqual([{ seconds: second, value: 20.49 }]);
  }
});

test('a figure of another day, a simulated one among typed ones, and whatever is no figure say more', () => {
  const log = started();
  const asked = (write: () => unknown) => {
    const takes = onTheWay(tight, judge(tight, log.events), [...log.events]);
    const from = log.events.length;
    write();
    return takes(log.events.slice(from));
  };
  expect(asked(() => log.at(310).read('hold', 'between', '20.50'))).toBeDefined();
  expect(asked(() => log.at(311).write({ type: 'note', text: 'a note' }))).toBeUndefined();
  expect(asked(() => log.at(300 + 86_400).read('hold', 'between', '20.50'))).toBeUndefined();
  expect(asked(() => log.at(312).read('hold', 'between', '20.50', { source: 'simulated gauge' }))).toBeUndefined();
});
