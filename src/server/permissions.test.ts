import { type Action, addressOf, may, type Role, type RouteKey, roles, routes } from '@/core/permissions';
import { at, now } from './clock';
import { setting, settingFaults } from './environment';
import { clientAddress, proxiesOf } from './front';

describe('who may what', () => {
  const table: Record<Action, readonly Role[]> = {
    read: ['technician', 'supervisor', 'office'],
    'run tests': ['technician', 'supervisor'],
    seal: ['technician', 'supervisor'],
    correct: ['supervisor'],
    'edit sites': ['technician', 'supervisor', 'office'],
    'edit instruments': ['supervisor', 'office'],
    'set rules': ['supervisor'],
  };
  for (const [action, allowed] of Object.entries(table))
    test(action, () => {
      for (const role of roles) expect({ role, may: may(role, action as Action) }).toEqual({ role, may: allowed.includes(role) });
    });
});

describe('the table of routes', () => {
  test('whatever sends something says how much it may send; whatever changes something is no GET', () => {
    for (const [key, row] of Object.entries(routes)) {
      expect([key, 'body' in row]).toEqual([key, key.startsWith('POST ')]);
      if (key.startsWith('GET ')) expect([key, row.changes]).toEqual([key, 'nothing']);
      expect(row.perMinute).toBeGreaterThan(0);
    }
  });
  test('addresses are filled in, and nothing that is filled in leads elsewhere', () => {
    expect(addressOf('POST /api/tests/[id]/seal', { id: 'a/../b?c' })).toBe('/api/tests/a%2F..%2Fb%3Fc/seal');
    expect(addressOf('GET /api/field/kit' satisfies RouteKey)).toBe('/api/field/kit');
  });
});

describe('who asks, where no account is needed', () => {
  const proxies = proxiesOf('127.0.0.1, 10.0.0.0/8');
  test.each([
    ['a connection of its own', '203.0.113.9', undefined, '203.0.113.9'],
    ['one that says it is another', '203.0.113.9', '198.51.100.1', '203.0.113.9'],
    ['one behind our proxy', '127.0.0.1', '203.0.113.9', '203.0.113.9'],
    ['one behind our proxy that says it is another', '127.0.0.1', '198.51.100.1, 203.0.113.9', '203.0.113.9'],
    ['two proxies of ours', '127.0.0.1', '203.0.113.9, 10.1.2.3', '203.0.113.9'],
    ['our proxy that names nobody', '127.0.0.1', 'unknown', '127.0.0.1'],
    ['an address of the newer kind', '::ffff:127.0.0.1', '2001:db8::1', '2001:db8::1'],
  ])('%s', (_, peer, forwarded, client) => expect(clientAddress(peer, forwarded, proxies)).toBe(client));
  test('a proxy that is no address stops the start', () => expect(() => proxiesOf('the-proxy')).toThrow(/is no address/));
});

describe('settings', () => {
  const good = {
    VAST_DATABASE_URL: 'postgres://a@127.0.0.1/b',
    VAST_AUTH_DATABASE_URL: 'postgres://a@127.0.0.1/b',
    VAST_AUTH_SECRET: '0123456789abcdef0123456789abcdef',
    VAST_SEAL_SECRET: Buffer.from(Array.from({ length: 32 }, (_, index) => index * 7)).toString('base64'),
    VAST_ADDRESS: 'https://tests.example',
  };
  test('that will do', () => expect(settingFaults(good)).toEqual([]));
  test.each([
    ['VAST_SEAL_SECRET', undefined, /is not set: base64 of 32 bytes/],
    ['VAST_SEAL_SECRET', 'c2hvcnQ=', /must be the base64 of 32 bytes of chance/],
    ['VAST_SEAL_SECRET', Buffer.alloc(32).toString('base64'), /of chance/],
    ['VAST_AUTH_SECRET', 'open-sesame', /at least 32 characters of chance/],
    ['VAST_AUTH_SECRET', 'a'.repeat(40), /of chance/],
    ['VAST_ADDRESS', 'elsewhere.example', /must be a whole address/],
    ['VAST_ADDRESS', 'https://tests.example/app', /without a path/],
    ['VAST_DATABASE_URL', 'mysql://x', /must begin with postgres/],
  ])('%s as %s is named with what it is, and its value never', (name, value, words) => {
    const [fault, ...others] = settingFaults({ ...good, [name]: value });
    expect(others).toEqual([]);
    expect(fault).toMatch(words);
    if (value !== undefined) expect(fault).not.toContain(value);
  });
  test('one that is asked for and missing says so', () => {
    const before = process.env.VAST_SEAL_SECRET;
    delete process.env.VAST_SEAL_SECRET;
    expect(() => setting('VAST_SEAL_SECRET')).toThrow(/Set VAST_SEAL_SECRET: base64 of 32 bytes/);
    if (before !== undefined) process.env.VAST_SEAL_SECRET = before;
  });
});

test('work can be done at a stated time, and only that work', async () => {
  await at(1000, async () => {
    expect(now()).toBe(1000);
    await at(2000, async () => expect(now()).toBe(2000));
    expect(now()).toBe(1000);
  });
  expect(now()).toBeGreaterThan(1_700_000_000_000);
});
