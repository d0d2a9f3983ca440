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

/** Offsets by a watch that was read off before the end closed the hold: of its start and of its end, each in its own start of the program. */
function byWatch(ends: NonNullable<Closed['ends']>, watches: readonly EventOf<'watch'>[]): readonly [number, number] | undefined {
  const offset = ({ event }: { readonly event: EventOf<'reading'> }): number | undefined => {
    const beside = watches.findLast(
      (one) =>
        one.device === event.device &&
        one.boot === event.boot &&
        Math.abs(event.observedAt - event.mono - (one.observedAt - one.mono)) <= agreeMs,
    );
    return beside === undefined ? undefined : beside.observedAt - beside.shows;
  };
  const [start, end] = [offset(ends.start), offset(ends.end)];
  return start === undefined || end === undefined ? undefined : [start, end];
}

/**
 * What the clocks leave open of a hold that was read to its end (DOMAIN 4.25): its time counts where one device measured it
 * throughout, or the server, or else a watch, vouches for both ends and the time between them is the planned one within the tolerance.
 * @param watches those that were read off before the hold was closed
 */
export function clockDoubt(
  { phase, title, ends, facts }: Closed,
  found: readonly Found[],
  watches: readonly EventOf<'watch'>[],
): Finding | undefined {
  if (ends === undefined || facts === undefined || ends.start === ends.end) return undefined;
  const why = suspicion(ends);
  if (why === undefined) return undefined;
  const [ahead, later] = [offsetOf(ends.start.event, found), offsetOf(ends.end.event, found)];
  const server = ahead === undefined || later === undefined ? undefined : ([ahead, later] as const);
  const offsets = server ?? byWatch(ends, watches);
  if (offsets === undefined) return find('clock-unproved', { title, why }, phase);
  const taken = ends.end.event.observedAt - offsets[1] - (ends.start.event.observedAt - offsets[0]);
  const planned = facts.seconds * 1000;
  const most = Math.max(planned, facts.end.at - facts.start.at) + lateToleranceMs(facts.seconds);
  const proved = facts.stopped || (taken >= planned - agreeMs && taken <= most);
  if (proved)
    return server === undefined ? find('clock-by-watch', { title, why, seconds: String(Math.round(taken / 1000)) }, phase) : undefined;
  const whose = server === undefined ? 'the watch' : 'the server’s clock';
  return find('clock-unproved', { title, why: `${why}, and by ${whose} ${Math.round(taken / 1000)} s lay between its readings` }, phase);
}
