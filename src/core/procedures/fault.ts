import type { Conclusion } from '../course/phases';

type Comes = Conclusion['verdict'];

/** A simulated fault, what a good technician concludes from it, and by which finding; either of several where they are joined by “or”. */
export type Fault = readonly [fault: string, verdict: Comes | `${Comes} or ${Comes}`, code: string, trap?: 'trap'];

/** Answers that lie outside a procedure's scope, and the refusal that they meet. */
export type Breach = readonly [answers: Readonly<Record<string, string>>, code: string];
