import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';

/** Brings the database named by VAST_OWNER_DATABASE_URL up to date. */
const client = new Client({ connectionString: process.env.VAST_OWNER_DATABASE_URL });
await client.connect();
await migrate(drizzle(client), { migrationsFolder: join(import.meta.dirname, '..', 'src', 'db', 'migrations') });
await client.end();
