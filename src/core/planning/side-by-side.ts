import type { SupplyNeed, Task } from '../procedures/procedure';

/** A test on a site's day, with the tasks that it is made of. */
export interface DayTest {
  readonly id: string;
  readonly title: string;
  readonly tasks: readonly Task[];
  /** What only one test at a time can have, from its first task to the end of its last: a gauge, a test ball, plugs. */
  readonly needs?: readonly string[];
}

export interface DayWishes {
  /** Pairs of hands. */
  readonly people?: number;
  /** Tests by id in the order in which they are begun; any order where it is left out. */
  readonly order?: readonly string[];
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
  /** Whose hands, counted from 0. */
  readonly person: number;
  readonly supply?: SupplyNeed;
  /** What can be done while it waits. */
  readonly meanwhile?: string;
}

export interface Day {
  readonly tasks: readonly Placed[];
  readonly minutes: number;
  /** Minutes if the tests were done one after the other. */
  readonly oneByOne: number;
}

/** Most placings that are looked at: two or three tests of a handful of tasks each are looked at whole. */
const mostPlacings = 200_000;

/**
 * Lays tests out side by side (DOMAIN 11): the order of their tasks that ends soonest. A task keeps its place within its
 * test; never more hands are needed than there are; a task that waits for another test's comes after it; a supply is not
 * turned while another test still needs it as it is; and what only one test can have is handed on when that test is over.
 * Of equally short days the first found is taken, so the answer never changes. Of many tests only so many orders are
 * looked at, and the best of them is given.
 * @returns undefined where the supplies of two tests contradict each other whatever the order
 */
export function sideBySide(tests: readonly DayTest[], { people = 1, order }: DayWishes = {}): Day | undefined {
  const oneByOne = tests.reduce(
    (sum, { tasks }) => sum + tasks.reduce((time, task) => time + task.activeMinutes + task.passiveMinutes, 0),
    0,
  );
  let best: Day | undefined;
  let looked = 0;
  const next = tests.map(() => 0);
  const readyAt = tests.map(() => 0);
  const hands = Array.from({ length: Math.max(1, people) }, () => 0);
  const placed: Placed[] = [];
  const total = tests.reduce((sum, { tasks }) => sum + tasks.length, 0);
  let work = tests.reduce((sum, { tasks }) => sum + tasks.reduce((time, { activeMinutes }) => time + activeMinutes, 0), 0);

  const place = (): void => {
    looked += 1;
    if (looked > mostPlacings) return;
    const endSoFar = placed.reduce((end, { endMinute }) => Math.max(end, endMinute), 0);
    // Whatever the order, the hands still have all that work before them.
    const soonest = Math.max(endSoFar, (hands.reduce((sum, free) => sum + free, 0) + work) / hands.length);
    if (best !== undefined && soonest >= best.minutes) return;
    if (placed.length === total) {
      best = { tasks: [...placed], minutes: endSoFar, oneByOne };
      return;
    }
    for (const [index, { id, tasks }] of tests.entries()) {
      const task = tasks[next[index]];
      if (task === undefined || waits(task, id, placed, tests) || turnedByOther(task, id, placed, tests, next)) continue;
      if (next[index] === 0 && !mayBegin(index, tests, next, order)) continue;
      const person = hands.indexOf(Math.min(...hands));
      const handed = next[index] === 0 ? handedOn(tests[index], tests, readyAt) : 0;
      const startMinute = Math.max(hands[person], readyAt[index], supplyFree(task, id, placed), handed);
      const freeMinute = startMinute + task.activeMinutes;
      const endMinute = freeMinute + task.passiveMinutes;
      const before = [readyAt[index], hands[person]] as const;
      next[index] += 1;
      readyAt[index] = endMinute;
      hands[person] = freeMinute;
      work -= task.activeMinutes;
      placed.push({
        test: id,
        task: task.title,
        startMinute,
        freeMinute,
        endMinute,
        person,
        supply: task.supply,
        meanwhile: task.meanwhile,
      });
      place();
      placed.pop();
      work += task.activeMinutes;
      [readyAt[index], hands[person]] = before;
      next[index] -= 1;
    }
  };
  place();
  return best;
}

const shares = ({ needs = [] }: DayTest, other: DayTest): boolean => needs.some((need) => other.needs?.includes(need) === true);

/** A test begins once those before it in the wished order have, and while no other has what it needs. */
function mayBegin(index: number, tests: readonly DayTest[], next: readonly number[], order: readonly string[] | undefined): boolean {
  const before = order?.slice(0, order.indexOf(tests[index].id)) ?? [];
  return tests.every(
    (other, place) =>
      place === index ||
      ((!before.includes(other.id) || next[place] > 0) &&
        (next[place] === 0 || next[place] === other.tasks.length || !shares(tests[index], other))),
  );
}

/** When the last test that had something this one needs was over. */
const handedOn = (test: DayTest, tests: readonly DayTest[], readyAt: readonly number[]): number =>
  tests.reduce((end, other, place) => (other !== test && shares(test, other) ? Math.max(end, readyAt[place]) : end), 0);

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
