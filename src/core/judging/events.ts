import type { SearchMethod } from '../locating/likelihood';
import type { ReadQuantity } from '../procedures/phases';
import type { PressureUnit, Unit } from '../quantities';

/** What every event carries. Times are whole milliseconds, UTC. */
export interface Envelope {
  readonly schema: 1;
  readonly run: string;
  /** Made by the device (UUID); the same id twice is the same event. */
  readonly id: string;
  readonly device: string;
  /** Counts this device's events in this run, from 1. */
  readonly seq: number;
  readonly author: string;
  /** When it was true: for a stamped reading, the stamp. */
  readonly observedAt: number;
  /** When it was written down. */
  readonly enteredAt: number;
  /** Minutes east of UTC where it was written. */
  readonly offsetMinutes: number;
  /** The start of the device's program that wrote it, and its monotonic clock at `observedAt`, ms. */
  readonly boot: string;
  readonly mono: number;
  /** Hybrid logical clock: wall ms, and a count within it. */
  readonly clock: readonly [number, number];
}

export const readingRoles = ['zero', 'start', 'between', 'end', 'point'] as const;
export type ReadingRole = (typeof readingRoles)[number];

export const disturbanceKinds = [
  'gas used',
  'water drawn',
  'valve moved',
  'gauge touched',
  'sun on the pipe',
  'vibration',
  'other',
] as const;
export type DisturbanceKind = (typeof disturbanceKinds)[number];

/** These void a hold whatever anyone writes beside them (DOMAIN 4.9). */
export const neverWaived: readonly DisturbanceKind[] = ['gas used', 'water drawn', 'valve moved', 'gauge touched'];

export type CheckState = 'done' | 'not-applicable' | 'proved' | 'plugged' | 'unproved' | 'undone';
/** A logging gauge's readings are taken from its own file. */
export const readingSources = ['keypad', 'simulated gauge', 'logging gauge'] as const;
export type ReadingSource = (typeof readingSources)[number];

/** A phase and its round: restarting a phase opens a new round of it and of all that follow. */
interface InPhase {
  readonly phase: string;
  readonly round: number;
}

export type Body =
  /** The device takes the pen: it moves the phases from here on. */
  | { readonly type: 'pen' }
  | { readonly type: 'caution'; readonly caution: string }
  | ({ readonly type: 'check'; readonly item: string; readonly state: CheckState; readonly text?: string } & InPhase)
  | ({ readonly type: 'observation'; readonly option: string } & InPhase)
  /** The moment of a reading whose figure follows. */
  | ({ readonly type: 'stamp'; readonly role: ReadingRole } & InPhase)
  | ({
      readonly type: 'reading';
      readonly role: ReadingRole;
      readonly quantity: ReadQuantity;
      readonly value: string;
      readonly unit: Unit;
      readonly typed: string;
      /** Point of a measuring phase. */
      readonly point?: string;
      /** The instrument showed nothing: the truth lies under its range, which is no zero. `value` is the range's end. */
      readonly qualifier?: 'below range';
      readonly source: ReadingSource;
      readonly stamp?: string;
    } & InPhase)
  /** Of a reading while its phase is open; of a look or an isolation of the search at any time. */
  | { readonly type: 'withdrawn'; readonly reading: string; readonly reason: string }
  /** `round` is the new round. */
  | ({ readonly type: 'restart'; readonly reason: string } & InPhase)
  | ({ readonly type: 'disturbance'; readonly what: DisturbanceKind; readonly text: string } & InPhase)
  | { readonly type: 'waived'; readonly disturbance: string; readonly reason: string }
  | ({ readonly type: 'hold-stopped'; readonly reason: string } & InPhase)
  /** The start pressure could not be reached, or fell as fast as it was fed. */
  | ({ readonly type: 'not-reached'; readonly text: string } & InPhase)
  | ({ readonly type: 'leak-seen'; readonly where: 'system' | 'rig'; readonly text: string } & InPhase)
  | { readonly type: 'smell'; readonly text: string }
  | { readonly type: 'stopped'; readonly reason: string }
  | ({ readonly type: 'clock-jump'; readonly milliseconds: number } & InPhase)
  | ({ readonly type: 'gap'; readonly milliseconds: number } & InPhase)
  | { readonly type: 'note'; readonly text: string }
  /** The guard gauge, at leaving and at every later look; the pipe's temperature in °C where it was read. */
  | { readonly type: 'guard'; readonly value: string; readonly unit: Unit; readonly celsius?: string; readonly source: ReadingSource }
  /** A part looked at for the leak after a fall; `section` is one of the system's, or the rig or the gauge. */
  | { readonly type: 'searched'; readonly section: string; readonly method: SearchMethod; readonly leak: boolean; readonly text: string }
  /** A hold for locating, with a section and all that hangs on it shut off: its start, and its end. */
  | {
      readonly type: 'isolation';
      readonly section: string;
      readonly step: 'start' | 'end';
      readonly value: string;
      readonly unit: Unit;
      readonly source: ReadingSource;
    }
  /** The same without figures, where nothing is held: what was seen with the section shut off. */
  | { readonly type: 'isolation'; readonly section: string; readonly step: 'said'; readonly stillLeaks: boolean }
  | { readonly type: 'photo'; readonly hash: string; readonly takenAt: number; readonly text: string }
  /** Something done to the simulated plant. */
  | {
      readonly type: 'plant';
      readonly action: 'scenario' | 'zero' | 'raise' | 'feed' | 'isolate' | 'reconnect' | 'disconnect';
      readonly value: string;
    }
  /** A stream of readings: `values` are whole steps of 10^-scale of the unit, `stepMs` apart. At most 600. */
  | ({
      readonly type: 'trace';
      readonly startAt: number;
      readonly stepMs: number;
      readonly unit: PressureUnit;
      readonly scale: number;
      readonly values: readonly number[];
      readonly source: ReadingSource;
    } & InPhase);

export type EventType = Body['type'];
export type RunEvent = Envelope & Body;
export type EventOf<T extends EventType> = Envelope & Extract<Body, { type: T }>;

/** The one total order: logical clock, then device, then the device's own count. */
export function compareEvents(a: Envelope, b: Envelope): number {
  return (
    a.clock[0] - b.clock[0] ||
    a.clock[1] - b.clock[1] ||
    (a.device < b.device ? -1 : a.device > b.device ? 1 : 0) ||
    a.seq - b.seq ||
    (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
  );
}

/** Next tick of the hybrid logical clock after everything seen so far. */
export const tick = (last: readonly [number, number], now: number): readonly [number, number] =>
  now > last[0] ? [now, 0] : [last[0], last[1] + 1];

/** Local date of an event, YYYY-MM-DD. */
export const localDate = (event: Pick<Envelope, 'observedAt' | 'offsetMinutes'>): string =>
  dateText(event.observedAt + event.offsetMinutes * 60_000);

/** Civil date of a count of ms since 1970, without the engine's calendar (days-from-civil, turned round). */
export function dateText(milliseconds: number): string {
  const days = Math.floor(milliseconds / 86_400_000) + 719_468;
  const era = Math.floor(days / 146_097);
  const dayOfEra = days - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shifted = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shifted + 2) / 5) + 1;
  const month = shifted < 10 ? shifted + 3 : shifted - 9;
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}
