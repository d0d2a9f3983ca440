/**
 * A fault that a user can cause, as a value. `code` is stable, `message` is the plain sentence shown to people,
 * `data` carries the numbers in it. Bugs throw; users' faults never do.
 */
export interface Problem {
  readonly code: string;
  readonly message: string;
  /** Name of the input that is at fault, where there is one. */
  readonly field?: string;
}

export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export const good = <T>(value: T): Result<T> => ({ ok: true, value });

export const bad = (code: string, message: string, field?: string): { readonly ok: false; readonly problem: Problem } => ({
  ok: false,
  problem: field === undefined ? { code, message } : { code, message, field },
});

/** A problem found by a check, as the answer of whoever checked. */
export const refuse = (problem: Problem): { readonly ok: false; readonly problem: Problem } => ({ ok: false, problem });

/** Refuses a number outside [low, high]; negated so that NaN is caught too. */
export const inRange = (value: number, low: number, high: number, name: string, unit: string): Problem | undefined =>
  !(value >= low && value <= high)
    ? {
        code: 'out-of-range',
        message: `${name} must lie between ${low} and ${high} ${unit}; it is ${value}.`,
        field: name,
      }
    : undefined;

/** The first problem of several checks, or none. */
export const firstProblem = (...checks: readonly (Problem | undefined)[]): Problem | undefined =>
  checks.find((check) => check !== undefined);
