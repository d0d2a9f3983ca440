import { notify } from '@/db/connection';
import { faultFacts, log } from './log';

/*
 * Tells all processes that something of a firm's lists has changed. It is said after the change and apart from it, twice a second
 * for a firm at most: a notice inside the transaction would make every commit wait for the one before. Whoever listens looks for
 * itself; a notice that is lost is made good by the next, or by the listener's own slow look.
 */

export const changedChannel = 'vast_changed';
const everyMs = 500;

const shared = globalThis as { __vastStoneAnnouncing?: Map<string, NodeJS.Timeout> };

export function announce(firmId: string): void {
  shared.__vastStoneAnnouncing ??= new Map();
  const waiting = shared.__vastStoneAnnouncing;
  if (waiting.has(firmId)) return;
  const timer = setTimeout(() => {
    waiting.delete(firmId);
    notify(changedChannel, firmId).catch((error: unknown) => log().warn(faultFacts(error), 'not announced'));
  }, everyMs);
  timer.unref();
  waiting.set(firmId, timer);
}

/** Says nothing more; for the end of a program. */
export function stopAnnouncing(): void {
  for (const timer of shared.__vastStoneAnnouncing?.values() ?? []) clearTimeout(timer);
  shared.__vastStoneAnnouncing?.clear();
}
