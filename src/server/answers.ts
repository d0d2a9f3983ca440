import type { Problem } from '@/core/quantities';

/** What a command or query answers: a value, or a problem with the status it has over HTTP. */
export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly status: 400 | 403 | 404 | 409 | 413 | 429; readonly problem: Problem };

export const answer = <T>(value: T): Answer<T> => ({ ok: true, value });
export const refuse = (status: 400 | 403 | 409 | 413 | 429, code: string, message: string, field?: string): Answer<never> => ({
  ok: false,
  status,
  problem: { code, message, field },
});

/** The same for what is absent and for what is another firm's, so that nothing leaks. */
export const notFound: Answer<never> = {
  ok: false,
  status: 404,
  problem: { code: 'not-found', message: 'There is no such thing here. Go back and choose it from the list.' },
};
export const forbidden = (message: string): Answer<never> => refuse(403, 'not-allowed', message);

export const isUuid = (text: string): boolean => /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/.test(text);
