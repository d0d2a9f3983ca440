import type { SupplyNeed, Task } from '../procedures/procedure';

/** A test on a site's day, with the tasks that it is made of. */
export interface DayTest {
  readonly id: string;
  readonly title: string;
  readonly tasks: readonly Task[];
}

/** A task with its place in the day, minutes from its start. */
export interface Placed {
  readonly test: string;
  readonly task: string;
  readonly startMinute: number;
  /** Hands are free from here on. */
  readonly freeMinute: number;
  /** The hold is due: its alarm sounds. */
  readonly endMinute: number;
  readonly supply?: SupplyNeed;
}

export interface Day {
  readonly tasks: readonly Placed[];
  readonly minutes: number;
  /** Minutes if the tests were done one after the other. */
  readonly oneByOne: number;
}

/** Most orders that are looked at: two or three tests of a handful of tasks each. */
const mostOrders = 200_000;

/**
 * Lays tests out side by side for one person (DOMAIN 11): the order of their tasks that ends soonest. A task keeps its
 * place within its test; two pairs of hands are never needed; a task that waits for another test's comes after it; and a
 * supply is not turned while another test still needs it as it is. Of equally short days the first found is taken, so the
 * answer never changes.
 * @returns undefined where the supplies of two tests contradict each other whatever the order
 */
export function sideBySide(tests: readonly DayTest[]): Day | undefined {
  const oneByOne = tests.reduce(
    (sum, { tasks }) => sum + tasks.reduce((time, task) => time + task.activeMinutes + task.passiveMinutes, 0),
    0,
  );
  let best: Day | undefined;
  let looked = 0;
  const next = tests.map(() => 0);
  const readyAt = tests.map(() => 0);
  const placed: Placed[] = [];

  const total = tests.reduce((sum, { tasks }) => sum + tasks.length, 0);
  const place = (hands: number): void => {
    looked += 1;
    if (looked > mostOrders) return;
    const endSoFar = placed.reduce((end, { endMinute }) => Math.max(end, endMinute), 0);
    if (best !== undefined && endSoFar >= best.minutes) return;
    if (placed.length === total) {
      best = { tasks: [...placed], minutes: endSoFar, oneByOne };
      return;
    }
    for (const [index, { id, tasks }] of tests.entries()) {
      const task = tasks[next[index]];
      if (task === undefined || waits(task, id, placed, tests) || turnedByOther(task, id, placed, tests, next)) continue;
      const startMinute = Math.max(hands, readyAt[index], supplyFree(task, id, placed));
      const freeMinute = startMinute + task.activeMinutes;
      const endMinute = freeMinute + task.passiveMinutes;
      const before = readyAt[index];
      next[index] += 1;
      readyAt[index] = endMinute;
      placed.push({
        test: id,
        task: task.title,
        startMinute,
        freeMinute,
        endMinute,
        ...(task.supply === undefined ? {} : { supply: task.supply }),
      });
      place(freeMinute);
      placed.pop();
      readyAt[index] = before;
      next[index] -= 1;
    }
  };
  place(0);
  return best;
}

/** A task of another test that this one waits for is not placed yet. */
const waits = (task: Task, own: string, placed: readonly Placed[], tests: readonly DayTest[]): boolean =>
  task.after !== undefined &&
  tests.some(({ id, tasks }) => id !== own && tasks.some(({ title }) => title === task.after)) &&
  !placed.some((one) => one.test !== own && one.task === task.after);

/** A supply is turned only once the holds that need it as it is are over. */
const supplyFree = ({ supply }: Task, own: string, placed: readonly Placed[]): number =>
  supply === undefined
    ? 0
    : placed
        .filter((one) => one.test !== own && one.supply?.of === supply.of && one.supply.state !== supply.state)
        .reduce((end, { endMinute }) => Math.max(end, endMinute), 0);

/** The supply stands otherwise, and whoever turned it has yet to turn it back: that comes first. */
function turnedByOther(
  { supply }: Task,
  own: string,
  placed: readonly Placed[],
  tests: readonly DayTest[],
  next: readonly number[],
): boolean {
  if (supply === undefined) return false;
  const last = placed.findLast((one) => one.supply?.of === supply.of);
  if (last === undefined || last.test === own || last.supply?.state === supply.state) return false;
  const other = tests.findIndex(({ id }) => id === last.test);
  return tests[other].tasks.slice(next[other]).some((task) => task.supply?.of === supply.of && task.supply.state === supply.state);
}

/** The alarms of a day, in order: when each hold is due, and what stands then. */
export const alarmsOf = ({ tasks }: Day): readonly { readonly minute: number; readonly test: string; readonly task: string }[] =>
  tasks
    .filter(({ freeMinute, endMinute }) => endMinute > freeMinute)
    .map(({ endMinute, test, task }) => ({ minute: endMinute, test, task }))
    .sort((a, b) => a.minute - b.minute);
