import { examplePlan } from '../simulation/examples.fixture';
import { guardLooks } from './guard';
import { guardText } from './guard-text';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';

/* The guard gauge through the finishing work (DOMAIN 5.10, 5.11). */

const rigid = examplePlan('heating-hydraulic', { answers: { pipe: 'copper', components: '', air: 'no' } });
const soft = examplePlan('underfloor-manifold');
const look = (log: LogBuilder, value: string, celsius?: string) =>
  log.write({ type: 'guard', value, unit: 'bar', source: 'keypad', ...(celsius === undefined ? {} : { celsius }) });

test('the first reading is how it was left; ten percent is no alarm, more is', () => {
  const log = new LogBuilder(rigid).at(0);
  look(look(look(log, '2.00', '15').at(86_400), '1.80', '15').at(172_800), '1.75', '15');
  const looks = guardLooks(rigid, log.events);
  expect(looks.map(({ state }) => state?.alarm)).toEqual([undefined, false, true]);
  expect(looks[2].state?.sentence).toContain('damage');
});

test('soft pipe may relax first, by the plan’s own share', () => {
  const log = new LogBuilder(soft).at(0);
  look(look(look(log, '2.00').at(86_400), '1.25').at(172_800), '1.15');
  expect(guardLooks(soft, log.events).map(({ state }) => state?.alarm)).toEqual([undefined, false, true]);
});

test('looks are taken in order of their time, whatever order they came in', () => {
  const log = new LogBuilder(rigid);
  look(log.at(172_800), '1.50', '15');
  look(log.at(0), '2.00', '15');
  expect(guardLooks(rigid, log.events).map(({ event }) => event.value)).toEqual(['2.00', '1.50']);
});

test('it changes no verdict, and a plan without a guard has none', () => {
  const log = new LogBuilder(rigid).at(0);
  const before = judge(rigid, log.events);
  look(log, '2.00');
  expect(judge(rigid, log.events)).toEqual(before);
  expect(guardLooks(examplePlan('water-isolation-hold'), log.events)).toEqual([]);
});

test('in words', () => {
  expect(guardText('1.80', 'bar', '18.0')).toBe('1.80 bar, 18.0 °C');
  expect(guardText('26', 'psi', undefined)).toBe('26 psi');
});
