import { type Plan, planHash, planTest } from '../planning/plan';
import { procedures } from '../procedures';
import type { Figure } from '../procedures/procedure';
import { decimal, toNumber } from '../quantities';
import { exampleEvents, exampleFor, examplePlan } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import type { RunEvent } from './events';
import { judge } from './judge';

/* Doubt never passes (DOMAIN 4.23): on the same events a stricter rule, a larger doubt, a coarser gauge or a missing figure. */

const favours = (plan: Plan, events: readonly RunEvent[]): boolean =>
  ['pass', 'pass with permitted drop', 'restricted'].includes(judge(plan, events).provisional);

const sealed = (plan: Plan): Plan => ({ ...plan, hash: planHash(plan) });

/** Figures on the stricter side, near and far; none where the procedure's own is the strictest. */
function stricterOnes({ value, stricter, bound }: Figure): readonly string[] {
  const { scale } = decimal(value);
  const from = toNumber(decimal(value));
  const to = bound === undefined ? from * (stricter === 'higher' ? 2 : 0.5) : Number(bound);
  return [0.1, 0.5, 1]
    .map((share) => (from + share * (to - from)).toFixed(Math.min(9, scale + (stricter === 'lower' ? 2 : 0))))
    .filter((one) => (stricter === 'higher' ? Number(one) > from : Number(one) < from && Number(one) > 0));
}

describe.each(procedures.map((procedure) => [procedure.id, procedure] as const))('%s', (id, procedure) => {
  const plan = examplePlan(id);
  const logs = scenariosFor(plan).flatMap((scenario) =>
    [3, 7].map((seed) => ({ scenario: scenario.id, events: exampleEvents(plan, scenario.id, seed) })),
  );
  const poor = logs.filter(({ events }) => !favours(plan, events));

  test('some of its faults are no pass; these stay none under every stricter house rule', () => {
    if (id !== 'pool-dye-static') expect(poor.length).toBeLessThan(logs.length);
    expect(poor.length).toBeGreaterThan(0);
    let judged = 0;
    for (const figure of procedure.figures)
      for (const value of stricterOnes(figure)) {
        const ruled = planTest(exampleFor(id, { houseRules: [{ procedure: id, figure: figure.id, value, reference: 'House 1' }] }));
        if (!ruled.ok) continue;
        for (const { scenario, events } of poor) {
          judged += 1;
          expect({ figure: figure.id, value, scenario, favours: favours(ruled.value.plan, events) }).toEqual({
            figure: figure.id,
            value,
            scenario,
            favours: false,
          });
        }
      }
    if (procedure.figures.length > 0) expect(judged).toBeGreaterThan(0);
  });

  test('a coarser gauge at the same threshold, and a larger doubt of temperature or barometer, make no pass', () => {
    const instrumentsOf = (times: number): Plan['gauge'] => ({
      ...plan.gauge,
      readability: (Number(plan.gauge.readability) * times).toFixed(4),
    });
    for (const changed of [sealed({ ...plan, gauge: instrumentsOf(2) }), sealed({ ...plan, gauge: instrumentsOf(5) })])
      for (const { scenario, events } of poor)
        expect({ scenario, favours: favours(changed, events) }).toEqual({ scenario, favours: false });
    // A thermometer that was read to whole degrees where it could be read to tenths.
    for (const { scenario, events } of poor) {
      const coarse = events.map((event) =>
        event.type === 'reading' && event.quantity === 'temperature' ? { ...event, value: Number(event.value).toFixed(0) } : event,
      );
      const same = events.every(
        (event, index) =>
          event === coarse[index] || Number((event as { value: string }).value) === Number((coarse[index] as { value: string }).value),
      );
      if (same) expect({ scenario, favours: favours(plan, coarse) }).toEqual({ scenario, favours: false });
    }
  });

  test('leaving out any one figure that the plan asks for makes no pass of what was none', () => {
    const asks = new Set(plan.phases.flatMap((phase) => (phase.kind === 'hold' && phase.corrects?.needed !== 'nothing' ? [phase.id] : [])));
    for (const { scenario, events } of poor)
      for (const [index, event] of events.entries()) {
        if (event.type !== 'reading' || event.role === 'between') continue;
        const alongside = event.quantity === 'temperature' || event.quantity === 'barometer';
        if (alongside && !asks.has(event.phase)) continue;
        expect({
          scenario,
          index,
          favours: favours(
            plan,
            events.filter((one) => one !== event),
          ),
        }).toEqual({ scenario, index, favours: false });
      }
  });
});

test('a thermometer that shows no change takes no pass away', () => {
  let judged = 0;
  for (const { id } of procedures) {
    const plan = examplePlan(id);
    if (plan.medium.startsWith('water')) continue;
    for (const scenario of scenariosFor(plan)) {
      const events = exampleEvents(plan, scenario.id);
      if (!favours(plan, events)) continue;
      const has = new Set(events.flatMap((event) => (event.type === 'reading' && event.quantity === 'temperature' ? [event.phase] : [])));
      const read = events.flatMap((event, index) => {
        if (
          event.type !== 'reading' ||
          event.quantity !== 'pressure' ||
          (event.role !== 'start' && event.role !== 'end') ||
          has.has(event.phase)
        )
          return [event];
        const temperature: RunEvent = {
          ...event,
          id: `f0000000-0000-4000-8000-${String(index).padStart(12, '0')}`,
          quantity: 'temperature',
          value: '15.0',
          unit: 'C',
          typed: '',
        };
        return event.role === 'start' ? [event, temperature] : [temperature, event];
      });
      const placed = read.map((event, index) => ({ ...event, position: index + 1 }));
      judged += 1;
      expect({ id, scenario: scenario.id, favours: favours(plan, placed) }).toEqual({ id, scenario: scenario.id, favours: true });
    }
  }
  expect(judged).toBeGreaterThan(10);
});
