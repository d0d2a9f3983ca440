import fc from 'fast-check';
import { procedures } from '@/core/procedures';
import { recordFormat, recordVersion } from '@/core/record';
import { scenariosFor } from '@/core/simulation';
import { eventsFor, exampleEvents, exampleFor, examplePlan, fixtureRun, planFor } from '@/core/simulation/examples.fixture';
import { readEvent, readPlan, readPlanInput, readRecord } from './reader';

const plan = planFor({ houseRules: [{ procedure: 'domestic-gas-millibar', figure: 'settle-seconds', value: '90', reference: 'x' }] });
const events = [...eventsFor(plan, 'small-leak'), ...eventsFor(plan, 'let-by'), ...eventsFor(plan, 'sticky')];
const record = {
  format: 'vast-stone-record',
  version: 1,
  tests: [{ attempts: [{ run: fixtureRun, number: 1, plan, events: eventsFor(plan, 'sound') }] }],
};

test('everything that the program itself makes can be read', () => {
  expect(readPlan(JSON.parse(JSON.stringify(plan))).ok).toBe(true);
  for (const event of events) expect(readEvent(JSON.parse(JSON.stringify(event)))).toEqual({ ok: true, value: event });
  expect(readRecord(JSON.stringify(record)).ok).toBe(true);
});

describe.each(procedures.map(({ id }) => id))('%s', (id) => {
  const own = examplePlan(id);
  test('its plan, its input and the events of every fault can be read back as they were written', () => {
    expect(readPlan(JSON.parse(JSON.stringify(own)))).toEqual({ ok: true, value: own });
    expect(readPlanInput(JSON.stringify(exampleFor(id))).ok).toBe(true);
    for (const scenario of scenariosFor(own))
      for (const event of exampleEvents(own, scenario.id))
        expect(readEvent(JSON.parse(JSON.stringify(event)))).toEqual({ ok: true, value: event });
  });
  test('so can the plan of an own procedure, which says its version', () => {
    const [figure] = procedures.find((procedure) => procedure.id === id)?.figures ?? [];
    if (figure === undefined) return;
    const variant = {
      id: '3f2b8c1e-5a77-4d0c-9b7e-2f6a1c9d8e04',
      base: id,
      title: 'Own',
      version: '2',
      reference: 'LC 7',
      figures: [{ figure: figure.id, value: figure.value }],
    };
    const input = exampleFor(id, { variant });
    expect(readPlanInput(JSON.stringify(input)).ok).toBe(true);
    const planned = examplePlan(id, { variant });
    expect(readPlan(JSON.parse(JSON.stringify(planned)))).toEqual({ ok: true, value: planned });
    expect(readPlan({ ...planned, procedure: { ...planned.procedure, variant: { ...variant, version: 2 } } }).ok).toBe(false);
  });
  test('a plan with a field that is not known, or a phase of no kind, is refused in words', () => {
    for (const wrong of [
      { ...own, luck: 1 },
      { ...own, phases: [{ ...own.phases[0], kind: 'dance' }] },
      { ...own, plant: 'rocket' },
    ]) {
      const read = readPlan(JSON.parse(JSON.stringify(wrong)));
      expect(!read.ok && read.problem.message.length > 20).toBe(true);
    }
  });
});

/** Every place in a value, as a path of keys. */
function places(value: unknown, path: readonly (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [[...path]];
  return [
    ...(path.length > 0 ? [[...path]] : []),
    ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...path, Array.isArray(value) ? Number(key) : key])),
  ];
}

function withChange(value: unknown, [key, ...rest]: readonly (string | number)[], change: unknown): unknown {
  if (key === undefined) return change;
  const copy: Record<string | number, unknown> = Array.isArray(value) ? ([...value] as never) : { ...(value as object) };
  copy[key] = withChange(copy[key], rest, change);
  return copy;
}

test('nonsense in any place is refused with a sentence, or is still a record; nothing throws', () => {
  const all = places(record);
  expect(all.length).toBeGreaterThan(500);
  fc.assert(
    fc.property(
      fc.constantFrom(...all),
      fc.oneof(fc.constantFrom(null, -1, 1.5, '', 'x', [], {}, true, '1,5', '∞'), fc.anything()),
      (place, nonsense) => {
        const read = readRecord(JSON.stringify(withChange(record, place, nonsense)) ?? '');
        return read.ok || read.problem.message.length > 20;
      },
    ),
    { numRuns: 400 },
  );
});

test('a mark before the first sign, as some editors put it, is no part of the file', () => {
  const record = JSON.stringify({ format: recordFormat, version: recordVersion, tests: [] });
  expect(readRecord(`\ufeff${record}`)).toEqual(readRecord(record));
  expect(readRecord('\ufeff{')).toMatchObject({ ok: false, problem: { code: 'not-json' } });
});

test('no text makes the reader throw', () => {
  fc.assert(fc.property(fc.oneof(fc.string(), fc.json()), (text) => !readRecord(text).ok));
});

test.each([
  ['a time that is no whole number', { observedAt: 1.5 }],
  ['an id that is no UUID', { id: '../../etc' }],
  ['an offset beyond the date line', { offsetMinutes: 900 }],
  ['a count of zero', { seq: 0 }],
  ['a schema of the future', { schema: 2 }],
  ['no author', { author: '' }],
])('%s is refused', (_, change) => expect(readEvent({ ...events[0], ...change }).ok).toBe(false));

test('a trace holds at most 600 whole steps', () => {
  const trace = events.find(({ type }) => type === 'trace');
  expect(readEvent({ ...trace, values: Array.from({ length: 600 }, () => 2050) }).ok).toBe(true);
  expect(readEvent({ ...trace, values: Array.from({ length: 601 }, () => 2050) }).ok).toBe(false);
  expect(readEvent({ ...trace, values: [20.5] }).ok).toBe(false);
  expect(readEvent({ ...trace, values: [2 ** 31] }).ok).toBe(false);
});
