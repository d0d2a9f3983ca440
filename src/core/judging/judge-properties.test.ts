import fc from 'fast-check';
import { canonical } from '../exact/canonical';
import { eventsFor } from '../simulation/examples.fixture';
import { build, permitting } from './cases.fixture';
import { lists, sentenceOf } from './catalogue';
import { type Body, dateText } from './events';
import { judge } from './judge';

describe('properties', () => {
  const scenarioLogs = ['sound', 'small-leak', 'let-by', 'masked-leak', 'gross-leak', 'warming', 'unzeroed', 'sticky'].map((fault) => ({
    fault,
    events: eventsFor(permitting, fault),
  }));

  test.each([
    ['sound', 'pass'],
    ['small-leak', 'pass with permitted drop'],
    ['pipework-leak', 'fail'],
    ['gross-leak', 'fail'],
    ['let-by', 'fail'],
    ['masked-leak', 'fail'],
    ['warming', 'inconclusive'],
    ['unzeroed', 'invalid'],
    ['sticky', 'invalid'],
  ])('simulated plant “%s” comes to %s, at ten seeds', (fault, expected) => {
    for (let seed = 1; seed <= 10; seed += 1) expect(judge(permitting, eventsFor(permitting, fault, seed)).verdict).toBe(expected);
  });

  test('the order and repetition in which events are handed in change nothing', () => {
    fc.assert(
      fc.property(fc.constantFrom(...scenarioLogs), fc.infiniteStream(fc.nat()), ({ events }, keys) => {
        const shuffled = events
          .map((event) => ({ event, key: keys.next().value ?? 0 }))
          .sort((a, b) => a.key - b.key)
          .map(({ event }) => event);
        return canonical(judge(permitting, [...shuffled, ...shuffled.slice(0, 3)])) === canonical(judge(permitting, events));
      }),
      { numRuns: 60 },
    );
  });

  test('no part of a sound log is a pass, only the whole: every prefix is in progress', () => {
    const events = eventsFor(permitting, 'sound');
    for (let count = 0; count < events.length; count += 1) expect(judge(permitting, events.slice(0, count)).verdict).toBe('in progress');
    expect(judge(permitting, events).verdict).toBe('pass');
  });

  test('leaving out any one reading or check of a sound log never gives a pass', () => {
    const events = eventsFor(permitting, 'sound');
    for (const [index, event] of events.entries())
      if (event.type === 'reading' || event.type === 'check')
        expect(
          judge(
            permitting,
            events.filter((_, place) => place !== index),
          ).verdict,
        ).not.toMatch(/^pass/);
  });

  test('nothing that a log can hold makes the judge throw, and what it answers is canonical', () => {
    const phase = fc.constantFrom(...permitting.phases.map(({ id }) => id), 'nowhere');
    const body = fc.oneof(
      fc.record({
        type: fc.constant('reading'),
        phase,
        round: fc.integer({ min: 1, max: 3 }),
        role: fc.constantFrom('zero', 'start', 'between', 'end'),
        quantity: fc.constantFrom('pressure', 'temperature'),
        value: fc.constantFrom('0.00', '8.50', '20.50', '-3', '1e9', ''),
        unit: fc.constantFrom('mbar', 'C', 'psi'),
        typed: fc.string(),
        source: fc.constant('keypad'),
      }),
      fc.record({ type: fc.constant('observation'), phase, round: fc.constant(1), option: fc.constantFrom('dry', 'bubbles', 'x') }),
      fc.record({ type: fc.constant('check'), phase, item: fc.string(), state: fc.constantFrom('done', 'undone') }),
      fc.record({ type: fc.constantFrom('smell', 'pen', 'note', 'stopped'), text: fc.string(), reason: fc.string() }),
      fc.record({ type: fc.constant('restart'), phase, round: fc.integer({ min: 0, max: 4 }), reason: fc.string() }),
      fc.record({ type: fc.constant('withdrawn'), reading: fc.string(), reason: fc.string() }),
    );
    fc.assert(
      fc.property(fc.array(fc.record({ body, at: fc.integer({ min: 0, max: 900_000 }) }), { maxLength: 25 }), (steps) => {
        const log = build(permitting);
        for (const step of steps) log.at(step.at / 1000).write(step.body as unknown as Body);
        const judged = judge(permitting, log.events);
        return canonical(judged).length > 0 && !/^pass/.test(judged.verdict);
      }),
      { numRuns: 300 },
    );
  });

  test('every reason says something, its codes are distinct, and none is empty', () => {
    const all = lists.flatMap((list) => Object.keys(list));
    expect(new Set(all).size).toBe(all.length);
    for (const code of all) expect(sentenceOf({ code, data: { text: '', outcome: '', bands: '' } }).length).toBeGreaterThan(10);
  });
});

test('civil dates without the engine’s calendar agree with it', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -60_000_000_000_000, max: 250_000_000_000_000 }),
      (ms) => dateText(ms) === new Date(ms).toISOString().replace(/^\+00/, '').slice(0, 10) || ms < -62_135_596_800_000,
    ),
  );
});
