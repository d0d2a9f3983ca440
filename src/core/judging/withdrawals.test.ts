import { eventsFor, planFor } from '../simulation/examples.fixture';
import type { RunEvent } from './events';
import { judge } from './judge';

/* A log that grows is judged in a time that grows with it, whatever is withdrawn in it. */

const plan = planFor({});
const whole = eventsFor(plan, 'sound');
const from = whole.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'start');
const start = whole[from];

function log(count: number): readonly RunEvent[] {
  const id = (part: number, index: number) => `00000000-0000-4000-${8000 + part}-${String(index).padStart(12, '0')}`;
  const moment = (index: number) => ({ observedAt: start.observedAt + 100 + index, enteredAt: start.enteredAt + 100 + index });
  const indices = Array.from({ length: count }, (_, index) => index);
  const read = indices.map((index) => ({ ...start, ...moment(index), id: id(0, index), role: 'between', seq: 1000 + index }) as RunEvent);
  const withdrawn = indices.map(
    (index) =>
      ({
        ...start,
        ...moment(count + index),
        type: 'withdrawn',
        id: id(1, index),
        reading: id(0, index),
        reason: 'x',
        seq: 100_000 + index,
      }) as unknown as RunEvent,
  );
  return [...whole.slice(0, from + 1), ...read, ...withdrawn];
}

const took = (count: number): number => {
  const events = log(count);
  const times = [1, 2, 3].map(() => {
    const began = performance.now();
    judge(plan, events);
    return performance.now() - began;
  });
  return Math.min(...times);
};

test('four thousand readings and as many withdrawals take no more than their share of five hundred', () => {
  took(500);
  expect(took(4000)).toBeLessThan(8 * 5 * took(500) + 20);
  expect(took(4000)).toBeLessThan(1000);
});
