import type { Problem } from '@/core/quantities';

/** Sends a form to our own server; the problem comes back in words, also when there is no server. */
export async function post<T>(
  address: string,
  body?: unknown,
): Promise<{ readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem }> {
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body ?? {}),
    });
    const answer = await response.json().catch(() => undefined);
    if (response.ok) return { ok: true, value: answer as T };
    return {
      ok: false,
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
