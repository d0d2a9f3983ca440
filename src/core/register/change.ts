import { canonical, type Json, misfit, type Shape, uuid } from '../exact';
import { bad, good, type Problem, type Result } from '../quantities';
import { faultOf } from './faults';
import { blank, type Said, shapes, type Thing, type ThingKind } from './things';

/** A field as whoever changes it knew it, and as it is to be; `was` is left out where the thing is new. */
export interface FieldChange {
  readonly was?: Json;
  readonly is: Json;
}

/** What somebody did to a thing: made it, or changed some of its fields. */
export interface Change<K extends ThingKind = ThingKind> {
  readonly thing: K;
  /** The thing's own id, made by whoever made it. */
  readonly of: string;
  readonly fields: Readonly<Record<string, FieldChange>>;
}

/** A field that two people changed from the same beginning, each otherwise. Both are kept; a person chooses. */
export interface Clash {
  readonly field: string;
  /** What stands. */
  readonly stands: Json;
  readonly other: Json;
}

export type Taken<K extends ThingKind> =
  | { readonly is: 'made' | 'changed' | 'as it was'; readonly said: Said<K>; readonly clashes: readonly Clash[] }
  /** It was made elsewhere and has not come yet, or never will. */
  | { readonly is: 'unknown' }
  | { readonly is: 'refused'; readonly problem: Problem };

const same = (a: unknown, b: unknown): boolean => canonical(a as Json) === canonical(b as Json);

/** A new thing of a kind, as a change. */
export const making = <K extends ThingKind>(thing: K, of: string, said: Partial<Said<K>>): Change<K> => ({
  thing,
  of,
  fields: Object.fromEntries(Object.entries({ ...blank[thing], ...said }).map(([field, is]) => [field, { is: is as Json }])),
});

/** What turns a thing into what is said of it now; undefined where that is what it was. */
export function changing<K extends ThingKind>(thing: K, before: Thing<K>, said: Partial<Said<K>>): Change<K> | undefined {
  const fields = Object.entries(said).flatMap(([field, is]) => {
    const was = (before as unknown as Readonly<Record<string, Json>>)[field];
    return same(was, is) ? [] : [[field, { was, is: is as Json }] as const];
  });
  return fields.length === 0 ? undefined : { thing, of: before.id, fields: Object.fromEntries(fields) };
}

/**
 * Takes a change to what stands now. A field that stands as its changer knew it, or that nobody else touched, is changed; one that
 * somebody else has changed since stands, and the other is told as a clash. The same change again is as it was.
 * @param now what stands; undefined where there is none of that id
 */
export function take<K extends ThingKind>({ thing, fields }: Change<K>, now: Said<K> | undefined): Taken<K> {
  const known = shapes[thing].properties as Readonly<Record<string, unknown>>;
  const odd = Object.keys(fields).find((field) => !Object.hasOwn(known, field));
  if (odd !== undefined) return { is: 'refused', problem: { code: 'form', message: `“${odd}” is nothing that is kept of a ${thing}.` } };
  const isNew = Object.values(fields).every(({ was }) => was === undefined);
  if (now === undefined && !isNew) return { is: 'unknown' };
  const before = (now ?? blank[thing]) as unknown as Readonly<Record<string, Json>>;
  const said: Record<string, Json> = Object.fromEntries(Object.keys(known).map((field) => [field, before[field] as Json]));
  const clashes: Clash[] = [];
  for (const [field, { was, is }] of Object.entries(fields)) {
    if (now === undefined || (was !== undefined && same(before[field], was))) said[field] = is;
    else if (!same(before[field], is)) clashes.push({ field, stands: before[field], other: is });
  }
  const problem = faultOf(thing, said);
  if (problem !== undefined) return { is: 'refused', problem };
  const changed = now === undefined ? 'made' : same(said, pick(before, known)) ? 'as it was' : 'changed';
  return { is: changed, said: said as unknown as Said<K>, clashes };
}

const pick = (from: Readonly<Record<string, Json>>, fields: Readonly<Record<string, unknown>>): Json =>
  Object.fromEntries(Object.keys(fields).map((field) => [field, from[field]])) as Json;

/**
 * A change as it came from outside: what it names and every value that it holds must be such as are kept.
 * @param input whatever came
 */
export function readChange(input: unknown): Result<Change> {
  const no = (message: string): Result<Change> => bad('form', message);
  const { thing, of, fields } = (typeof input === 'object' && input !== null ? input : {}) as Readonly<Record<string, unknown>>;
  if (typeof thing !== 'string' || !Object.hasOwn(shapes, thing)) return no('What was sent changes nothing that is known here.');
  if (misfit(uuid, of) !== undefined) return no('What was sent names nothing that could be changed.');
  if (typeof fields !== 'object' || fields === null || Array.isArray(fields)) return no('What was sent changes no field.');
  const known = shapes[thing as ThingKind].properties as Readonly<Record<string, Shape<unknown>>>;
  const read: [string, FieldChange][] = [];
  for (const [field, change] of Object.entries(fields)) {
    const own = Object.hasOwn(known, field) ? known[field] : undefined;
    const { was, is } = (typeof change === 'object' && change !== null ? change : {}) as Readonly<Record<string, unknown>>;
    if (own === undefined) return no(`“${field}” is nothing that is kept of a ${thing}.`);
    // What it is to be is looked at with the whole thing, in words that help; it must only be something that can be compared.
    const odd = was === undefined ? undefined : misfit(own, was, field);
    if (odd !== undefined || is === undefined) return no(`What was sent of “${field}” cannot be read.`);
    if (typeof is !== 'string' && misfit(own, is, field) !== undefined) return no(`What was sent of “${field}” cannot be kept.`);
    read.push([field, { ...(was === undefined ? {} : { was: was as Json }), is: is as Json }]);
  }
  if (read.length === 0) return no('What was sent changes no field.');
  return good({ thing: thing as ThingKind, of: of as string, fields: Object.fromEntries(read) });
}
