import { flag, list, type Of, oneOf, record, type Shape, shape, text, uuid } from '../exact';
import type { Section } from '../locating';
import { systemKinds } from '../procedures';
import { instrumentKinds } from '../sizing';

/*
 * What a firm keeps besides its tests: where it works, on what, with what, and when. A thing is made and changed on a device without
 * signal as well as in the office; this is the one place that knows its fields.
 */

const words = (maxLength: number): Shape<string> => ({ ...text, maxLength });
/** A local date, or nothing yet. */
const dateOrNone: Shape<string> = { type: 'string', pattern: '^([0-9]{4}-[0-9]{2}-[0-9]{2})?$' };
/** The id of another thing, or nothing. */
const idOrNone: Shape<string> = {
  type: 'string',
  pattern: '^([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})?$',
};
/** A whole number from `minimum`, of what somebody counted. */
const counted = (maximum: number): Shape<number> => ({ type: 'integer', minimum: 0, maximum });

const section: Shape<Section> = {
  type: 'object',
  properties: {
    id: words(80),
    parent: words(80),
    name: words(80),
    joints: counted(500),
    age: counted(200),
    minutes: counted(600),
    hidden: flag,
  },
  required: ['id', 'name'],
  additionalProperties: false,
};

/** Equipment that shows no figure: what closes an opening, feeds or regulates. */
export const equipmentKinds = ['ball', 'plug', 'plug set', 'ring set', 'regulator', 'pump', 'hose and tee'] as const;

export const shapes = {
  site: shape({
    name: words(120),
    address: words(300),
    occupier: words(120),
    /** How to get in, whom to ask. */
    access: words(500),
    /** The site that this one turned out to be; what hangs on it hangs there. */
    mergedInto: idOrNone,
    /** Sites that look like it and are others: somebody looked. */
    apartFrom: list(uuid, 50),
    putAway: flag,
  }),
  system: shape({
    siteId: uuid,
    name: words(120),
    kind: oneOf(...systemKinds),
    /** Its schedule of pipes, a line each, and the volume where no lengths are known. */
    pipes: words(20_000),
    statedVolume: words(40),
    /** What is known of it for good, by question of its procedures. */
    answers: record(words(4000)),
    sections: list(section, 40),
    putAway: flag,
  }),
  component: shape({
    systemId: uuid,
    /** As the trade calls it: boiler, hob, manifold. */
    kind: words(80),
    make: words(80),
    model: words(80),
    serial: words(80),
    /** The most that it may see, with its unit, and its height above the gauge where that matters. */
    rating: words(40),
    height: words(20),
    fitted: dateOrNone,
    removed: dateOrNone,
    note: words(500),
    putAway: flag,
  }),
  instrument: shape({
    name: words(80),
    kind: oneOf(...instrumentKinds),
    unit: words(20),
    readability: words(24),
    rangeLow: words(24),
    rangeHigh: words(24),
    serial: words(60),
    calibrationNeeded: flag,
    simulated: flag,
    putAway: flag,
  }),
  equipment: shape({
    kind: oneOf(...equipmentKinds),
    name: words(80),
    size: words(40),
    rating: words(40),
    serial: words(60),
    note: words(500),
    putAway: flag,
  }),
  visit: shape({
    siteId: uuid,
    on: dateOrNone,
    /** Account ids of those who go; whoever is free where none is named. */
    people: list(words(80), 20),
    /** In the order in which they are begun, where somebody has set one. */
    tests: list(shape({ system: uuid, procedure: words(80) }), 60),
    ordered: flag,
    /** When it begins, local time, HH:MM; nothing where that is open. */
    begins: { type: 'string', pattern: '^([01][0-9]|2[0-3]):[0-5][0-9]$|^$' } as Shape<string>,
    note: words(1000),
    putAway: flag,
  }),
} as const;

export type ThingKind = keyof typeof shapes;
export const thingKinds = Object.keys(shapes) as readonly ThingKind[];

/** What a thing of a kind says of itself. */
export type Said<K extends ThingKind> = Of<(typeof shapes)[K]>;

/** A thing as it is kept: `version` counts what was changed since it was made, 1 at first. */
export type Thing<K extends ThingKind> = Said<K> & { readonly id: string; readonly version: number };

/** A new thing before anybody has said anything of it. */
export const blank: { readonly [K in ThingKind]: Said<K> } = {
  site: { name: '', address: '', occupier: '', access: '', mergedInto: '', apartFrom: [], putAway: false },
  system: { siteId: '', name: '', kind: 'gas', pipes: '', statedVolume: '', answers: {}, sections: [], putAway: false },
  component: {
    systemId: '',
    kind: '',
    make: '',
    model: '',
    serial: '',
    rating: '',
    height: '',
    fitted: '',
    removed: '',
    note: '',
    putAway: false,
  },
  instrument: {
    name: '',
    kind: 'digital',
    unit: 'mbar',
    readability: '',
    rangeLow: '0',
    rangeHigh: '',
    serial: '',
    calibrationNeeded: true,
    simulated: false,
    putAway: false,
  },
  equipment: { kind: 'plug', name: '', size: '', rating: '', serial: '', note: '', putAway: false },
  visit: { siteId: '', on: '', people: [], tests: [], ordered: false, begins: '', note: '', putAway: false },
};

/** What each is called in a sentence. */
export const thingWords: Readonly<Record<ThingKind, string>> = {
  site: 'site',
  system: 'system',
  component: 'component',
  instrument: 'instrument',
  equipment: 'piece of equipment',
  visit: 'visit',
};
