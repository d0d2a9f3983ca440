import { routes } from '@/core/permissions';
import { clientHeader, clientOf, mustWait } from './throttle';

test('so often a minute as the table says; then a stated wait, for this client and this route alone', async () => {
  const { perMinute } = routes['POST /api/sign-in'];
  const waits = [];
  for (let index = 0; index <= perMinute; index += 1) waits.push(await mustWait('POST /api/sign-in', 'one'));
  expect(waits.slice(0, perMinute)).toEqual(Array.from({ length: perMinute }, () => undefined));
  expect(waits[perMinute]).toBeGreaterThan(0);
  expect(waits[perMinute]).toBeLessThanOrEqual(60);
  expect(await mustWait('POST /api/sign-in', 'another')).toBeUndefined();
  expect(await mustWait('POST /api/check', 'one')).toBeUndefined();
});

test('who asks is what the front says, and all whom it does not name are one', () => {
  expect(clientOf(new Headers({ [clientHeader]: '203.0.113.9', 'x-forwarded-for': '198.51.100.1' }))).toBe('203.0.113.9');
  expect(clientOf(new Headers({ 'x-forwarded-for': '198.51.100.1' }))).toBe('unknown');
});
