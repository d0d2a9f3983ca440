import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { BlockList, isIP } from 'node:net';
import next from 'next';
import { settingFaults } from './environment';
import { log } from './log';
import { clientHeader } from './throttle';

/*
 * What stands before the application: it tells who asks by the connection itself, keeps the number of requests in hand within what
 * can be done, and ends in good order.
 */

/** More at once would only wait for each other. */
const mostInHand = 800;

/** Proxies that may say for whom they ask: addresses or networks, as `10.0.0.0/8`. */
export function proxiesOf(list: string): BlockList {
  const known = new BlockList();
  for (const one of list
    .split(',')
    .map((text) => text.trim())
    .filter(Boolean)) {
    const [address, bits] = one.split('/');
    const family = isIP(address) === 6 ? 'ipv6' : 'ipv4';
    if (isIP(address) === 0)
      throw new Error(`VAST_PROXIES: “${one}” is no address. Write addresses or networks such as 127.0.0.1, 10.0.0.0/8.`);
    if (bits === undefined) known.addAddress(address, family);
    else known.addSubnet(address, Number(bits), family);
  }
  return known;
}

/** So many requests are begun before whatever else has come is looked at: a crowd keeps nobody's question about health waiting. */
const startsATurn = 16;

/** Begins what is asked of it a few at a time, in order, with a turn of the event loop between. */
export function paced(aTurn: number): (work: () => void) => void {
  const waiting: (() => void)[] = [];
  let running = false;
  const turn = () => {
    for (const work of waiting.splice(0, aTurn)) work();
    running = waiting.length > 0;
    if (running) setImmediate(turn);
  };
  return (work) => {
    waiting.push(work);
    if (running) return;
    running = true;
    setImmediate(turn);
  };
}

/**
 * A body that was refused unread is not listened to for ever. It is for a while, though: who is cut off while still sending hears a
 * broken connection and not the refusal.
 */
export function leaveSoon(request: IncomingMessage): void {
  // A connection that is gone already leaves nothing to listen to, whatever the type says.
  const socket = request.socket as typeof request.socket | null;
  if (socket === null || socket.destroyed) return;
  const [from, until] = [socket.bytesRead, performance.now() + lingersMs];
  const looking = setInterval(() => {
    const enough = performance.now() > until || socket.bytesRead - from > lingersBytes;
    if (!enough && !request.complete && !socket.destroyed) return;
    clearInterval(looking);
    if (!request.complete) request.destroy();
  }, 50).unref();
}

const lingersMs = 5000;
const lingersBytes = 4 * 1024 * 1024;

const plain = (address: string): string => address.replace(/^::ffff:/, '');

/** The address that asks: the connection's own, or the last one that a known proxy names and that is no proxy itself. */
export function clientAddress(peer: string, forwarded: string | undefined, proxies: BlockList): string {
  if (proxies.rules.length === 0) return plain(peer);
  const isProxy = (address: string) => isIP(address) !== 0 && proxies.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4');
  if (!isProxy(plain(peer))) return plain(peer);
  const named = (forwarded ?? '').split(',').map((text) => plain(text.trim()));
  return named.findLast((address) => isIP(address) !== 0 && !isProxy(address)) ?? plain(peer);
}

/** What every answer says of itself, whoever makes it. */
const always = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'SAMEORIGIN',
  'permissions-policy': 'camera=(self), screen-wake-lock=(self), geolocation=()',
} as const;

/** @param hot what is answered here already; undefined for what is the application's */
export async function serve(
  dev: boolean,
  hot: (request: IncomingMessage, response: ServerResponse) => Promise<void> | undefined,
): Promise<void> {
  const faults = settingFaults();
  if (faults.length > 0) {
    for (const fault of faults) console.error(`Vast Stone: ${fault}`);
    console.error('Vast Stone: see docs/operations.md for the settings.');
    process.exit(1);
  }
  const port = Number(process.env.PORT ?? 3000);
  const hostname = process.env.VAST_HOST ?? '127.0.0.1';
  const proxies = proxiesOf(process.env.VAST_PROXIES ?? '');
  const isSecure = (process.env.VAST_ADDRESS ?? '').startsWith('https:');
  const app = next({ dev, dir: process.cwd(), hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  let inHand = 0;
  const start = paced(startsATurn);
  let ending = false;

  const answer = (request: IncomingMessage, response: ServerResponse) => {
    const client = clientAddress(request.socket.remoteAddress ?? '', [request.headers['x-forwarded-for']].flat().join(','), proxies);
    request.headers[clientHeader] = client;
    for (const [name, value] of Object.entries(always)) response.setHeader(name, value);
    if (isSecure) response.setHeader('strict-transport-security', 'max-age=31536000');
    response.once('finish', () => void (request.complete || leaveSoon(request)));
    if (request.method !== 'GET' && request.method !== 'HEAD' && request.url?.startsWith('/api/') !== true) {
      // Pages take nothing: what is sent to one is not read at all.
      response.writeHead(405, { allow: 'GET, HEAD' });
      response.end();
      return;
    }
    const isHealth = request.url === '/api/health';
    if ((ending || inHand >= mostInHand) && !isHealth) {
      response.writeHead(503, { 'retry-after': '2', 'content-type': 'application/json' });
      response.end(
        '{"problem":{"code":"busy","message":"The server has too much to do just now. It will be tried again."},"retryAfter":2}',
      );
      return;
    }
    inHand += 1;
    const began = performance.now();
    response.once('close', () => {
      inHand -= 1;
      const ms = Math.round(performance.now() - began);
      const line = { method: request.method, path: request.url?.split('?')[0], status: response.statusCode, ms };
      if (response.statusCode >= 500) log().warn(line, 'request');
      else log().debug(line, 'request');
    });
    const work = () =>
      (hot(request, response) ?? handle(request, response)).catch((error: unknown) => {
        log().error({ kind: error instanceof Error ? error.name : typeof error }, 'request fault');
        response.destroy();
      });
    if (isHealth) void work();
    else start(() => void (response.destroyed || work()));
  };

  const server = createServer(
    { maxHeaderSize: 16 * 1024, keepAliveTimeout: 65_000, headersTimeout: 60_000, requestTimeout: 300_000 },
    answer,
  );
  if (dev) server.on('upgrade', app.getUpgradeHandler());
  server.listen(port, hostname, () => log().info({ port, hostname }, 'listening'));

  const end = () => {
    if (ending) return;
    ending = true;
    log().info('ending');
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    // An open event stream would hold it for ever.
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    setTimeout(() => process.exit(0), 2800).unref();
  };
  process.on('SIGTERM', end);
  process.on('SIGINT', end);
}
