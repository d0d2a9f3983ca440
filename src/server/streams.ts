import { Client } from 'pg';
import { changedChannel } from './announce';
import { setting } from './environment';
import { listRunning, type Running } from './field';
import { faultFacts, log } from './log';
import { nowThere } from './metrics';

/*
 * Holds that run now, told to whoever looks as they change. One connection of this process listens for all firms (it must be a direct
 * one: a pooled one in transaction mode hears nothing); what a firm's lookers get is looked up once for all of them.
 */

interface Looking {
  readonly send: (text: string) => void;
  readonly end: () => void;
  /** It has been told the whole; until then it is told nothing else. */
  knows: boolean;
}

interface Firm {
  readonly lookers: Set<Looking>;
  /** What was last told, by run. */
  last: ReadonlyMap<string, string>;
  busy: boolean;
  again: boolean;
}

interface Hub {
  readonly firms: Map<string, Firm>;
  client?: Client;
  /** Settles when the client listens, or cannot. */
  listening?: Promise<void>;
  slow?: NodeJS.Timeout;
}

const shared = globalThis as { __vastStoneHub?: Hub };
const hub = (): Hub => {
  shared.__vastStoneHub ??= { firms: new Map() };
  return shared.__vastStoneHub;
};

/** A notice may be lost: so often everything is looked at anyway. */
const slowMs = 20_000;
/** More streams than this are refused: each is an open connection. */
export const mostStreams = 2000;

/** Messages that a stream keeps for a looker that does not read. */
const mostUnread = 100;

export const streamCount = (): number => [...hub().firms.values()].reduce((sum, { lookers }) => sum + lookers.size, 0);

/** Listens from when it settles on: whoever looks before that could miss what is told meanwhile. */
function listen(own: Hub): Promise<void> {
  own.listening ??= connect(own);
  return own.listening;
}

function forget(own: Hub): void {
  own.client = undefined;
  own.listening = undefined;
}

async function connect(own: Hub): Promise<void> {
  const client = new Client({
    connectionString: process.env.VAST_LISTEN_DATABASE_URL ?? setting('VAST_DATABASE_URL'),
    connectionTimeoutMillis: 3000,
    application_name: 'vast-stone listens',
  });
  own.client = client;
  const lost = () => {
    if (own.client === client) forget(own);
  };
  client.on('error', lost);
  client.on('end', lost);
  client.on('notification', ({ payload = '' }) => void tell(payload));
  try {
    await client.connect();
    await client.query(`listen ${changedChannel}`);
  } catch (error) {
    lost();
    client.end().catch(() => undefined);
    log().warn(faultFacts(error), 'does not listen');
  }
}

/** Nobody looks any more: neither a connection nor a clock is kept for them. */
function stopListening(own: Hub): void {
  clearInterval(own.slow);
  own.slow = undefined;
  const { client } = own;
  forget(own);
  client?.end().catch(() => undefined);
}

/** Looks a firm's holds up and tells what is new of them, to whoever knows nothing yet all; asked meanwhile, it looks once more. */
async function tell(firmId: string): Promise<void> {
  const firm = hub().firms.get(firmId);
  if (firm === undefined) return;
  if (firm.busy) {
    firm.again = true;
    return;
  }
  firm.busy = true;
  try {
    const found = await listRunning(firmId);
    const now = new Map(found.map((one) => [one.run, JSON.stringify(one)]));
    const changed = found.filter(({ run }) => firm.last.get(run) !== now.get(run));
    const gone = [...firm.last.keys()].filter((run) => !now.has(run));
    firm.last = now;
    const news = changed.length + gone.length > 0 ? message({ changed, gone }) : undefined;
    for (const one of firm.lookers) {
      if (one.knows && news !== undefined) one.send(news);
      if (!one.knows) {
        one.knows = true;
        one.send(`retry: 3000\n${message({ whole: true, changed: found, gone: [] })}`);
      }
    }
  } catch (error) {
    log().warn(faultFacts(error), 'not told');
    // Whoever got nothing yet asks again by itself.
    for (const one of firm.lookers) if (!one.knows) one.end();
  } finally {
    firm.busy = false;
    if (firm.again) {
      firm.again = false;
      void tell(firmId);
    }
  }
}

export interface Told {
  /** Everything is here: what was known before is forgotten. */
  readonly whole?: true;
  readonly changed: readonly Running[];
  readonly gone: readonly string[];
}

const message = (told: Told): string => `data: ${JSON.stringify(told)}\n\n`;

/** A stream of a firm's running holds: the whole first, then what changes; a line now and then keeps it open. */
export function runningStream(firmId: string, aborted: AbortSignal): ReadableStream<Uint8Array> {
  const own = hub();
  const words = new TextEncoder();
  let end = () => {};
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const looker: Looking = {
        knows: false,
        end: () => end(),
        send: (text) => {
          // Whoever does not read what it is told comes again, and is told the whole.
          if ((controller.desiredSize ?? 0) < -mostUnread) return end();
          try {
            controller.enqueue(words.encode(text));
          } catch {
            end();
          }
        },
      };
      const firm = own.firms.get(firmId) ?? { lookers: new Set(), last: new Map(), busy: false, again: false };
      own.firms.set(firmId, firm);
      firm.lookers.add(looker);
      const beat = setInterval(() => looker.send(': here\n\n'), 15_000);
      end = () => {
        clearInterval(beat);
        firm.lookers.delete(looker);
        if (firm.lookers.size === 0) own.firms.delete(firmId);
        if (own.firms.size === 0) stopListening(own);
        nowThere('streams', streamCount());
        try {
          controller.close();
        } catch {
          // Closed by the other side already.
        }
      };
      aborted.addEventListener('abort', () => end(), { once: true });
      nowThere('streams', streamCount());
      own.slow ??= setInterval(() => {
        void listen(own);
        for (const id of own.firms.keys()) void tell(id);
      }, slowMs);
      await listen(own);
      await tell(firmId);
    },
    cancel: () => end(),
  });
}
