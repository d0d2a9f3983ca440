import { AsyncLocalStorage } from 'node:async_hooks';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { withoutWords } from './fault';
import * as schema from './schema';

/** What work inside a transaction may use. */
export type Transaction = Pick<NodePgDatabase, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

const pools = globalThis as { __vastStonePools?: Map<string, Pool> };

function pool(address: string): Pool {
  pools.__vastStonePools ??= new Map();
  let found = pools.__vastStonePools.get(address);
  if (found === undefined) {
    // Statements, locks and idle transactions have their limits by role; here only the wait for a connection.
    found = new Pool({ connectionString: address, max: 10, connectionTimeoutMillis: 3000 });
    // An idle connection that the database drops must not end the process; the next query opens another.
    found.on('error', () => undefined);
    pools.__vastStonePools.set(address, found);
  }
  return found;
}

function url(name: 'VAST_DATABASE_URL' | 'VAST_AUTH_DATABASE_URL'): string {
  const found = process.env[name];
  if (!found) throw new Error(`Set ${name} (docs/operations.md).`);
  return found;
}

/** Accounts and sessions: their own role, which sees nothing else. */
export function accounts() {
  const own = pool(url('VAST_AUTH_DATABASE_URL'));
  // The tables' relations are worked out when it is made: once, and not with every look at a session.
  if (openAccounts?.of !== own) openAccounts = { of: own, it: drizzle(own, { schema }) };
  return openAccounts.it;
}
let openAccounts: { readonly of: Pool; readonly it: NodePgDatabase<typeof schema> } | undefined;

/** The transaction that a command runs in: what it calls joins it, so that all of it is done, or none. */
const around = new AsyncLocalStorage<{ readonly firmId: string; readonly tx: Transaction }>();

const afterwards = new WeakMap<Transaction, (() => void)[]>();

/** Does this once the transaction is committed, and never where it is not: what others are told must be there when they look. */
export function whenCommitted(tx: Transaction, work: () => void): void {
  const list = afterwards.get(tx) ?? [];
  list.push(work);
  afterwards.set(tx, list);
}

/** Runs work in one transaction; `opening` begins it in a single round trip. */
async function transact<T>(opening: string, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const client = await pool(url('VAST_DATABASE_URL'))
    .connect()
    .catch((error) => {
      throw withoutWords(error);
    });
  const tx = drizzle(client);
  let result: T;
  try {
    await client.query(opening);
    result = await work(tx);
    await client.query('commit');
    client.release();
  } catch (error) {
    // A connection that cannot even roll back is thrown away with whatever it held.
    await client.query('rollback').then(
      () => client.release(),
      (lost: Error) => client.release(lost),
    );
    throw withoutWords(error);
  }
  for (const one of afterwards.get(tx) ?? []) one();
  return result;
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/**
 * The only way to the firm's tables: a transaction whose rows are those of one firm. Inside `together` it is that one.
 * @throws RangeError when the firm's id is no UUID (it stands in the opening's text)
 * @throws DatabaseFault for what the database refuses
 */
export async function withFirm<T>(firmId: string, work: (tx: Transaction) => Promise<T>): Promise<T> {
  if (!uuid.test(firmId)) throw new RangeError('a firm is named by a UUID');
  const outer = around.getStore();
  if (outer?.firmId === firmId) return work(outer.tx);
  return transact(`begin; select set_config('app.firm_id', '${firmId}', true)`, work);
}

/** A firm's tables as they stand at one moment, for reading; what is written meanwhile is not seen. */
export async function withSnapshot<T>(firmId: string, work: (tx: Transaction) => Promise<T>): Promise<T> {
  if (!uuid.test(firmId)) throw new RangeError('a firm is named by a UUID');
  return transact(`begin isolation level repeatable read read only; select set_config('app.firm_id', '${firmId}', true)`, work);
}

/** Whether a transaction of this firm is under way around the caller. */
export const isTogether = (firmId: string): boolean => around.getStore()?.firmId === firmId;

/** Everything that `work` does to this firm's tables is one transaction. */
export const together = <T>(firmId: string, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  withFirm(firmId, (tx) => around.run({ firmId, tx }, () => work(tx)));

/**
 * One call of a function that names its firm itself, in a statement that is a transaction of its own: one way to the database and back.
 * @param call such as `run_news`; its first argument is the firm
 */
export async function callFirm<T extends object>(firmId: string, call: 'run_news', ...args: readonly string[]): Promise<readonly T[]> {
  if (!uuid.test(firmId)) throw new RangeError('a firm is named by a UUID');
  const places = [firmId, ...args].map((_, index) => `$${index + 1}`).join(', ');
  const { rows } = await pool(url('VAST_DATABASE_URL'))
    .query<T>({ text: `select * from ${call}(${places})`, values: [firmId, ...args] })
    .catch((error) => {
      throw withoutWords(error);
    });
  return rows;
}

/** For the two public functions, which see no firm's rows by themselves. */
export const withoutFirm = <T>(work: (tx: Transaction) => Promise<T>): Promise<T> => transact('begin', work);

/** Says a few letters to whoever listens on a channel: ids only, in a transaction of its own. */
export const notify = async (channel: string, text: string): Promise<void> => {
  await pool(url('VAST_DATABASE_URL'))
    .query('select pg_notify($1, $2)', [channel, text])
    .catch((error) => {
      throw withoutWords(error);
    });
};

export async function closeConnections(): Promise<void> {
  await Promise.all([...(pools.__vastStonePools?.values() ?? [])].map((open) => open.end()));
  pools.__vastStonePools?.clear();
}
