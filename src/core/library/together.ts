import { alarmsOf, type Day, sideBySide } from '../planning/side-by-side';
import { type Procedure, procedures } from '../procedures';

/** Another test that is usually done at once, and the shortest way to do both alone. */
export interface Together {
  readonly id: string;
  readonly title: string;
  readonly day: Day;
  readonly alarms: ReturnType<typeof alarmsOf>;
}

/** Whether a task of one waits for a task of the other. */
const waitsFor = (one: Procedure, other: Procedure): boolean =>
  one.tasks.some(({ after }) => after !== undefined && other.tasks.some(({ title }) => title === after));

/** The test that a procedure is usually done with, where its tasks say so. */
export function togetherWith(procedure: Procedure): Together | undefined {
  const other = procedures.find((one) => one.id !== procedure.id && (waitsFor(procedure, one) || waitsFor(one, procedure)));
  if (other === undefined) return undefined;
  const day = sideBySide([procedure, other].map(({ id, title, tasks }) => ({ id, title, tasks })));
  return day === undefined ? undefined : { id: other.id, title: other.title, day, alarms: alarmsOf(day) };
}
