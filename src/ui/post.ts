import { addressOf, type Posting, routeOf } from '@/core/permissions';
import type { Problem } from '@/core/quantities';

export type Asked<T> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly problem: Problem;
      /** When asking again may help, seconds. */
      readonly retryAfter?: number;
      /** To be brought along then. */
      readonly ticket?: string;
    };

/** Not `crypto.randomUUID`: that is missing over plain HTTP. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/** Ids of what was asked and not answered yet: whoever presses again after a broken connection asks the same thing, not another. */
const unanswered = new Map<string, string>();

/** Asks our own server for something, by its row in the table of routes; the problem comes back in words, also when there is no server. */
export async function post<T>(key: Posting, parts: Readonly<Record<string, string>> = {}, body: unknown = {}): Promise<Asked<T>> {
  const address = addressOf(key, parts);
  const text = JSON.stringify(body);
  const asked = `${address} ${text}`;
  const isCommand = routeOf(key).changes === 'command';
  const id = unanswered.get(asked) ?? newId();
  if (isCommand) unanswered.set(asked, id);
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...(isCommand ? { 'command-id': id } : {}) },
      body: text,
    });
    const answer = await response.json();
    // Answered: the next time is another.
    if (response.status < 500) unanswered.delete(asked);
    if (response.ok) return { ok: true, value: answer as T };
    return {
      ok: false,
      retryAfter: answer?.retryAfter,
      ticket: answer?.ticket,
      problem: answer?.problem ?? {
        code: 'server',
        message: 'The server could not do this. Try again in a moment; what you typed is still here.',
      },
    };
  } catch {
    return {
      ok: false,
      problem: { code: 'no-signal', message: 'The server cannot be reached. What you typed is still here; try again with signal.' },
    };
  }
}
