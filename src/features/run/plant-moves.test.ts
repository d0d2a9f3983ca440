import { heldSoFar, judge } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { examplePlan, planFor } from '@/core/simulation/examples.fixture';
import { plantMoves } from './plant-moves';
import { presentOf } from './run-model';

/* What hands would do to a simulated plant before the next figure is read. */

const gas = planFor({ answers: { work: 'new' } });
const phaseOf = (plan: typeof gas, id: string) => {
  const found = plan.phases.find((phase) => phase.id === id);
  if (found === undefined) throw new Error(`no ${id}`);
  return found;
};
const labels = (plan: typeof gas, id: string, shown?: string) =>
  plantMoves(plan, phaseOf(plan, id), undefined, [], undefined, shown).map(({ label, key }) => `${key} ${label}`);

test('a gauge is zeroed, a let-by and a settling time are raised for, whatever the gauge shows', () => {
  expect(labels(gas, 'zero')).toEqual(['Z Zero it']);
  expect(labels(gas, 'let-by', '0.00')).toEqual(['U Raise to 8.5 mbar']);
  expect(labels(gas, 'let-by', '8.50')).toEqual(['U Raise to 8.5 mbar']);
  expect(labels(gas, 'settle', '20.50')).toEqual(['U Raise to 20.5 mbar']);
});

test('the hold after settling starts as it stands while that is in its band; out of it, it is raised or lowered', () => {
  expect(labels(gas, 'hold', '20.50')).toEqual([]);
  expect(labels(gas, 'hold', '20.00')).toEqual([]);
  expect(labels(gas, 'hold', '19.80')).toEqual(['U Raise to 20.5 mbar']);
  expect(labels(gas, 'hold', '21.30')).toEqual(['U Lower to 20.5 mbar']);
});

test('relaxed pipe is never let down to the middle of the band: it would creep back and look like a rise', () => {
  const loops = examplePlan('underfloor-manifold');
  const hold = phaseOf(loops, 'hold');
  if (hold.kind !== 'hold') throw new Error('no hold');
  expect(labels(loops, 'hold', hold.band.high)).toEqual([]);
  expect(labels(loops, 'hold', hold.band.low)).toEqual([]);
  expect(labels(loops, 'hold', '0.00')).toHaveLength(1);
});

test('nothing is moved once a hold has its start, nor in a list', () => {
  const log = new LogBuilder(gas).proved().settled().at(400).read('hold', 'start', '20.50');
  const judgement = judge(gas, log.events);
  const { phase, state, ask } = presentOf(
    gas,
    judgement,
    log.events,
    (heldSoFar(judgement.phases.find(({ id }) => id === 'hold'))?.startAt ?? 0) + 1000,
  );
  expect(phase?.id).toBe('hold');
  expect(plantMoves(gas, phaseOf(gas, 'hold'), state, log.events, ask, '19.00')).toEqual([]);
  expect(labels(gas, 'prepare')).toEqual([]);
});

test('where the supply feeds it, it is opened instead', () => {
  const set = examplePlan('meter-turn-on-inches');
  const fed = set.phases.find((phase) => phase.kind === 'hold' && phase.fed === true);
  expect(labels(set, fed?.id ?? '', '0.0')).toEqual(['U Open the supply']);
});
