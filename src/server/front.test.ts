import type { IncomingMessage } from 'node:http';
import { jest } from '@jest/globals';
import { clientAddress, leaveSoon, paced, proxiesOf } from './front';

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

test('what is asked at once is begun in its order, so many a turn, and others are heard in between', async () => {
  const [begun, turns]: [number[], number[]] = [[], []];
  const start = paced(3);
  for (let index = 0; index < 8; index += 1) start(() => begun.push(index));
  expect(begun).toEqual([]);
  while (begun.length < 8) {
    await new Promise((resolve) => setImmediate(resolve));
    turns.push(begun.length);
  }
  expect(begun).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  expect(Math.max(...turns.map((count, index) => count - (turns[index - 1] ?? 0)))).toBe(3);
  // What comes later has a turn again.
  start(() => begun.push(8));
  await new Promise((resolve) => setImmediate(resolve));
  expect(begun.at(-1)).toBe(8);
});

describe('a body that was refused unread', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const sending = () => {
    const request = { socket: { bytesRead: 1000, destroyed: false }, complete: false, destroy: jest.fn() };
    return { request, leave: () => leaveSoon(request as unknown as IncomingMessage) };
  };
  test('is listened to for a while, then cut off', () => {
    const { request, leave } = sending();
    leave();
    jest.advanceTimersByTime(4900);
    expect(request.destroy).not.toHaveBeenCalled();
    jest.advanceTimersByTime(200);
    expect(request.destroy).toHaveBeenCalledTimes(1);
    expect(jest.getTimerCount()).toBe(0);
  });
  test('that pours in is cut off at once', () => {
    const { request, leave } = sending();
    leave();
    request.socket.bytesRead += 4 * 1024 * 1024 + 1;
    jest.advanceTimersByTime(60);
    expect(request.destroy).toHaveBeenCalledTimes(1);
  });
  test('that ends by itself is let end', () => {
    const { request, leave } = sending();
    leave();
    request.complete = true;
    jest.advanceTimersByTime(6000);
    expect(request.destroy).not.toHaveBeenCalled();
    expect(jest.getTimerCount()).toBe(0);
  });
  test('whose connection is gone before the answer, or goes meanwhile, is nobody’s to cut', () => {
    leaveSoon({ socket: null, complete: false } as unknown as IncomingMessage);
    const { request, leave } = sending();
    request.socket.destroyed = true;
    leave();
    expect(jest.getTimerCount()).toBe(0);
  });
});
