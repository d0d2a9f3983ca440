import type { Problem } from '@/core/quantities';

/** Statuses that a refusal has over HTTP. */
export type Refusal = 400 | 401 | 403 | 404 | 409 | 413 | 429 | 500 | 503;

/** What a command or query answers: a value, or a problem with the status it has over HTTP. */
export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly status: Refusal;
      readonly problem: Problem /** When asking again may help, seconds. */;
      readonly retryAfter?: number /** What to bring along then. */;
      readonly ticket?: string;
    };

export const answer = <T>(value: T): Answer<T> => ({ ok: true, value });
export const refuse = (status: Refusal, code: string, message: string, field?: string): Answer<never> => ({
  ok: false,
  status,
  problem: { code, message, field },
});

/** Asked too often or too much at once: `seconds` says when to ask again. */
export const later = (status: 429 | 503, code: string, message: string, seconds: number, ticket?: string): Answer<never> => ({
  ok: false,
  status,
  problem: { code, message },
  retryAfter: Math.max(1, Math.ceil(seconds)),
  ...(ticket === undefined ? {} : { ticket }),
});

/** The same for what is absent and for what is another firm's, so that nothing leaks. */
export const notFound: Answer<never> = {
  ok: false,
  status: 404,
  problem: { code: 'not-found', message: 'There is no such thing here. Go back and choose it from the list.' },
};

export const isUuid = (text: unknown): text is string =>
  typeof text === 'string' && /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/.test(text);
