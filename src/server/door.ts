import { randomUUID } from 'node:crypto';
import pLimit from 'p-limit';
import type { Action } from '@/core/permissions';
import { type Route, type RouteKey, routeOf, type routes } from '@/core/permissions';
import { DatabaseFault } from '@/db/fault';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, later, refuse } from './answers';
import { readerOf } from './api-tokens';
import { currentActor } from './auth';
import { jsonOf, withBody } from './body';
import { commandHeader, once } from './command';
import { delivererOf } from './delivery';
import { setting } from './environment';
import { faultFacts, log } from './log';
import { asked } from './metrics';
import { clientOf, mustWait } from './throttle';

type Row<K extends RouteKey> = (typeof routes)[K];

/** What a handler is handed: all that its row promises, looked at already. */
export interface Visit<K extends RouteKey> {
  readonly request: Request;
  readonly actor: Row<K> extends { readonly who: 'anyone' } ? undefined : Actor;
  readonly params: Readonly<Record<string, string>>;
  readonly query: URLSearchParams;
  readonly body: Row<K> extends { readonly as: 'bytes' } ? Buffer : Readonly<Record<string, unknown>>;
}

/** An answer as it goes out. */
export interface Written {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string;
}

interface Context {
  readonly params: Promise<Readonly<Record<string, string>>>;
}

export interface Handler {
  (request: Request, context: Context): Promise<Response>;
  /** The same without a Response made of what is a few words: what is asked every second costs a tenth less so. */
  readonly written: (request: Request, context: Context) => Promise<Written | Response>;
}

/**
 * A route's handler behind the door: where it came from, how often, who asks, what they may, how much they send and whether it
 * was done before are looked at here, by the route's row, and nowhere else.
 */
export function route<const K extends RouteKey>(key: K, work: (visit: Visit<K>) => Promise<Answer<unknown> | Response>): Handler {
  const row = routeOf(key);
  const visiting = work as (visit: Visit<RouteKey>) => Promise<Answer<unknown> | Response>;
  const handled = async (request: Request, context: Context): Promise<Written | Response> => {
    const started = performance.now();
    const result = await visited(key, row, request, context, visiting).catch((error: unknown) => faulted(key, error));
    const outgoing = result instanceof Response ? result : written(result);
    asked(key, outgoing.status, performance.now() - started);
    return outgoing;
  };
  return Object.assign(async (request: Request, context: Context) => responseOf(await handled(request, context)), { written: handled });
}

async function visited(
  key: RouteKey,
  row: Route,
  request: Request,
  context: Context,
  work: (visit: Visit<RouteKey>) => Promise<Answer<unknown> | Response>,
): Promise<Answer<unknown> | Response> {
  if (!key.startsWith('GET ') && !isOwnPage(request))
    return refuse(403, 'other-origin', 'This was sent from another site and was refused. Use this site’s own page.');
  const actor =
    row.who === 'anyone'
      ? undefined
      : row.who === 'token'
        ? await readerOf(request.headers)
        : ((await currentActor(request.headers)) ?? (row.delivers === true ? await delivererOf(request.headers) : undefined));
  if (row.who === 'token' && actor === undefined)
    return refuse(
      401,
      'no-token',
      'Send a token that is valid: “Authorization: Bearer …”. A supervisor makes one under Firm, Data in and out.',
    );
  if (row.who !== 'anyone' && actor === undefined) return refuse(401, 'signed-out', 'Sign in first.');
  const wait = await mustWait(key, actor?.userId ?? clientOf(request.headers));
  if (wait !== undefined) return later(429, 'too-often', `Asked too often. Try again in ${wait} s.`, wait);
  const refused = actor === undefined ? undefined : refusedTo(actor, row.who === 'token' ? 'read' : (row.who as Action));
  if (refused !== undefined) return refused;
  const visit = { request, actor, params: await context.params, query: new URL(request.url).searchParams } as Omit<Visit<RouteKey>, 'body'>;
  if (row.body === undefined) return work({ ...visit, body: {} } as Visit<RouteKey>);
  return withBody<unknown>(request, row.body, async (bytes) => {
    const body = row.as === 'bytes' ? answer(bytes) : jsonOf(bytes, key === 'POST /api/field/sync');
    if (!body.ok) return body;
    const whole = { ...visit, body: body.value } as Visit<RouteKey>;
    return row.changes === 'command' && actor !== undefined ? command(key, actor, whole, work) : work(whole);
  });
}

/** So many commands are at work at a time, and so many more wait for their turn. */
const commands = pLimit(5);
const mostWaiting = 60;

/** A command answers with a value, so that a retry can be given the same one. */
async function command(
  key: RouteKey,
  actor: Actor,
  visit: Visit<RouteKey>,
  work: (visit: Visit<RouteKey>) => Promise<Answer<unknown> | Response>,
): Promise<Answer<unknown>> {
  const id = visit.request.headers.get(commandHeader);
  if (!isUuid(id))
    return refuse(
      400,
      'no-command-id',
      `Name what you ask by an id of your own (a UUID) in the header “${commandHeader}”, and send it again with every retry.`,
    );
  const content = { key, params: visit.params, body: visit.body as never };
  // Commands wait for locks of their own: they never use up the connections that everything else needs.
  if (commands.pendingCount >= mostWaiting) return later(503, 'busy', 'The server has too much to do just now. Try again in a moment.', 3);
  return commands(() =>
    once(
      actor,
      id,
      content,
      async () => {
        const result = await work(visit);
        if (result instanceof Response) throw new TypeError(`${key} is a command and must answer with a value`);
        return result;
      },
      routeOf(key).secret === true,
    ),
  );
}

/** Turns an answer into what goes out; the only place that knows HTTP's shape of a problem. */
export function written(result: Answer<unknown>): Written {
  const wait = result.ok ? undefined : result.retryAfter;
  return {
    status: result.ok ? 200 : result.status,
    headers: {
      'content-type': 'application/json',
      'cache-control': 'private, no-store',
      ...(wait === undefined ? {} : { 'retry-after': String(wait) }),
    },
    body: JSON.stringify(
      result.ok ? (result.value ?? null) : { problem: result.problem, retryAfter: result.retryAfter, ticket: result.ticket },
    ),
  };
}

const responseOf = (outgoing: Written | Response): Response =>
  outgoing instanceof Response ? outgoing : new Response(outgoing.body, { status: outgoing.status, headers: outgoing.headers });

function faulted(key: RouteKey, error: unknown): Answer<never> {
  if (error instanceof DatabaseFault && error.isBusy) {
    log().warn({ route: key, code: error.code }, 'busy');
    return later(503, 'busy', 'The server has too much to do just now. It will be tried again.', 2);
  }
  const id = randomUUID().slice(0, 8);
  log().error({ route: key, id, ...faultFacts(error) }, 'fault');
  return refuse(500, 'fault', `The server could not do this; nothing was changed. Tell whoever runs it: fault ${id}.`);
}

/** Browsers say where a write comes from; a form on another site cannot hide it. Ours is the address that people reach us under. */
export function isOwnPage(request: Request): boolean {
  const origin = request.headers.get('origin');
  if (origin === null) {
    const site = request.headers.get('sec-fetch-site');
    return site === null || site === 'same-origin' || site === 'none';
  }
  return ownOrigins(setting('VAST_ADDRESS')).includes(origin);
}

/** On this machine itself the names of the loopback are one. */
export function ownOrigins(address: string): readonly string[] {
  const { protocol, hostname, port, origin } = new URL(address);
  const loopback = ['127.0.0.1', 'localhost', '[::1]'];
  return loopback.includes(hostname) ? loopback.map((name) => `${protocol}//${name}${port === '' ? '' : `:${port}`}`) : [origin];
}

export const download = (body: BodyInit, type: string, name: string, inline = false): Response =>
  new Response(body, {
    headers: {
      'content-type': type,
      'content-disposition': `${inline ? 'inline' : 'attachment'}; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  });
