import type { Conclusion } from '../course/phases';
import type { LimitCode } from '../limits';
import type { ConclusionCode } from './conclusions';

/** What the judge finds of a run itself and a fault can lead to; its list of sayings must hold them. */
export type RunCode = 'not-zeroed' | 'stopped';
type Code = ConclusionCode | LimitCode | RunCode;
type Comes = Conclusion['verdict'];

/** A simulated fault, what a good technician concludes from it, and by which finding; either of several where they are joined by “or”. */
export type Fault = readonly [fault: string, verdict: Comes | `${Comes} or ${Comes}`, code: Code | `${Code} or ${Code}`, trap?: 'trap'];

/** Answers that lie outside a procedure's scope, and the refusal that they meet. */
export type Breach = readonly [answers: Readonly<Record<string, string>>, code: string];
