import { NextResponse } from 'next/server';
import type { Actor } from './actor';
import type { Answer } from './answers';
import { currentActor } from './auth';

/** Turns answers into responses; the only place that knows HTTP's shape of a problem. */
export const respond = <T>(result: Answer<T>): NextResponse =>
  result.ok ? NextResponse.json(result.value ?? null) : NextResponse.json({ problem: result.problem }, { status: result.status });

const problem = (status: number, code: string, message: string): NextResponse =>
  NextResponse.json({ problem: { code, message } }, { status });

/** Runs a handler for a signed-in person; a write must come from our own pages. */
export async function asActor(request: Request, work: (actor: Actor) => Promise<Response>): Promise<Response> {
  if (request.method !== 'GET' && !sameOrigin(request))
    return problem(403, 'other-origin', 'This was sent from another site and was refused.');
  const actor = await currentActor(request.headers);
  return actor === undefined ? problem(401, 'signed-out', 'Sign in first.') : work(actor);
}

/** Browsers say where a write comes from; a form on another site cannot hide it. */
export function sameOrigin(request: Request): boolean {
  const origin = request.headers.get('origin');
  if (origin === null) return request.headers.get('sec-fetch-site') !== 'cross-site';
  return new URL(origin).host === request.headers.get('host');
}

/** The body as JSON, or a plain problem. */
export async function jsonBody(
  request: Request,
): Promise<{ readonly ok: true; readonly value: Record<string, unknown> } | { readonly ok: false; readonly response: NextResponse }> {
  try {
    const value: unknown = await request.json();
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) return { ok: true, value: value as Record<string, unknown> };
  } catch {
    // Falls through to the one answer for everything that is no JSON object.
  }
  return { ok: false, response: problem(400, 'not-json', 'What was sent is not JSON.') };
}

export const download = (body: BodyInit, type: string, name: string, inline = false): Response =>
  new Response(body, {
    headers: {
      'content-type': type,
      'content-disposition': `${inline ? 'inline' : 'attachment'}; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  });
