import type { Action } from './actions';

/*
 * Every way into the server from outside. A row knows what its handler may rely on; the door (`door.ts`) holds it to that, the
 * interface asks by it, and the matrix of who may what is tried from it. The build fails over a route that has no row here.
 */

export interface Route {
  /** Who may: anyone without an account, a program of the firm that has a token to read by, or whoever may do this. */
  readonly who: 'anyone' | 'token' | Action;
  /** Largest body, bytes; none where nothing is sent. */
  readonly body?: number;
  /** How the body is read; JSON unless it says otherwise. */
  readonly as?: 'bytes';
  /** Requests a minute from one client: a person, or an address where no account is needed. */
  readonly perMinute: number;
  /**
   * What a retry does. `nothing`: it only reads. `command`: it carries a client-made id, and the second time gets the first answer.
   * `own ids`: what it carries has ids or hashes of its own, and is there once however often it comes.
   */
  readonly changes: 'nothing' | 'command' | 'own ids';
  /** What it answers opens something: it is told once, and not kept for a retry. */
  readonly secret?: true;
  /** Also for a device whose session is over: what it worked on before is taken by its delivery key. */
  readonly delivers?: true;
}

const kB = 1024;
const MB = 1024 * kB;

const reads = (who: Route['who'] = 'read', perMinute = 600) => ({ who, perMinute, changes: 'nothing' }) as const;
const command = (who: Action, body = 32 * kB) => ({ who, body, perMinute: 120, changes: 'command' }) as const;

export const routes = {
  'GET /api/health': reads('anyone', 6000),
  'GET /api/metrics': reads('anyone', 600),
  'GET /sw.js': reads('anyone', 600),
  /** The shared clock of a test build; absent from every other. */
  'GET /api/test-clock': reads('anyone', 6000),
  'POST /api/test-clock': { who: 'anyone', body: kB, perMinute: 6000, changes: 'own ids' },

  'POST /api/sign-in': { who: 'anyone', body: 4 * kB, perMinute: 60, changes: 'own ids' },
  'POST /api/sign-out': { who: 'read', body: kB, perMinute: 60, changes: 'own ids' },
  /** By the private link alone: whoever holds it signs once, and sees what they sign. */
  'POST /api/sign/[token]': { who: 'anyone', body: MB, perMinute: 10, changes: 'own ids' },
  'GET /api/sign/[token]/picture/[hash]': reads('anyone', 300),
  /** By a guard gauge's tag alone: its reading, and nothing else. */
  'POST /api/tag/[code]': { who: 'anyone', body: kB, perMinute: 6, changes: 'own ids' },
  /** By the private calendar address alone. */
  'GET /api/feed/[token]': reads('anyone', 30),
  /** Fingerprints of everybody who seals here, so that a browser can check by itself. */
  'GET /api/signers': reads('anyone', 60),
  'POST /api/check': { who: 'anyone', body: 20 * MB, as: 'bytes', perMinute: 20, changes: 'nothing' },

  /** What a device takes along, as differences from what it says that it has. */
  'POST /api/field/along': { who: 'read', body: 256 * kB, perMinute: 240, changes: 'nothing' },
  'GET /api/field/search': reads('read', 240),
  'GET /api/field/run/[id]': reads('read', 600),
  /** What it carries is each held to its own row in `items`. */
  'POST /api/field/sync': { who: 'read', body: 4 * MB, perMinute: 600, changes: 'own ids', delivers: true },
  'POST /api/field/photo': { who: 'run tests', body: MB, as: 'bytes', perMinute: 1200, changes: 'own ids', delivers: true },
  'GET /api/photos/[hash]': reads(),
  /** Holds that run now, as they change. */
  'GET /api/stream': reads('read', 60),

  'POST /api/follow-ups': command('edit sites'),
  'POST /api/follow-ups/[id]/end': command('edit sites'),
  'GET /api/follow-ups/[id]/calendar': reads(),
  /** A private calendar address of whoever asks. */
  'POST /api/feed': { ...command('read'), secret: true },

  /** Changes of the register, all of them or none; each is held to its own row in `changers`. */
  'POST /api/things': command('read', 256 * kB),
  /** Rows of a table that somebody keeps elsewhere: looked at, and made where that is asked. */
  'POST /api/sheets': command('edit sites', 512 * kB),
  'POST /api/clashes/[id]': command('read'),
  'POST /api/instruments/[id]/calibrations': command('edit instruments'),
  'POST /api/rules': command('set rules'),
  'POST /api/rules/lift': command('set rules'),
  'POST /api/own-procedures': command('set rules', 128 * kB),
  'POST /api/own-procedures/[id]/withdraw': command('set rules'),

  'POST /api/firm': command('set firm'),
  'POST /api/firm/logo': { who: 'set firm', body: 4 * MB, as: 'bytes', perMinute: 20, changes: 'own ids' },
  'POST /api/people/[id]/licence': command('set firm'),

  /** All of the firm's data, as a file. */
  'GET /api/exchange': reads('exchange'),
  'POST /api/exchange/export': command('exchange'),
  'POST /api/exchange/import': command('exchange'),
  /** A piece of the file that comes in, at its place. */
  'POST /api/exchange/[id]/piece': { who: 'exchange', body: 4 * MB, as: 'bytes', perMinute: 1200, changes: 'own ids' },
  'GET /api/exchange/[id]/file': reads('exchange', 60),

  'POST /api/tokens': { ...command('exchange'), secret: true },
  'POST /api/tokens/[id]/end': command('exchange'),
  /** For other programs of the firm: reading alone, described by the first. */
  'GET /api/v1/openapi.json': reads('anyone', 60),
  'GET /api/v1/[list]': reads('token'),
  'GET /api/v1/tests/[id]': reads('token'),
  'GET /api/v1/certificates/[id]/record': reads('token'),
  'GET /api/v1/certificates/[id]/pdf': reads('token', 120),

  'GET /api/tests/[id]/draft': reads('read', 120),
  'POST /api/tests/[id]/signature': command('seal', MB),
  'POST /api/tests/[id]/sign-link': { ...command('seal'), secret: true },
  'POST /api/tests/[id]/seal': command('seal'),
  'GET /api/certificates/[id]/pdf': reads('read', 120),
  'GET /api/certificates/[id]/receipt': reads('read', 120),
  'GET /api/certificates/[id]/json': reads('read', 120),
  'GET /api/certificates/[id]/csv': reads('read', 120),
  'POST /api/certificates/[id]/withdraw': command('correct'),
  'POST /api/certificates/[id]/send': command('send'),
  'POST /api/messages/[id]/retry': command('send'),
  /** The simulated mail server, where no real one is set. */
  'POST /api/mail/stand-in': command('set firm'),
  'POST /api/certificates/[id]/correct': command('correct'),
} as const satisfies Record<string, Route>;

export type RouteKey = keyof typeof routes;
export type Getting = Extract<RouteKey, `GET ${string}`>;
export type Posting = Extract<RouteKey, `POST ${string}`>;

export const routeOf = (key: RouteKey): Route => routes[key];

/** What a device's outbox may carry, and who may send it. */
export const items = {
  test: 'run tests',
  run: 'run tests',
  events: 'run tests',
  /** Held to its own row in `changers`. */
  change: 'read',
  calibration: 'edit instruments',
  signature: 'seal',
} as const satisfies Record<string, Action>;

/** Who may make and change a thing of the register. */
export const changers = {
  site: 'edit sites',
  system: 'edit sites',
  component: 'edit sites',
  visit: 'edit sites',
  instrument: 'edit instruments',
  equipment: 'edit instruments',
} as const satisfies Record<string, Action>;

/** The address of a route, its parts filled in. */
export function addressOf(key: RouteKey, parts: Readonly<Record<string, string>> = {}): string {
  return key.slice(key.indexOf(' ') + 1).replace(/\[(\w+)\]/g, (_, name: string) => encodeURIComponent(parts[name] ?? ''));
}
