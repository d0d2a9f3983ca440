import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';
import { knownSigners } from '@/server/keys';
import { verifyFile } from '@/server/verify';

/* What backup and restore both know of an installation: its databases, how much is in them, and that its newest seal holds. */

export const databases = ['vast_stone', 'vast_stone_demo'] as const;

export interface Counted {
  readonly name: string;
  /** Rows of every table, by its whole name. */
  readonly rows: Readonly<Record<string, number>>;
  /** Hash of the newest certificate, where there is one. */
  readonly seal?: string;
}

export interface Manifest {
  readonly madeAt: string;
  readonly program: string;
  readonly databases: readonly Counted[];
}

export const program = (): string =>
  (JSON.parse(readFileSync(join(import.meta.dirname, '..', 'package.json'), 'utf8')) as { version: string }).version;

/** As the database's own superuser, over its socket: row security binds everybody else. */
export async function superuser(database: string): Promise<Client> {
  const [host, port] = [process.env.DBSOCKET, process.env.DBPORT];
  if (host === undefined || port === undefined) throw new Error('Run this through ./backup or ./restore.');
  const client = new Client({ host, port: Number(port), user: 'postgres', database });
  await client.connect();
  return client;
}

export const exists = async (name: string): Promise<boolean> => {
  const client = await superuser('postgres');
  try {
    return (await client.query('select 1 from pg_database where datname = $1', [name])).rowCount === 1;
  } finally {
    await client.end();
  }
};

/** Counts inside the caller's transaction. */
export async function count(client: Client, name: string): Promise<Counted> {
  const { rows: tables } = await client.query<{ table: string }>(
    `select format('%I.%I', schemaname, tablename) as table from pg_tables where schemaname not in ('pg_catalog', 'information_schema') order by 1`,
  );
  const rows: Record<string, number> = {};
  for (const { table } of tables) rows[table] = Number((await client.query<{ n: string }>(`select count(*) as n from ${table}`)).rows[0].n);
  const { rows: newest } = await client.query<{ hash: string }>(
    'select hash from public.certificate order by issued_at desc, number desc limit 1',
  );
  return { name, rows, ...(newest[0] === undefined ? {} : { seal: newest[0].hash }) };
}

/** What is wrong with the newest seal, read and checked as anybody would; undefined where it holds, or there is none. */
export async function sealFault(client: Client, hash: string | undefined): Promise<string | undefined> {
  if (hash === undefined) return undefined;
  const { rows } = await client.query<{ record: string }>('select record from public.certificate where hash = $1', [hash]);
  if (rows[0] === undefined) return 'the newest certificate is missing';
  const result = await verifyFile(Buffer.from(rows[0].record), await knownSigners(hash), join(import.meta.dirname, '..'));
  if (!result.ok) return `the newest certificate cannot be read: ${result.problem.message}`;
  return result.value.state === 'genuine' || result.value.state === 'key revoked'
    ? undefined
    : `the newest certificate is ${result.value.state}`;
}
