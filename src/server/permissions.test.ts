import { type Action, addressOf, may, type Role, type RouteKey, roles, routes } from '@/core/permissions';
import { at, now } from './clock';

describe('who may what', () => {
  const table: Record<Action, readonly Role[]> = {
    read: ['technician', 'supervisor', 'office'],
    'run tests': ['technician', 'supervisor'],
    seal: ['technician', 'supervisor'],
    correct: ['supervisor'],
    'edit sites': ['technician', 'supervisor', 'office'],
    'edit instruments': ['technician', 'supervisor', 'office'],
    send: ['technician', 'supervisor', 'office'],
    'set firm': ['supervisor', 'office'],
    exchange: ['supervisor'],
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
    expect(addressOf('POST /api/field/along' satisfies RouteKey)).toBe('/api/field/along');
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
