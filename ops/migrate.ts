import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';

/** Brings the database named by VAST_OWNER_DATABASE_URL up to date; a database newer than this program is left alone. */
const migrationsFolder = process.env.VAST_MIGRATIONS ?? join(import.meta.dirname, '..', 'src', 'db', 'migrations');
const { entries } = JSON.parse(readFileSync(join(migrationsFolder, 'meta', '_journal.json'), 'utf8')) as {
  readonly entries: readonly { readonly when: number }[];
};
const client = new Client({ connectionString: process.env.VAST_OWNER_DATABASE_URL });
await client.connect();
try {
  const { rows } = await client.query<{ there: string | null }>(`select to_regclass('drizzle.__drizzle_migrations') as there`);
  const done =
    rows[0].there === null ? [] : (await client.query<{ at: string }>('select created_at as at from drizzle.__drizzle_migrations')).rows;
  const strange = done.filter(({ at }) => !entries.some(({ when }) => when === Number(at)));
  if (strange.length > 0) {
    console.error(
      'Vast Stone: this database was brought up to date by a newer version of the program than this one. Start that version; nothing was changed.',
    );
    process.exitCode = 1;
  } else await migrate(drizzle(client), { migrationsFolder });
} finally {
  await client.end();
}
