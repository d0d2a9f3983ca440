import { Client } from 'pg';

/** A database of its own for one spec, cloned from a template; dropped at the end. */
export interface TestDatabase {
  readonly name: string;
  readonly appUrl: string;
  readonly authUrl: string;
  readonly ownerUrl: string;
  readonly drop: () => Promise<void>;
}

async function admin(statement: string): Promise<void> {
  const url = process.env.VAST_TEST_ADMIN_URL;
  if (!url) throw new Error('Run this through ./test, which starts the test database.');
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}

export async function testDatabase(template: 'empty' | 'demo', label: string): Promise<TestDatabase> {
  const name = `spec_${label.replace(/[^a-z0-9]/g, '_')}_${process.pid}`;
  await admin(`create database ${name} template template_${template}_vast owner vast_owner`);
  const at = new URL(process.env.VAST_TEST_ADMIN_URL ?? '').host;
  const url = (role: string, password: string | undefined) => `postgres://${role}:${password}@${at}/${name}`;
  return {
    name,
    appUrl: url('vast_app', process.env.VAST_APP_PASSWORD),
    authUrl: url('vast_auth', process.env.VAST_AUTH_PASSWORD),
    ownerUrl: url('vast_owner', process.env.VAST_OWNER_PASSWORD),
    drop: () => dropped(name),
  };
}

/** The cluster itself may be busy in a database for a moment, and nobody may throw it out: then it is asked again. */
async function dropped(name: string): Promise<void> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await admin(`drop database if exists ${name} with (force)`);
    } catch (error) {
      const refused = (error as { readonly code?: string }).code;
      if (attempt === 20 || (refused !== '42501' && refused !== '55006')) throw error;
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
  }
}
