import { may, type Permission, type Role, roles } from './actor';
import { at, now } from './clock';
import { missingSettings, setting } from './environment';
import { sameOrigin } from './http';

describe('who may what', () => {
  const table: Record<Permission, readonly Role[]> = {
    'run tests': ['technician', 'supervisor'],
    seal: ['technician', 'supervisor'],
    correct: ['supervisor'],
    'edit sites': ['technician', 'supervisor', 'office'],
    'edit instruments': ['supervisor', 'office'],
    'set rules': ['supervisor'],
  };
  for (const [permission, allowed] of Object.entries(table))
    test(permission, () => {
      for (const role of roles) expect({ role, may: may(role, permission as Permission) }).toEqual({ role, may: allowed.includes(role) });
    });
});

describe('writes come from our own pages', () => {
  const request = (headers: Record<string, string>) =>
    new Request('http://127.0.0.1:3000/api/sites', { method: 'POST', headers: { host: '127.0.0.1:3000', ...headers } });
  test.each([
    [{ origin: 'http://127.0.0.1:3000' }, true],
    [{ origin: 'https://elsewhere.invalid' }, false],
    [{ origin: 'http://127.0.0.1:3001' }, false],
    [{ 'sec-fetch-site': 'cross-site' }, false],
    [{ 'sec-fetch-site': 'same-origin' }, true],
    [{}, true],
  ])('%j: %s', (headers, allowed) => expect(sameOrigin(request(headers as Record<string, string>))).toBe(allowed));
});

test('a missing setting is named with what it is', () => {
  const before = process.env.VAST_SEAL_SECRET;
  delete process.env.VAST_SEAL_SECRET;
  expect(() => setting('VAST_SEAL_SECRET')).toThrow(/Set VAST_SEAL_SECRET: base64 of 32 bytes/);
  expect(missingSettings().some((line) => line.startsWith('VAST_SEAL_SECRET'))).toBe(true);
  if (before !== undefined) process.env.VAST_SEAL_SECRET = before;
});

test('work can be done at a stated time, and only that work', async () => {
  await at(1000, async () => {
    expect(now()).toBe(1000);
    await at(2000, async () => expect(now()).toBe(2000));
    expect(now()).toBe(1000);
  });
  expect(now()).toBeGreaterThan(1_700_000_000_000);
});
