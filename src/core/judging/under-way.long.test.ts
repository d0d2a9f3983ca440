import { procedures } from '../procedures';
import { exampleEvents, examplePlan } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import { dueOf } from './due';
import type { RunEvent } from './events';
import { judge } from './judge';
import { sampled, sampleStepMs } from './sampling';
import { heldSoFar, outcomeOf } from './state';
import { holdsUnderWay, tracesOf } from './trace';

/* What runs now, of every procedure and every fault, after every event: its clock, its hold and its trace. */

const moments = (events: readonly RunEvent[]) => events.map((_, index) => events.slice(0, index + 1));

describe.each(procedures.map(({ id }) => id))('%s', (id) => {
  const plan = examplePlan(id);
  const holds = new Map(plan.phases.flatMap((phase) => (phase.kind === 'hold' ? [[phase.id, phase] as const] : [])));

  test('a clock runs only for a hold, or for the settling that it waits for; it is due when the hold’s time is over', () => {
    for (const { id: fault } of scenariosFor(plan))
      for (const events of moments(exampleEvents(plan, fault))) {
        const judgement = judge(plan, events);
        const due = dueOf(plan, judgement);
        // Of several that run at the same time the first to be due.
        const running = judgement.phases.flatMap((state) => {
          const held = state.state === 'current' ? heldSoFar(state) : undefined;
          return held === undefined ? [] : [held.startAt + (holds.get(state.id)?.seconds ?? 0) * 1000];
        });
        if (running.length > 0) expect(due).toBe(Math.min(...running));
        else {
          const settling = judgement.phases.some((one) => outcomeOf(one) === 'settled' && heldSoFar(one)?.dueAt === judgement.openFrom);
          expect(due).toBe(settling && holds.has(judgement.current ?? '') ? judgement.openFrom : undefined);
        }
      }
  });

  test('at most a hold and its settling run; what runs has begun and was not read to its end', () => {
    for (const { id: fault } of scenariosFor(plan))
      for (const events of moments(exampleEvents(plan, fault))) {
        const judgement = judge(plan, events);
        const running = holdsUnderWay(judgement);
        expect(running.length).toBeLessThanOrEqual(2);
        for (const state of running) {
          expect(heldSoFar(state)).toBeDefined();
          expect(heldSoFar(state)?.endAt).toBeUndefined();
        }
        // The open one stands first: it is what is drawn live.
        if (running.some((state) => state.id === judgement.current)) expect(running[0].id).toBe(judgement.current);
      }
  });

  test('a trace is drawn for every hold that has begun, in order of time from its start', () => {
    const events = exampleEvents(plan, 'sound');
    const judgement = judge(plan, events);
    const traced = tracesOf(plan, judgement, events, undefined, 0);
    const begun = judgement.phases.filter((state) => holds.has(state.id) && heldSoFar(state) !== undefined);
    expect(traced.map(({ phase }) => phase)).toEqual(begun.map((state) => state.id));
    for (const { points } of traced) {
      expect(points[0]?.seconds).toBe(0);
      for (const [index, point] of points.entries()) if (index > 0) expect(point.seconds).toBeGreaterThanOrEqual(points[index - 1].seconds);
    }
  });
});

test('a simulated gauge is kept at a second, and no oftener than 3600 times in a hold of any length', () => {
  const asked: number[] = [];
  const gauge = {
    shownAt: (ms: number) => {
      asked.push(ms);
      return '1.0';
    },
  };
  for (const seconds of [60, 3600, 3601, 86_400]) {
    asked.length = 0;
    const samples = sampled(gauge, 5000, 5000 + seconds * 1000, seconds);
    expect(samples.length).toBeLessThanOrEqual(3601);
    expect(samples[0].at).toBe(5000);
    expect(samples.map(({ at }) => at)).toEqual(asked);
    expect(sampleStepMs(seconds) % 1000).toBe(0);
    if (seconds <= 3600) expect(samples).toHaveLength(seconds + 1);
  }
});
