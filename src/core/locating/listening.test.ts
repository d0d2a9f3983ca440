import { LogBuilder } from '../judging/log-builder.fixture';
import { examplePlan } from '../simulation/examples.fixture';
import type { SearchMethod } from './likelihood';
import { loudestOf, readSpot, spotsOf } from './listening';

const plan = examplePlan('pool-lines-pressure');
const log = () => new LogBuilder(plan);
const heard = (one: LogBuilder, at: string, loudness: number, method: SearchMethod = 'listening', section = 'return') =>
  one.write({ type: 'heard', section, at, loudness, method });

test('a place along the route in whatever unit it was paced', () => {
  expect(readSpot('12.5')).toEqual({ ok: true, value: 12.5 });
  const feet = readSpot('41 ft');
  expect(feet.ok && feet.value).toBeCloseTo(12.497, 3);
  expect(readSpot('by the hedge').ok).toBe(false);
});

test('spots stand along the route, those withdrawn do not', () => {
  const one = heard(heard(heard(log(), '14', 3), '41 ft', 8), '9', 1);
  expect(spotsOf(one.events).map(({ at }) => at)).toEqual(['9', '41 ft', '14']);
  one.write({ type: 'withdrawn', reading: one.events[1].id, reason: 'A pump ran' });
  expect(spotsOf(one.events).map(({ at }) => at)).toEqual(['9', '14']);
});

test('the loudest wants a second witness of another kind at the same place', () => {
  expect(loudestOf(log().events)).toBeUndefined();
  expect(loudestOf(heard(log(), '9', 0).events)).toBeUndefined();
  const one = heard(heard(log(), '9', 2), '12.5', 8);
  expect(loudestOf(one.events)).toMatchObject({ spot: { at: '12.5' }, witnessed: false });
  // The same ear again, another place, another line: none is a witness.
  heard(one, '12.4', 7);
  heard(one, '16', 6, 'ultrasound or tracer gas');
  heard(one, '12.5', 6, 'ultrasound or tracer gas', 'skimmer');
  expect(loudestOf(one.events)?.witnessed).toBe(false);
  heard(one, '13.2', 5, 'ultrasound or tracer gas');
  expect(loudestOf(one.events)?.witnessed).toBe(true);
});
