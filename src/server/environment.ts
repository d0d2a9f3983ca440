/** The environment, read once and checked: a missing setting is a clear line at start, not a fault later. */
const needed = {
  VAST_DATABASE_URL: 'connection of the application role',
  VAST_AUTH_DATABASE_URL: 'connection of the accounts role',
  VAST_AUTH_SECRET: 'secret that signs session cookies',
  VAST_SEAL_SECRET: 'base64 of 32 bytes that encrypt the private seal keys; keep it outside the database and its backups',
  VAST_ADDRESS: 'address under which people reach this installation, e.g. https://tests.example',
} as const;

export type Setting = keyof typeof needed;

export function setting(name: Setting): string {
  const value = process.env[name];
  if (value === undefined || value === '') throw new Error(`Set ${name}: ${needed[name]} (docs/operations.md).`);
  return value;
}

/** All settings at once, for the start. */
export function missingSettings(): readonly string[] {
  return (Object.keys(needed) as Setting[]).filter((name) => !process.env[name]).map((name) => `${name}: ${needed[name]}`);
}

export const isDemo = (): boolean => process.env.VAST_DEMO === '1';
/** Only a test build listens to the shared test clock. */
export const isTestClock = (): boolean => process.env.NEXT_PUBLIC_TEST_CLOCK === '1';
