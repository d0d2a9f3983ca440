import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import type { Handler, Written } from './door';

/*
 * Routes that devices ask every second, answered before the application's own router: the same handlers behind the same door, without
 * a third of a core spent on finding them. A handler sees of the request what it uses: address, headers, body and whether it ended.
 */

export interface HotRoute {
  readonly method: string;
  /** As in the table of routes: `/api/field/run/[id]`. */
  readonly path: string;
  readonly handler: Handler;
}

interface Matching extends HotRoute {
  readonly pattern: RegExp;
}

const matching = (one: HotRoute): Matching => ({
  ...one,
  pattern: new RegExp(`^${one.path.replace(/\[(\w+)\]/g, '(?<$1>[^/]+)')}$`),
});

/** Pieces of a body as they come. */
function reader(incoming: IncomingMessage) {
  const pieces = incoming[Symbol.asyncIterator]() as AsyncIterator<Uint8Array>;
  return {
    read: () => pieces.next(),
    // What is left of it ends with the answer; see the front.
    cancel: async () => undefined,
  };
}

function requestOf(incoming: IncomingMessage, response: ServerResponse): Request {
  const headers = new Headers();
  for (const [name, value] of Object.entries(incoming.headers))
    if (value !== undefined) headers.set(name, Array.isArray(value) ? value.join(', ') : value);
  const seen = {
    url: `http://front${incoming.url ?? '/'}`,
    method: incoming.method,
    headers,
    // Few ask whether it ended, and a signal costs more than the rest of this.
    get signal() {
      const ending = new AbortController();
      response.once('close', () => ending.abort());
      return ending.signal;
    },
    body: { getReader: () => reader(incoming) },
  };
  return seen as unknown as Request;
}

async function send(answer: Written | Response, response: ServerResponse): Promise<void> {
  if (!(answer instanceof Response)) {
    const text = Buffer.from(answer.body);
    response.writeHead(answer.status, { ...answer.headers, 'content-length': text.length });
    response.end(text);
    return;
  }
  const headers: Record<string, string | readonly string[]> = {};
  for (const [name, value] of answer.headers) if (name !== 'set-cookie') headers[name] = value;
  const cookies = answer.headers.getSetCookie();
  if (cookies.length > 0) headers['set-cookie'] = cookies;
  if (headers['content-type']?.includes('text/event-stream') && answer.body !== null) {
    response.writeHead(answer.status, headers as Record<string, string>);
    response.flushHeaders();
    Readable.fromWeb(answer.body as never).pipe(response);
    return;
  }
  const body = Buffer.from(await answer.arrayBuffer());
  response.writeHead(answer.status, { ...(headers as Record<string, string>), 'content-length': body.length });
  response.end(body);
}

/** Finds the route for a request; undefined where it is the application's. */
export function hotRoutes(routes: readonly HotRoute[]) {
  const known = routes.map(matching);
  return (incoming: IncomingMessage, response: ServerResponse): Promise<void> | undefined => {
    const path = (incoming.url ?? '').split('?', 1)[0];
    for (const { method, pattern, handler } of known) {
      if (incoming.method !== method) continue;
      const found = pattern.exec(path);
      if (found === null) continue;
      return handler
        .written(requestOf(incoming, response), { params: Promise.resolve({ ...found.groups }) })
        .then((answer) => send(answer, response));
    }
    return undefined;
  };
}
