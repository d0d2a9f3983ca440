import { sql } from 'drizzle-orm';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

const pools = globalThis as { __vastStonePools?: Map<string, Pool> };

function pool(url: string): Pool {
  pools.__vastStonePools ??= new Map();
  let found = pools.__vastStonePools.get(url);
  if (found === undefined) {
    found = new Pool({ connectionString: url, max: 10 });
    // An idle connection that the database drops must not end the process; the next query opens another.
    found.on('error', (error) => console.error(`database connection lost: ${error.message}`));
    pools.__vastStonePools.set(url, found);
  }
  return found;
}

const database = (url: string): Database => drizzle(pool(url), { schema });

export const connect = (name: 'VAST_DATABASE_URL' | 'VAST_AUTH_DATABASE_URL'): Database => {
  const url = process.env[name];
  if (!url) throw new Error(`Set ${name} (docs/operations.md).`);
  return database(url);
};

/** The only way to the firm's tables: a transaction whose rows are those of one firm. */
export const withFirm = <T>(firmId: string, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  connect('VAST_DATABASE_URL').transaction(async (tx) => {
    await tx.execute(sql`select set_config('app.firm_id', ${firmId}, true)`);
    return work(tx);
  });

/** For the two public functions, which see no firm's rows by themselves. */
export const withoutFirm = <T>(work: (tx: Transaction) => Promise<T>): Promise<T> => connect('VAST_DATABASE_URL').transaction(work);

export async function closeConnections(): Promise<void> {
  await Promise.all([...(pools.__vastStonePools?.values() ?? [])].map((open) => open.end()));
  pools.__vastStonePools?.clear();
}
