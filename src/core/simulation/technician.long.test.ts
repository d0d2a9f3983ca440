import { instrumentOf } from '../course/instruments';
import type { RunEvent } from '../judging/events';
import { judge } from '../judging/judge';
import { procedures } from '../procedures';
import { decimal } from '../quantities';
import { eventsFor, exampleDay, exampleEvents, examplePlan, jobFor } from './examples.fixture';
import { scenariosFor } from './plants';
import { simulateRun } from './technician';

/* The simulated technician: does what the plan says, writes down what was done, and knows when to stop. */

const acts = (events: readonly RunEvent[]) => events.flatMap((event) => (event.type === 'plant' ? [`${event.action} ${event.value}`] : []));
const readings = (events: readonly RunEvent[], phase: string) =>
  events.flatMap((event) => (event.type === 'reading' && event.phase === phase ? [event] : []));

describe.each(procedures.map(({ id }) => id))('%s', (id) => {
  const plan = examplePlan(id);
  const events = exampleEvents(plan, 'sound');

  test('every event has its place: rising counts, times that do not go back, one pen', () => {
    expect(events.map(({ seq }) => seq)).toEqual(events.map((_, index) => index + 1));
    expect(new Set(events.map((event) => event.id)).size).toBe(events.length);
    for (const [index, event] of events.entries()) {
      expect(event.enteredAt).toBeGreaterThanOrEqual(event.observedAt);
      expect(event.position).toBe(index + 1);
    }
    expect(events.filter(({ type }) => type === 'pen')).toHaveLength(1);
  });

  test('each reading is a step of its instrument, from the simulated gauge', () => {
    for (const event of events) {
      if (event.type !== 'reading' || event.quantity === 'temperature' || event.quantity === 'barometer') continue;
      // What is pumped back during a hold is read on the vessel, not on the hold's gauge.
      if (event.role === 'between') continue;
      const phase = plan.phases.find((one) => one.id === event.phase);
      const role =
        phase?.kind === 'measure'
          ? phase.fields.find((field) => field.quantity === event.quantity)?.instrument
          : phase?.kind === 'hold' || phase?.kind === 'zero'
            ? phase.instrument
            : undefined;
      const { readability, unit } = instrumentOf(plan, role);
      const steps = Number(event.value) / Number(readability);
      expect(event.unit).toBe(unit);
      expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
      expect(decimal(event.value).scale).toBeLessThanOrEqual(decimal(readability).scale);
      expect(event.source).toBe('simulated gauge');
    }
  });

  test('cautions are acknowledged before their phase, and every hold is waited out', () => {
    for (const phase of plan.phases) {
      const first = events.findIndex((event) => 'phase' in event && event.phase === phase.id);
      if (first < 0) continue;
      const before = events.slice(0, first).flatMap((event) => (event.type === 'caution' ? [event.caution] : []));
      for (const caution of phase.cautions) expect(before).toContain(caution);
      if (phase.kind !== 'hold' || phase.limit.kind === 'wait') continue;
      const [start, end] = ['start', 'end'].map((role) => readings(events, phase.id).find((event) => event.role === role));
      if (start !== undefined && end !== undefined) expect(end.observedAt - start.observedAt).toBeGreaterThanOrEqual(phase.seconds * 1000);
    }
  });

  test('whatever the fault, the job comes to an end', () => {
    for (const scenario of scenariosFor(plan)) expect(judge(plan, exampleEvents(plan, scenario.id)).verdict).not.toBe('in progress');
    const reached = new Set(events.flatMap((event) => ('phase' in event ? [event.phase] : [])));
    for (const smellBefore of [...reached].slice(1, 4)) {
      const smelt = eventsFor(plan, 'sound', 3, { smellBefore, startAt: exampleDay });
      expect({ smellBefore, verdict: judge(plan, smelt).provisional }).toEqual({ smellBefore, verdict: 'fail' });
    }
  });
});

test('a list that names pressures is raised step by step; who is hasty goes to the last at once and ticks all the same', () => {
  const plan = examplePlan('pool-lines-pressure');
  const ticked = (events: readonly RunEvent[]) => events.filter((event) => event.type === 'check' && event.phase === 'rise').length;
  const [careful, hasty] = ['sound', 'fast-rise'].map((fault) => exampleEvents(plan, fault));
  expect(acts(careful).filter((one) => one.startsWith('raise'))).toEqual(['raise 5.0', 'raise 10.0', 'raise 15.0', 'raise 17.5']);
  expect(acts(hasty).filter((one) => one.startsWith('raise'))[0]).toBe('raise 17.5');
  expect([ticked(careful), ticked(hasty)]).toEqual([4, 4]);
});

test('a supply is left open through what it feeds, and shut by raising', () => {
  const plan = examplePlan('meter-turn-on-inches');
  expect(acts(exampleEvents(plan, 'sound')).slice(1)).toEqual(['zero 0', 'feed 1', 'raise 5.5', 'reconnect 1', 'raise 7.5', 'feed 1']);
});

test('what a step has brought into the band is left there; a let-by after it is not raised again', () => {
  const plan = examplePlan('water-isolation-hold');
  expect(acts(exampleEvents(plan, 'sound')).filter((one) => one.startsWith('raise'))).toEqual(['raise 3.55']);
});

test('a middle that lies between two marks is raised to a mark within the band', () => {
  const plan = examplePlan('refrigerant-nitrogen');
  const start = readings(exampleEvents(plan, 'sound'), 'strength-low').find(({ role }) => role === 'start');
  expect(Number(start?.value)).toBeGreaterThanOrEqual(16.3);
  expect(Number(start?.value)).toBeLessThanOrEqual(16.6);
});

test('a low-pressure hold on a gauge of its own is raised in its own unit or the plan’s, to the same pressure', () => {
  const plan = examplePlan('propane-tank-check');
  const low = readings(exampleEvents(plan, 'sound'), 'hold-low').find(({ role }) => role === 'start');
  expect(Number(low?.value)).toBeGreaterThanOrEqual(7);
  expect(Number(low?.value)).toBeLessThanOrEqual(9);
  expect(low?.unit).toBe('inH2O');
});

test('a disturbance is seen once, written down in its hold, and the hold is repeated', () => {
  const plan = examplePlan('water-isolation-hold');
  const events = exampleEvents(plan, 'water-drawn');
  const disturbed = events.filter(({ type }) => type === 'disturbance');
  expect(disturbed).toHaveLength(1);
  expect(disturbed[0]).toMatchObject({ phase: 'hold', round: 1, what: 'water drawn' });
  const restart = events.find(({ type }) => type === 'restart');
  expect(restart).toMatchObject({ phase: 'supply', round: 2 });
  expect(readings(events, 'hold').map(({ round }) => round)).toEqual([1, 2, 2]);
});

test('who never restarts ends the test at a spoilt hold', () => {
  const plan = examplePlan('water-isolation-hold');
  const events = eventsFor(plan, 'water-drawn', 3, { neverRestarts: true, startAt: exampleDay });
  expect(events.some(({ type }) => type === 'restart')).toBe(false);
  expect(events.some(({ type }) => type === 'stopped')).toBe(true);
  expect(judge(plan, events).verdict).toBe('inconclusive');
});

test('a start that will not stay in its band is tried four times, and then the test is ended', () => {
  const plan = examplePlan('propane-tank-check');
  const events = exampleEvents(plan, 'masked-leak');
  expect(readings(events, 'hold-low').filter(({ role }) => role === 'start')).toHaveLength(4);
  expect(events.find(({ type }) => type === 'stopped')).toMatchObject({ reason: expect.stringContaining('will not stay in the band') });
});

test('a pressure that does not come up is said in the phase that raises it, a measuring one too', () => {
  const plan = examplePlan('heating-hydraulic');
  const found = exampleEvents(plan, 'open-end').find(({ type }) => type === 'not-reached');
  expect(found).toMatchObject({ phase: 'air' });
  const main = examplePlan('water-main-make-up');
  expect(exampleEvents(main, 'open-end').find(({ type }) => type === 'not-reached')).toMatchObject({ phase: 'hold' });
});

test('a forgotten zero is read off the hose as it is, and the test ends', () => {
  const plan = examplePlan('propane-vehicle');
  const events = simulateRun(jobFor(plan, 'unzeroed', 3, { startAt: exampleDay }));
  expect(acts(events)).toContain('disconnect 0');
  expect(Number(readings(events, 'zero')[0]?.value)).toBeGreaterThan(0);
});
