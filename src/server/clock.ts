import { AsyncLocalStorage } from 'node:async_hooks';
import { isTestClock } from './environment';

/** The server's only clock. */
const fixed = new AsyncLocalStorage<{ readonly at: number }>();
const shared = globalThis as { __vastStoneClockOffset?: number };

export const testOffset = (): number => shared.__vastStoneClockOffset ?? Number(process.env.VAST_TEST_OFFSET ?? 0);
export const now = (): number => fixed.getStore()?.at ?? Date.now() + (isTestClock() ? testOffset() : 0);
export const nowDate = (): Date => new Date(now());

/** Runs work at a stated time: the demo firm's history is made through the real commands. */
export const at = <T>(milliseconds: number, work: () => Promise<T>): Promise<T> => fixed.run({ at: milliseconds }, work);

/** Moves the shared test clock; nothing happens outside a test build. */
export function setTestOffset(milliseconds: number): void {
  if (isTestClock()) shared.__vastStoneClockOffset = milliseconds;
}
