import { type DisturbanceKind, disturbanceKinds } from '../course/disturbances';
import { datedAt } from '../exact/calendar';
import {
  between,
  count,
  decimalText,
  type Fields,
  flag,
  hash,
  is,
  list,
  may,
  name,
  oneOf,
  type Shape,
  shape,
  text,
  time,
  uuid,
  type Whole,
  whole,
} from '../exact/shape';
import { instrumentUnits, traceMost } from '../limits';
import { pressureUnits, readQuantities } from '../quantities';

export { datedAt, dateText, localDate } from '../exact/calendar';

/** What the server looks up, and how it finds it. */
export const foundAbout = ['instrument', 'rule', 'procedure', 'plan', 'time'] as const;
export const foundStates = ['as told', 'noted', 'differs', 'overdue', 'simulated'] as const;

/** What every event carries. Times are whole milliseconds, UTC. */
const envelope = {
  schema: is(1),
  run: uuid,
  /** Made by the device (UUID); the same id twice is the same event. */
  id: uuid,
  device: name,
  /** Counts this device's events in this run, from 1. */
  seq: count,
  author: name,
  /** When it was true: for a stamped reading, the stamp. */
  observedAt: time,
  /** When it was written down. */
  enteredAt: time,
  /** Minutes east of UTC where it was written. */
  offsetMinutes: between(-840, 840),
  /** The start of the device's program that wrote it, and its monotonic clock at `observedAt`, ms. */
  boot: name,
  mono: whole,
  /** Its place in the log, given when it joined: by the server, in a record by the list. What is not sent yet has none and comes after. */
  position: may(count),
  /** How far the device's clock was ahead of the server's when it came, ms: given by the server where that dates it otherwise. */
  skew: may(whole),
};
export type Envelope = Whole<typeof envelope>;

/** Who wrote an event, when and where, without what it says. */
export const envelopeOf = (event: RunEvent): Envelope =>
  Object.fromEntries(Object.entries(event).filter(([key]) => Object.hasOwn(envelope, key))) as unknown as Envelope;

/** A moment of a run by the server's clock, as far as what was written up to then was dated by it. */
export const datedIn = (events: readonly RunEvent[], at: number): number =>
  datedAt({ observedAt: at, skew: events.findLast((one) => one.observedAt <= at && one.device !== 'server')?.skew });

export const readingRoles = ['zero', 'start', 'between', 'end', 'point'] as const;
export type ReadingRole = (typeof readingRoles)[number];

export { type DisturbanceKind, disturbanceKinds } from '../course/disturbances';

/** These void a hold whatever anyone writes beside them (DOMAIN 4.9). */
export const neverWaived: readonly DisturbanceKind[] = ['gas used', 'water drawn', 'valve moved', 'gauge touched'];

export const checkStates = ['done', 'not-applicable', 'proved', 'plugged', 'unproved', 'undone'] as const;
export type CheckState = (typeof checkStates)[number];
/** A logging gauge's readings are taken from its own file. */
export const readingSources = ['keypad', 'simulated gauge', 'logging gauge'] as const;
export type ReadingSource = (typeof readingSources)[number];

/** How a part of a system was looked at for a leak. */
export const searchMethods = [
  'bubbles',
  'gas sniffer',
  'dye',
  'listening',
  'ultrasound or tracer gas',
  'smoke',
  'pressure pan',
  'dial',
  'looking',
] as const;

/** A phase and its round: restarting a phase opens a new round of it and of all that follow. */
const inPhase = { phase: name, round: count };
const readUnit = oneOf(...instrumentUnits, 'C', 'F', 'K');
const source = oneOf(...readingSources);

/** Who may write an event of a kind: the device with the pen, anyone, or the server about what it found. */
type Writer = 'pen' | 'anyone' | 'server';
const kind = <F extends Fields>(writer: Writer, fields: F) => ({ writer, fields });

/** Every kind of event with its fields: the type, the reader's schema and who may write it. */
const kinds = {
  /** The device takes the pen: it moves the phases from here on. */
  pen: kind('anyone', {}),
  caution: kind('anyone', { caution: name }),
  check: kind('anyone', { ...inPhase, item: name, state: oneOf(...checkStates), text: may(text) }),
  observation: kind('pen', { ...inPhase, option: name }),
  /** The moment of a reading whose figure follows. */
  stamp: kind('anyone', { ...inPhase, role: oneOf(...readingRoles) }),
  /** A start or an end counts only from the device with the pen. */
  reading: kind('anyone', {
    ...inPhase,
    role: oneOf(...readingRoles),
    quantity: oneOf(...readQuantities),
    value: decimalText,
    unit: readUnit,
    typed: text,
    source,
    stamp: may(uuid),
    /** Point of a measuring phase. */
    point: may(name),
    /** The instrument showed nothing: the truth lies under its range, which is no zero. `value` is the range's end. */
    qualifier: may(is('below range')),
  }),
  /** A temperature or a barometer that belongs to a hold's end and will not be read. */
  declined: kind('pen', { ...inPhase, what: oneOf('temperature', 'barometer') }),
  /** Of a reading while its phase is open; of a look or an isolation of the search at any time. */
  withdrawn: kind('anyone', { reading: uuid, reason: text }),
  /** `round` is the new round. */
  restart: kind('pen', { ...inPhase, reason: text }),
  disturbance: kind('anyone', { ...inPhase, what: oneOf(...disturbanceKinds), text }),
  waived: kind('anyone', { disturbance: uuid, reason: text }),
  'hold-stopped': kind('pen', { ...inPhase, reason: text }),
  /** The start pressure could not be reached, or fell as fast as it was fed. */
  'not-reached': kind('pen', { ...inPhase, text }),
  'leak-seen': kind('anyone', { ...inPhase, where: oneOf('system', 'rig'), text }),
  smell: kind('anyone', { text }),
  /** What stood over its rating was looked at afterwards. */
  inspected: kind('anyone', { sound: flag, text }),
  stopped: kind('anyone', { reason: text }),
  /** The next attempt follows under this pressure: what closes the test is done there (DOMAIN 4.27). */
  continued: kind('pen', {}),
  'clock-jump': kind('anyone', { ...inPhase, milliseconds: whole }),
  gap: kind('anyone', { ...inPhase, milliseconds: whole }),
  note: kind('anyone', { text }),
  /** The guard gauge, at leaving and at every later look; the pipe's temperature in °C where it was read. */
  guard: kind('anyone', { value: decimalText, unit: oneOf(...instrumentUnits), celsius: may(decimalText), source }),
  /** A part looked at for the leak after a fall; `section` is one of the system's, or the rig or the gauge. */
  searched: kind('anyone', { section: name, method: oneOf(...searchMethods), leak: flag, text }),
  /** A spot along the route where it was listened: how far along, and how loud, from 0 (nothing) to 10. It proves no leak by itself. */
  heard: kind('anyone', { section: name, at: text, loudness: between(0, 10), method: oneOf(...searchMethods) }),
  /**
   * An appliance that was gone round: its data, each check in order or not, and what is to be done. `of` is its row in the register,
   * `was` the serial that stood there where another one was found. The last card of an appliance counts.
   */
  appliance: kind('anyone', {
    of: may(uuid),
    name,
    make: text,
    model: text,
    serial: text,
    was: may(text),
    checks: list(shape({ id: name, ok: flag, todo: may(text) }), 20),
  }),
  /** `hash` of the picture that is sent, `original` of the file as it was taken, where the device scaled it; `slot` is what it is evidence of. */
  photo: kind('anyone', { hash, original: may(hash), takenAt: time, text, slot: may(name) }),
  /** Another clock, read off at the moment of the event: what it showed, ms, on the day and in the zone of the device. */
  watch: kind('anyone', { shows: time }),
  /** Something done to the simulated plant. */
  plant: kind('anyone', {
    action: oneOf('scenario', 'zero', 'raise', 'feed', 'isolate', 'reconnect', 'disconnect'),
    value: name,
  }),
  /** A stream of readings: `values` are whole steps of 10^-scale of the unit, `stepMs` apart. At most 600. */
  trace: kind('anyone', {
    ...inPhase,
    startAt: time,
    stepMs: between(1, 3_600_000),
    unit: oneOf(...pressureUnits),
    scale: between(0, 9),
    values: list(between(-traceMost, traceMost), 600),
    source,
  }),
  /**
   * What the server knows otherwise than the plan or the log says it, of an instrument, a rule, the procedure, the plan or a time;
   * said again `as told` it is cleared. `of` is an id or a name; the same one again replaces what was said before.
   */
  found: kind('server', { about: oneOf(...foundAbout), of: name, is: oneOf(...foundStates), text }),
  /** What the server found of a device's clock when it sent: both clocks at that moment, ms. */
  clock: kind('server', { of: name, ofBoot: name, deviceAt: time, deviceMono: whole, serverAt: time }),
} as const;

/** An isolation is held with its figures, or only said where nothing can be held. */
const isolations = {
  held: {
    section: name,
    step: oneOf('start', 'end'),
    value: decimalText,
    unit: oneOf(...instrumentUnits),
    source,
  },
  said: { section: name, step: is('said'), stillLeaks: flag },
} as const;

type Kinds = typeof kinds;
export type Body =
  | { readonly [T in keyof Kinds]: { readonly type: T } & Whole<Kinds[T]['fields']> }[keyof Kinds]
  | ({ readonly type: 'isolation' } & Whole<(typeof isolations)['held']>)
  | ({ readonly type: 'isolation' } & Whole<(typeof isolations)['said']>);
export type EventType = Body['type'];
export type RunEvent = Envelope & Body;
export type EventOf<T extends EventType> = Envelope & Extract<Body, { type: T }>;
export type DeviceBody = Exclude<Body, { type: 'clock' | 'found' }>;

const branch = (type: string, ...bodies: readonly Fields[]): Shape<unknown> => {
  const whole = bodies.map((fields) => shape({ ...envelope, type: is(type), ...fields }));
  return whole.length === 1 ? whole[0] : { type: 'object', required: ['type'], properties: { type: is(type) }, anyOf: whole };
};

const writers = new Map<string, Writer>([
  ...Object.entries(kinds).map(([type, { writer }]): [string, Writer] => [type, writer]),
  ['isolation', 'anyone'],
]);
/** Whether only the device with the pen moves a run by it. */
export const needsPen = (event: RunEvent): boolean =>
  writers.get(event.type) === 'pen' || (event.type === 'reading' && (event.role === 'start' || event.role === 'end'));
/** Whether a device may send it; the server writes the rest. */
export const isFromDevice = ({ type }: { readonly type: EventType }): boolean => writers.get(type) !== 'server';

/** What the reader lets through; a branch a kind, chosen by `type`. */
export const eventSchema: Shape<RunEvent> = {
  type: 'object',
  required: ['type'],
  properties: { type: oneOf(...writers.keys()) },
  discriminator: { propertyName: 'type' },
  oneOf: [
    ...Object.entries(kinds).map(([type, { fields }]) => branch(type, fields)),
    branch('isolation', isolations.held, isolations.said),
  ],
};
export type SearchMethod = (typeof searchMethods)[number];

/** The one order: the place at which an event joined the log; what has none yet follows, in its device's own order. */
export function compareEvents(a: Envelope, b: Envelope): number {
  const [placeA, placeB] = [a.position ?? Number.POSITIVE_INFINITY, b.position ?? Number.POSITIVE_INFINITY];
  if (placeA !== placeB) return placeA < placeB ? -1 : 1;
  return (a.device < b.device ? -1 : a.device > b.device ? 1 : 0) || a.seq - b.seq || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
