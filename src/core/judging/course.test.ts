import { procedures } from '../procedures';
import { exampleEvents, examplePlan } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import { expectedCourse, plannedTasks } from './course';
import { judge } from './judge';

/* The way ahead, for every procedure: what is shown must be what then comes. */

describe.each(procedures.map(({ id }) => id))('%s', (id) => {
  const plan = examplePlan(id);
  const ids = (events: Parameters<typeof judge>[1]) => expectedCourse(plan, judge(plan, events)).map((phase) => phase.id);
  const order = plan.phases.map((phase) => phase.id);

  test('at every moment of a sound run: in the plan’s order, nothing twice, with the open phase in it', () => {
    const events = exampleEvents(plan, 'sound');
    for (let count = 0; count <= events.length; count += 1) {
      const shown = ids(events.slice(0, count));
      expect(new Set(shown).size).toBe(shown.length);
      expect([...shown].sort((a, b) => order.indexOf(a) - order.indexOf(b))).toEqual(shown);
      const { current } = judge(plan, events.slice(0, count));
      if (current !== undefined) expect(shown).toContain(current);
    }
  });

  test('what was done stays shown; what is foreseen at the start is a way that ends by closing the job or by its last look', () => {
    const events = exampleEvents(plan, 'sound');
    const done = judge(plan, events).phases.filter(({ state }) => state === 'done');
    expect(ids(events)).toEqual(expect.arrayContaining(done.map((phase) => phase.id)));
    const last = plan.phases.find((phase) => phase.id === ids([]).at(-1));
    const canPass = plan.conclusions.some(({ verdict }) => verdict === 'pass');
    expect(last?.kind === 'check' && last.closing).toBe(canPass);
  });

  test('however it ends, the closing list that is shown is the one for what it came to', () => {
    for (const scenario of scenariosFor(plan)) {
      const events = exampleEvents(plan, scenario.id);
      const { verdict } = judge(plan, events);
      const closing = expectedCourse(plan, judge(plan, events)).filter((phase) => phase.kind === 'check' && phase.closing);
      if (closing.length === 0) continue;
      const good = /^pass|^restricted/.test(verdict);
      expect({ fault: scenario.id, closing: closing.map((phase) => phase.id).includes('make-safe') }).toEqual({
        fault: scenario.id,
        closing: !good && plan.phases.some((phase) => phase.id === 'make-safe'),
      });
    }
  });
});

test.each(procedures.map(({ id, tasks }) => [id, tasks] as const))(
  '%s: a plan never waits less than is reckoned; a longer hold waits longer',
  (id, tasks) => {
    const plan = examplePlan(id);
    const waits = (list: typeof tasks) => list.reduce((sum, { passiveMinutes }) => sum + passiveMinutes, 0);
    const planned = plannedTasks(tasks, plan);
    expect(planned.map(({ title, activeMinutes }) => [title, activeMinutes])).toEqual(
      tasks.map(({ title, activeMinutes }) => [title, activeMinutes]),
    );
    for (const [index, task] of planned.entries()) expect(task.passiveMinutes).toBeGreaterThanOrEqual(tasks[index].passiveMinutes);
    const longer = {
      ...plan,
      phases: plan.phases.map((phase) => (phase.kind === 'hold' ? { ...phase, seconds: phase.seconds + 36_000 } : phase)),
    };
    const held = expectedCourse(plan, judge(plan, [])).some(({ kind }) => kind === 'hold');
    if (held && waits(tasks) > 0) expect(waits(plannedTasks(tasks, longer))).toBeGreaterThan(waits(planned));
  },
);
