import { randomUUID } from 'node:crypto';
import { DatabaseFault } from '@/db/fault';
import { Shared } from './shared';

/* Work that comes while other work is under way is done together, and nobody pays for another's fault. */

const firm = randomUUID();

/** Doubles figures, a turn of the loop at a time; keeps what came together. */
function doubling(fault: (parts: readonly number[]) => Error | undefined = () => undefined) {
  const together: (readonly number[])[] = [];
  const shared = new Shared<number, number>(async (_, parts) => {
    together.push(parts);
    await new Promise((resolve) => setImmediate(resolve));
    const error = fault(parts);
    if (error !== undefined) throw error;
    return parts.map((part) => part * 2);
  });
  return { shared, together };
}

test('each gets its own answer; two are under way, the rest shares', async () => {
  const { shared, together } = doubling();
  const asked = Array.from({ length: 120 }, (_, index) => index);
  expect(await Promise.all(asked.map((one) => shared.ask(firm, one)))).toEqual(asked.map((one) => one * 2));
  expect(together.map(({ length }) => length).sort((a, b) => a - b)).toEqual([1, 1, 18, 50, 50]);
  expect(together.flat().sort((a, b) => a - b)).toEqual(asked);
  expect(await shared.ask(firm, 7)).toBe(14);
});

test('firms do not wait for each other', async () => {
  const { shared, together } = doubling();
  await Promise.all(Array.from({ length: 4 }, () => shared.ask(randomUUID(), 1)));
  expect(together).toEqual([[1], [1], [1], [1]]);
});

test('one that cannot be done spoils its own alone', async () => {
  const { shared, together } = doubling((parts) => (parts.includes(13) ? new RangeError('thirteen') : undefined));
  const settled = await Promise.allSettled(Array.from({ length: 20 }, (_, index) => shared.ask(firm, index)));
  expect(settled.flatMap(({ status }, index) => (status === 'rejected' ? [index] : []))).toEqual([13]);
  // Those that were with it were done again, each by itself.
  expect(together.filter((parts) => parts.length === 1).length).toBeGreaterThan(15);
});

test('a database that is busy is busy for all of them, and is not asked once more for each', async () => {
  const busy = new DatabaseFault('55P03');
  expect(busy.isBusy).toBe(true);
  const { shared, together } = doubling((parts) => (parts.length > 1 ? busy : undefined));
  const settled = await Promise.allSettled(Array.from({ length: 20 }, (_, index) => shared.ask(firm, index)));
  expect(settled.filter(({ status }) => status === 'rejected')).toHaveLength(18);
  expect(together).toHaveLength(3);
});
