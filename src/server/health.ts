import { statfs } from 'node:fs/promises';
import { Client } from 'pg';
import { setting, settingFaults } from './environment';
import { secretsMark } from './secrets';

export interface Health {
  readonly ready: boolean;
  /** What an operator has to see to. */
  readonly faults: readonly string[];
}

interface Kept {
  client?: Client;
  /** A look that is under way. */
  looking?: Promise<Health>;
  /** What the last look found, and when it was begun. */
  told?: { readonly at: number; readonly health: Health };
}

const shared = globalThis as { __vastStoneHealth?: Kept };
const kept = (): Kept => {
  shared.__vastStoneHealth ??= {};
  return shared.__vastStoneHealth;
};

/** So often it is looked anew, however often it is asked. */
const everyMs = 250;
/** What was found so long ago is told while it is looked anew; a look that takes longer is waited for, and says why. */
const oldestMs = 1000;

/**
 * Whether this process can do its work: settings, database, secrets, disk, as they were a second ago at most. On a connection of its
 * own, which no work can use up.
 */
export async function health(): Promise<Health> {
  const own = kept();
  const age = own.told === undefined ? Number.POSITIVE_INFINITY : performance.now() - own.told.at;
  if (age >= everyMs) own.looking ??= lookOnce(own);
  return own.told !== undefined && age < oldestMs ? own.told.health : (own.looking ?? look());
}

async function lookOnce(own: Kept): Promise<Health> {
  const at = performance.now();
  const found = await look();
  own.told = { at, health: found };
  own.looking = undefined;
  return found;
}

/** Never fails: what cannot be looked at is a fault of its own. */
async function look(): Promise<Health> {
  const settings = settingFaults();
  if (settings.length > 0) return { ready: false, faults: settings };
  const faults = (await Promise.all([database(), disk()])).flat();
  return { ready: faults.length === 0, faults };
}

async function database(): Promise<readonly string[]> {
  const own = kept();
  try {
    if (own.client === undefined) {
      const client = new Client({
        connectionString: setting('VAST_DATABASE_URL'),
        connectionTimeoutMillis: 2000,
        query_timeout: 2000,
        application_name: 'vast-stone health',
      });
      client.on('error', () => {
        if (own.client === client) own.client = undefined;
      });
      await client.connect();
      own.client = client;
    }
    const { rows } = await own.client.query<{ secrets: string }>('select secrets from installation.mark');
    return rows[0] === undefined || rows[0].secrets === secretsMark()
      ? []
      : [
          'The secrets are not those that this database was made with: nothing can be sealed. Bring back its secrets.env (docs/operations.md).',
        ];
  } catch {
    const broken = own.client;
    own.client = undefined;
    broken?.end().catch(() => undefined);
    return ['The database does not answer.'];
  }
}

/** Gives the connection back; for the end of a program. */
export async function stopLooking(): Promise<void> {
  const { client } = kept();
  shared.__vastStoneHealth = undefined;
  await client?.end();
}

/** Less than this and the database may stop in the middle of its work. */
const leastMB = () => Number(process.env.VAST_LEAST_FREE_MB ?? 100);

async function disk(): Promise<readonly string[]> {
  const places = [process.cwd(), ...(process.env.VAST_HOME === undefined ? [] : [process.env.VAST_HOME])];
  const found = await Promise.all(
    places.map(async (place) => {
      const { bavail, bsize } = await statfs(place);
      return Math.floor((bavail * bsize) / 1024 / 1024);
    }),
  ).catch(() => undefined);
  if (found === undefined) return ['The disk cannot be looked at: is the place of the installation still there?'];
  const free = Math.min(...found);
  return free >= leastMB() ? [] : [`The disk is nearly full: ${free} MB are left, ${leastMB()} are needed. Free some space.`];
}
