import { datedAt, dateText, type RunEvent } from '@/core/judging';
import { now } from './clock';
import { type FoundBody, serverEvent } from './server-event';

/* What the server's clock says of the times that a device wrote. It goes into the log right after them (DOMAIN 4.25). */

/** A device's two clocks at the moment at which it sent, ms. */
export interface SentAt {
  readonly device: string;
  readonly boot: string;
  readonly at: number;
  readonly mono: number;
}

/** What a device says of its clocks, where it says it well. */
export function readSentAt(input: unknown): SentAt | undefined {
  if (typeof input !== 'object' || input === null) return undefined;
  const { device, boot, at, mono } = input as Partial<Record<keyof SentAt, unknown>>;
  const named = (text: unknown): text is string => typeof text === 'string' && /^[\x21-\x7e]{1,200}$/.test(text);
  const moment = (value: unknown): value is number => Number.isSafeInteger(value) && Math.abs(value as number) <= 253_402_300_799_999;
  return named(device) && named(boot) && moment(at) && at >= 0 && moment(mono) ? { device, boot, at, mono } : undefined;
}

/** What the server found of the clock that timed these readings. */
export function clockFound(runId: string, events: readonly RunEvent[], sent: SentAt | undefined): readonly RunEvent[] {
  // A device whose clock is in doubt asks with nothing to send.
  const timed =
    events.length === 0 ||
    events.some(
      (event) =>
        event.type === 'pen' ||
        event.type === 'hold-stopped' ||
        (event.type === 'reading' && (event.role === 'start' || event.role === 'end')),
    );
  if (sent === undefined || !timed) return [];
  return [
    serverEvent(runId, { type: 'clock', of: sent.device, ofBoot: sent.boot, deviceAt: sent.at, deviceMono: sent.mono, serverAt: now() }),
  ];
}

const minute = 60_000;
const day = 86_400_000;
/** A device may be without signal for a week and more; what comes later than this was hardly done then. */
const mostOnTheWayMs = 14 * day;
/** What was stamped is typed within minutes; a list may be gone through the same day. */
const mostUntypedMs = 12 * 60 * minute;
/** A clock that is wrong by more has dated what it wrote wrongly. */
const mostSkewMs = 2 * minute;

const inWords = (ms: number): string => {
  const size = Math.abs(ms);
  return size >= 2 * day
    ? `${Math.round(size / day)} days`
    : size >= 120 * minute
      ? `${Math.round(size / 60 / minute)} hours`
      : `${Math.max(1, Math.round(size / minute))} minutes`;
};

/** How far a device's clock is ahead of the server's, ms, where that dates what it wrote otherwise. */
export function skewOf(sent: SentAt | undefined): number | undefined {
  const skew = sent === undefined ? 0 : sent.at - now();
  return Math.abs(skew) > mostSkewMs ? skew : undefined;
}

/**
 * What is wrong with the dates of these events, each of which carries its skew already: an hour's skew is an hour's error of each.
 * What a device wrote ahead of the server's time, long before it came, or long before it was typed is found and said, and what came
 * late from a device that does not say what its clock shows; each kind once for a device.
 */
export function timesFound(events: readonly RunEvent[], sent: SentAt | undefined): readonly FoundBody[] {
  if (events.length === 0) return [];
  const at = now();
  // Found once, when they came; all of one sending carry the same.
  const [{ skew = 0 }] = events;
  const found: FoundBody[] = [];
  const say = (kind: string, is: FoundBody['is'], text: string) =>
    found.push({ type: 'found', about: 'time', of: `${kind} ${events[0].device}`.slice(0, 200), is, text });
  if (skew !== 0)
    say(
      'skew',
      Math.abs(skew) > day ? 'differs' : 'noted',
      `The device’s clock was ${inWords(skew)} ${skew > 0 ? 'ahead of' : 'behind'} the server’s when this came; its times are told by the server’s clock.`,
    );
  const times = events.map((one) => ({ observed: datedAt(one), entered: one.enteredAt - skew }));
  const ahead = Math.max(...times.flatMap(({ observed, entered }) => [observed, entered])) - at;
  if (ahead > mostSkewMs) say('ahead', 'differs', `Something is dated ${inWords(ahead)} ahead of the time at which it came.`);
  const old = at - Math.min(...times.map(({ entered }) => entered));
  if (old > mostOnTheWayMs)
    say('late', 'differs', `Something is said to have been entered ${inWords(old)} before it came, which was on ${dateText(at)}.`);
  else if (sent === undefined && old > day)
    say(
      'unclocked',
      'noted',
      `Something came ${inWords(old)} after it is said to have been entered, and nothing tells what its device’s clock showed.`,
    );
  const untyped = Math.max(...events.map((one) => one.enteredAt - one.observedAt - (isLogged(one) ? mostOnTheWayMs : mostUntypedMs)));
  if (untyped > 0) say('backdated', 'differs', 'Something was entered long after it is said to have been seen.');
  return found;
}

/** A logging gauge's file may be fetched days after. */
const isLogged = (event: RunEvent): boolean => 'source' in event && event.source === 'logging gauge';
