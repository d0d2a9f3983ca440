import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { Client } from 'pg';
import { mark } from '@/db/schema';
import { secretsMark } from '@/server/secrets';

/**
 * The installation's mark in its database. `mark.ts demo|empty` says that loading has finished; `mark.ts check` ends with 1 where
 * the secrets at hand are not those that the database was made with, or its loading never finished.
 */
const [what] = process.argv.slice(2);
const client = new Client({ connectionString: process.env.VAST_OWNER_DATABASE_URL });
await client.connect();
const db = drizzle(client);
if (what === 'demo' || what === 'empty') {
  await db.insert(mark).values({ loaded: what, secrets: secretsMark(), madeAt: sql`now()` });
} else {
  const [found] = await db.select().from(mark);
  if (found === undefined) {
    console.error('Vast Stone: this database was never loaded to its end; it is not the one to start from.');
    process.exitCode = 1;
  } else if (found.secrets !== secretsMark()) {
    console.error(
      'Vast Stone: the secrets at hand are not those that this database was made with. Bring back its own secrets.env: ./restore --secrets FILE takes it out of a backup.',
    );
    process.exitCode = 1;
  }
}
await client.end();
