import fc from 'fast-check';
import { instrumentOf, unitOfHold } from '../course/instruments';
import type { HoldPhase } from '../course/phases';
import type { EventOf, RunEvent } from '../judging/events';
import { judge } from '../judging/judge';
import { heldSoFar, isSpoilt, outcomeOf } from '../judging/state';
import type { Plan } from '../planning/plan';
import { compareQuantities, decimal, decimalsOf, fromSi, toSi } from '../quantities';
import { exampleEvents, examplePlan } from '../simulation/examples.fixture';
import { procedures } from '.';

/*
 * What must hold of the readings of every procedure: a larger fall or rise is never better, the threshold itself counts, an
 * end before its time is none, and what was not read proves nothing.
 */

type Reading = EventOf<'reading'>;

const isReading = (event: RunEvent): event is Reading => event.type === 'reading';

/** The holds of a plan that a sound run reads to their end, and that judge a movement. */
function judged(plan: Plan, events: readonly RunEvent[]): readonly HoldPhase[] {
  return plan.phases.filter(
    (phase): phase is HoldPhase =>
      phase.kind === 'hold' &&
      ['no-fall', 'no-rise', 'leak-rate'].includes(phase.limit.kind) &&
      events.some((event) => isReading(event) && event.phase === phase.id && event.role === 'end'),
  );
}

const mainReading = (event: RunEvent, phase: string, role: 'start' | 'end'): event is Reading =>
  isReading(event) && event.phase === phase && event.role === role && event.quantity !== 'temperature' && event.quantity !== 'barometer';

/** The log with a hold's end moved by so many steps of its instrument, its own trace taken away. */
function moved(plan: Plan, events: readonly RunEvent[], phase: HoldPhase, steps: number): readonly RunEvent[] {
  const { readability } = instrumentOf(plan, phase.instrument);
  return events
    .filter((event) => !(event.type === 'trace' && event.phase === phase.id))
    .map((event) => {
      if (!mainReading(event, phase.id, 'end')) return event;
      const value = (Number(event.value) + steps * Number(readability)).toFixed(decimalsOf(readability));
      return { ...event, value, typed: value };
    });
}

/** Everything up to a hold's end reading, so that what the rest of the log says of another course does not matter. */
const upToEnd = (events: readonly RunEvent[], phase: string): readonly RunEvent[] =>
  events.slice(0, events.findLastIndex((event) => isReading(event) && event.phase === phase && event.role === 'end') + 1);

const stateOf = (plan: Plan, events: readonly RunEvent[], phase: string) => judge(plan, events).phases.find(({ id }) => id === phase);

/** Steps of the instrument that make a movement of the threshold, rounded up. */
function stepsOf(plan: Plan, phase: HoldPhase, figure: string): number {
  const { readability, unit } = instrumentOf(plan, phase.instrument);
  const inGauge = fromSi(toSi(Number(figure), unitOfHold(plan, phase)), unit);
  return Math.ceil(inGauge / Number(readability) - 1e-6);
}

const fell = new Set(['fall', 'slight', 'permitted', 'reduced', 'shut-down']);

describe.each(procedures.filter(({ id }) => id !== 'pool-dye-static' && id !== 'duct-tightness').map(({ id }) => id))('%s', (id) => {
  const plan = examplePlan(id);
  const events = exampleEvents(plan, 'sound');
  const holds = judged(plan, events);

  test('a fall of the threshold counts, one step less does not', () => {
    for (const phase of holds) {
      if (phase.limit.kind !== 'no-fall' || phase.corrects !== undefined) continue;
      const at = stepsOf(plan, phase, phase.limit.threshold);
      const start = events.find((event) => mainReading(event, phase.id, 'start')) as Reading;
      const end = events.find((event) => mainReading(event, phase.id, 'end')) as Reading;
      // What a sound plant moved by itself is taken back first.
      const base = Math.round((Number(start.value) - Number(end.value)) / Number(instrumentOf(plan, phase.instrument).readability));
      const outcome = (steps: number) => outcomeOf(stateOf(plan, upToEnd(moved(plan, events, phase, base - steps), phase.id), phase.id));
      expect({ phase: phase.id, outcome: outcome(at - 1) }).toEqual({ phase: phase.id, outcome: 'tight' });
      expect({ phase: phase.id, fell: fell.has(outcome(at) ?? '') }).toEqual({ phase: phase.id, fell: true });
    }
  });

  test('a rise of the threshold is no pass either', () => {
    for (const phase of holds) {
      if (phase.limit.kind === 'leak-rate' || phase.corrects !== undefined) continue;
      const { threshold } = phase.limit as { readonly threshold: string };
      const rise = phase.limit.kind === 'no-fall' ? phase.limit.rise?.noted : undefined;
      const at = stepsOf(plan, phase, rise ?? threshold);
      const start = events.find((event) => mainReading(event, phase.id, 'start')) as Reading;
      const end = events.find((event) => mainReading(event, phase.id, 'end')) as Reading;
      const base = Math.round((Number(start.value) - Number(end.value)) / Number(instrumentOf(plan, phase.instrument).readability));
      const found = stateOf(plan, upToEnd(moved(plan, events, phase, base + at), phase.id), phase.id);
      // One so small that the weather may make it is looked at once more.
      expect({ phase: phase.id, risen: ['rise', 'slight'].includes(outcomeOf(found) ?? '') }).toEqual({ phase: phase.id, risen: true });
    }
  });

  test('the further it falls, the worse or the same, never better', () => {
    for (const phase of holds) {
      const order =
        phase.limit.kind === 'leak-rate'
          ? ['rise', 'unrestricted', 'reduced', 'shut-down']
          : ['rise', 'steady', 'tight', 'permitted', 'slight', 'fall'];
      // A figure under the instrument's range is refused, and the hold goes on: no result, so never a better one.
      const rank = (steps: number) => {
        const outcome = outcomeOf(stateOf(plan, upToEnd(moved(plan, events, phase, -steps), phase.id), phase.id));
        return outcome === undefined ? order.length : order.indexOf(outcome);
      };
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 30 }), (steps, more) => rank(steps) <= rank(steps + more)),
        { numRuns: 25 },
      );
    }
  });

  test('an end before its time is none', () => {
    for (const phase of holds) {
      const start = events.find((event) => mainReading(event, phase.id, 'start')) as Reading;
      const early = upToEnd(events, phase.id)
        .filter((event) => !(event.type === 'trace' && event.phase === phase.id))
        .map((event) =>
          mainReading(event, phase.id, 'end') ? { ...event, observedAt: start.observedAt + phase.seconds * 1000 - 1 } : event,
        );
      expect(heldSoFar(stateOf(plan, early, phase.id))?.endAt).toBeUndefined();
    }
  });

  test('a start outside its band begins nothing', () => {
    for (const phase of holds) {
      const { unit, readability } = instrumentOf(plan, phase.instrument);
      const beyond = fromSi(toSi(Number(phase.band.high), unitOfHold(plan, phase)), unit) * 1.2 + 10 * Number(readability);
      const value = beyond.toFixed(decimalsOf(readability));
      const instrument = instrumentOf(plan, phase.instrument);
      if (compareQuantities(decimal(value), unit, decimal(instrument.rangeHigh), unit) > 0) continue;
      const wrong = upToEnd(events, phase.id).map((event) =>
        mainReading(event, phase.id, 'start') ? { ...event, value, typed: value } : event,
      );
      expect({ phase: phase.id, start: heldSoFar(stateOf(plan, wrong, phase.id))?.startAt }).toEqual({ phase: phase.id, start: undefined });
    }
  });

  test('a disturbance that is never waived voids the hold', () => {
    for (const phase of holds) {
      const start = events.find((event) => mainReading(event, phase.id, 'start')) as Reading;
      const seen: RunEvent = {
        ...start,
        id: '00000000-0000-4000-8000-0000000fffff',
        seq: 100_000,
        observedAt: start.observedAt + 1000,
        type: 'disturbance',
        phase: phase.id,
        round: 1,
        what: 'valve moved',
        text: 'Somebody turned it.',
      } as RunEvent;
      const found = stateOf(plan, [...upToEnd(events, phase.id), seen], phase.id);
      expect({ phase: phase.id, outcome: outcomeOf(found), spoilt: isSpoilt(found) }).toEqual({
        phase: phase.id,
        outcome: 'void',
        spoilt: true,
      });
    }
  });
});
