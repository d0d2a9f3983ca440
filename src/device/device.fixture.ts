import { randomUUID } from 'node:crypto';
import 'fake-indexeddb/auto';
import { type DeviceStore, type LocalPerson, storeOf } from './store';

/* A device for tests: its store in memory, and a server that answers as it is told. */

const kept = new Map<string, string>();
Object.assign(globalThis, {
  localStorage: {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  },
});

export const person: LocalPerson = { userId: randomUUID(), firmId: randomUUID(), name: 'Test technician', role: 'technician' };

export const freshStore = (): DeviceStore => storeOf(person.firmId, randomUUID());

export interface Call {
  readonly address: string;
  readonly body: unknown;
  /** The key by which it is taken when nobody is signed in. */
  readonly delivery?: string;
}

interface Answer {
  readonly status?: number;
  readonly body?: unknown;
  /** A page that is not the server's; or the connection breaks in the middle of what it says. */
  readonly instead?: 'another page' | 'half an answer';
}

const halfAnAnswer = () =>
  new ReadableStream({
    start: (stream) => {
      stream.enqueue(new TextEncoder().encode('{"receipts":['));
      stream.error(new TypeError('Failed to fetch'));
    },
  });

/** Stands in for the server: every call is kept, and `answer` says what comes back; a thrown error is a lost signal. */
export function serve(answer: (call: Call) => Answer | Promise<Answer>): Call[] {
  const calls: Call[] = [];
  globalThis.fetch = (async (input: string | URL | Request, options?: RequestInit) => {
    const body = typeof options?.body === 'string' ? JSON.parse(options.body) : options?.body;
    const delivery = new Headers(options?.headers).get('delivery-key');
    const call = { address: String(input), body, ...(delivery === null ? {} : { delivery }) };
    calls.push(call);
    const { status = 200, body: sent = null, instead } = await answer(call);
    if (instead !== undefined)
      return new Response(instead === 'half an answer' ? halfAnAnswer() : '<h1>Sign in to Quay WiFi</h1>', { status });
    return new Response(JSON.stringify(sent), { status });
  }) as typeof fetch;
  return calls;
}
