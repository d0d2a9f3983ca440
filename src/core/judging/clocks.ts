import { type Finding, lateToleranceMs } from '../limits';
import type { EventOf } from './events';
import type { Closed } from './open';
import { find } from './sayings';

/** Clocks that agree within so long agree (DOMAIN 4.25). */
const agreeMs = 2000;

/** A device's clock as the server found it. */
type Found = EventOf<'clock'>;

/** How far a reading's device was ahead of the server when it was taken, ms; undefined where nothing vouches for it. */
function offsetOf(reading: EventOf<'reading'>, found: readonly Found[]): number | undefined {
  const own = found.filter(({ of }) => of === reading.device);
  /** Whether two moments lie in one start of the program, and the device's two clocks ran together between them. */
  const together = (boot: string, apart: number) => (one: Found) =>
    one.ofBoot === boot && Math.abs(apart - (one.deviceAt - one.deviceMono)) <= agreeMs;
  // A slow way to the server makes a device look behind, never ahead: of the contacts of one run of its clock the quickest tells.
  const ahead = (those: readonly Found[]) => Math.max(...those.map((one) => one.deviceAt - one.serverAt));
  const beside = own.filter(together(reading.boot, reading.observedAt - reading.mono));
  if (beside.length > 0) return ahead(beside);
  const near = (one: Found) => ahead(own.filter(together(one.ofBoot, one.deviceAt - one.deviceMono)));
  const before = own.findLast(({ deviceAt }) => deviceAt <= reading.observedAt + agreeMs);
  const after = own.find(({ deviceAt }) => deviceAt >= reading.observedAt - agreeMs);
  if (before === undefined || after === undefined) return undefined;
  return Math.abs(near(before) - near(after)) <= agreeMs ? near(before) : undefined;
}

/** Why a hold's time is in doubt by itself: two devices, a reload or a sleep in it, a reading written before it was taken. */
function suspicion({ start, end }: NonNullable<Closed['ends']>): string | undefined {
  const [from, to] = [start.event, end.event];
  for (const { observedAt, enteredAt } of [from, to])
    if (observedAt > enteredAt + agreeMs) return 'a reading’s moment lies after the one at which it was written';
  if (from.device !== to.device) return 'its start and its end were read on two devices';
  if (from.boot !== to.boot) return 'the program was started anew in between';
  // A sleeping device's monotonic clock may stand still, which looks like a jump ahead.
  return Math.abs(to.observedAt - from.observedAt - (to.mono - from.mono)) > agreeMs ? 'the device slept, or its clock was set' : undefined;
}

/**
 * What the clocks leave open of a hold that was read to its end (DOMAIN 4.25): its time counts where one device measured it
 * throughout, or the server vouches for both ends and the time between them is the planned one within the tolerance.
 */
export function clockDoubt({ phase, title, ends, facts }: Closed, found: readonly Found[]): Finding | undefined {
  if (ends === undefined || facts === undefined || ends.start === ends.end) return undefined;
  const why = suspicion(ends);
  if (why === undefined) return undefined;
  const [ahead, later] = [offsetOf(ends.start.event, found), offsetOf(ends.end.event, found)];
  if (ahead !== undefined && later !== undefined) {
    const taken = ends.end.event.observedAt - later - (ends.start.event.observedAt - ahead);
    const planned = facts.seconds * 1000;
    if (
      facts.stopped ||
      (taken >= planned - agreeMs && taken <= Math.max(planned, facts.end.at - facts.start.at) + lateToleranceMs(facts.seconds))
    )
      return undefined;
    return find(
      'clock-unproved',
      { title, why: `${why}, and by the server’s clock ${Math.round(taken / 1000)} s lay between its readings` },
      phase,
    );
  }
  return find('clock-unproved', { title, why }, phase);
}
