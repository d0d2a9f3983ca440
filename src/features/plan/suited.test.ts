import { planTest } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { exampleFor } from '@/core/simulation/examples.fixture';
import { equip } from './suited';

/* Which of the van's instruments a plan is made with, and why the others are not. */

const none = { gaugeId: '', instrumentIds: {} };
const gas = exampleFor('domestic-gas-millibar', { answers: { work: 'new' } });
const procedureOf = (id: string) => {
  const found = procedures.find((one) => one.id === id);
  if (found === undefined) throw new Error(`no ${id}`);
  return found;
};
const domestic = procedureOf('domestic-gas-millibar');
const { gauge } = gas;
const due = (day: string) => ({ simulated: false, calibration: { needed: true as const, last: '2025-01-01', due: day } });
const take = (van: readonly (typeof gauge)[], chosen: Partial<Parameters<typeof equip>[3]> = {}) =>
  equip(domestic, van, { ...gas, on: '2026-06-01' }, { ...none, ...chosen });

test.each(procedures.filter(({ noGauge }) => noGauge !== true).map(({ id }) => id))(
  '%s: the example’s own instruments suit, and make a plan',
  (id) => {
    const example = exampleFor(id);
    const found = equip(procedureOf(id), [example.gauge, ...Object.values(example.instruments ?? {})], example, none);
    expect(found.gauge?.id).toBeDefined();
    const planned = planTest({ ...example, ...(found.gauge === undefined ? {} : { gauge: found.gauge }), instruments: found.instruments });
    expect(planned.ok || planned.problems).toBe(true);
    for (const { role, chosen } of found.roles)
      if (role.orGauge !== true) expect([role.role, chosen?.id]).toEqual([role.role, expect.any(String)]);
  },
);

test('an empty van has nothing to offer, and says so by offering nothing', () => {
  expect(take([])).toEqual({ gauges: [], roles: [], instruments: {} });
});

test('the order: what suits, real before simulated, in calibration before overdue, the own unit, digital, the finest', () => {
  const fine = { ...gauge, ...due('2027-01-01') };
  const van = [
    { ...fine, id: 'coarse-range', rangeHigh: '10' },
    { ...fine, id: 'simulated', simulated: true },
    { ...fine, id: 'overdue', ...due('2026-01-01') },
    { ...fine, id: 'needle', kind: 'needle' as const },
    { ...fine, id: 'one decimal', readability: '0.1' },
    { ...fine, id: 'best' },
  ];
  const { gauges, gauge: chosen } = take(van);
  expect(chosen?.id).toBe('best');
  expect(gauges.map(({ instrument }) => instrument.id)).toEqual(['best', 'one decimal', 'needle', 'simulated', 'coarse-range', 'overdue']);
  expect(gauges.at(-2)?.faults[0]).toMatch(/range|reach|shows/i);
  expect(gauges.find(({ instrument }) => instrument.id === 'overdue')?.faults.length).toBeGreaterThan(0);
});

test('what was chosen by hand stands, even where another suits better; a gauge to be swapped is not taken again', () => {
  const van = [
    { ...gauge, id: 'a' },
    { ...gauge, id: 'b', readability: '0.1' },
  ];
  expect(take(van).gauge?.id).toBe('a');
  expect(take(van, { gaugeId: 'b' }).gauge?.id).toBe('b');
  expect(take(van, { avoid: 'a' }).gauge?.id).toBe('b');
  expect(take(van, { gaugeId: 'sold' }).gauge?.id).toBe('a');
  // With nothing else in the van it is still offered: whoever reads it decides.
  expect(take([van[0]], { avoid: 'a' }).gauge?.id).toBe('a');
});

test('a fault of the answers is no fault of any gauge: it is said once, beside its question', () => {
  const wrong = equip(
    domestic,
    [gauge, { ...gauge, id: 'other' }],
    { ...gas, answers: { ...gas.answers, meter: 'none such' }, on: '2026-06-01' },
    none,
  );
  for (const { faults } of wrong.gauges) expect(faults).toEqual([]);
});

describe('two instruments that are read at the same time', () => {
  const both = exampleFor('refrigerant-nitrogen');
  const set = (id: string) => ({ ...both.gauge, id, ...due('2027-01-01') });
  const of = (van: readonly (typeof gauge)[], chosen: Partial<Parameters<typeof equip>[3]> = {}) =>
    equip(procedureOf('refrigerant-nitrogen'), van, { ...both, on: '2026-06-01' }, { ...none, ...chosen });

  test('each gets its own, and either may be the gauge', () => {
    const { gauges, gauge: first, instruments } = of([set('a'), set('b')]);
    expect(gauges.map(({ faults }) => faults)).toEqual([[], []]);
    expect([first?.id, instruments.high?.id]).toEqual(['a', 'b']);
    expect(of([set('a'), set('b')], { gaugeId: 'b' }).instruments.high?.id).toBe('a');
  });

  test('the gauge itself is offered for the other place with the reason why not; one gauge alone makes no plan', () => {
    const { roles } = of([set('a'), set('b')], { gaugeId: 'a' });
    expect(roles[0].offered.find(({ instrument }) => instrument.id === 'a')?.faults[0]).toContain('is the gauge already');
    expect(planTest({ ...both, gauge: set('a'), instruments: { high: set('a') } })).toMatchObject({
      ok: false,
      problems: [{ code: 'instrument-twice', field: 'high' }],
    });
    expect(planTest({ ...both, answers: { ...both.answers, sides: 'low' }, gauge: set('a'), instruments: {} }).ok).toBe(true);
  });

  test('of itself no simulated one is put beside a real gauge where a real one is there', () => {
    const simulated = { ...set('s'), simulated: true };
    expect(of([set('a'), simulated, set('b')], { gaugeId: 'a' }).instruments.high?.id).toBe('b');
    expect(of([set('a'), { ...simulated, id: 't' }, simulated], { gaugeId: 's' }).instruments.high?.id).toBe('t');
  });
});
