/*
 * Where one can be on a device. A place is one of these, and one table says how it stands in the address: reload, a bookmark and a
 * second device find it again.
 */

export type Place =
  | { readonly at: 'today' }
  | { readonly at: 'sites'; readonly words?: string }
  | { readonly at: 'site'; readonly site: string }
  | { readonly at: 'instruments' }
  | { readonly at: 'visit'; readonly visit: string }
  | { readonly at: 'sections'; readonly system: string; readonly run?: string }
  | {
      readonly at: 'plan';
      readonly system: string;
      /** A new attempt of that test. */
      readonly test?: string;
      readonly number?: string;
      /** The gauge that is swapped. */
      readonly avoid?: string;
      readonly procedure?: string;
      /** Answers that the plan starts from, as JSON. */
      readonly with?: string;
    }
  | { readonly at: 'verdict'; readonly run: string }
  | { readonly at: 'locate'; readonly run: string }
  | {
      readonly at: 'run';
      readonly run: string;
      /** Further runs on the screen with the first, by commas. */
      readonly beside?: string;
    };

export type At = Place['at'];
type Query = Readonly<Record<string, string | undefined>>;
type Fields<A extends At> = Omit<Extract<Place, { at: A }>, 'at'>;

/** How each stands in the address: what marks it, which fields it must have, and which it may have. */
const table: {
  readonly [A in At]: { readonly mark: Query; readonly must: readonly (keyof Fields<A>)[]; readonly may: readonly (keyof Fields<A>)[] };
} = {
  sections: { mark: { view: 'sections' }, must: ['system'], may: ['run'] },
  verdict: { mark: { view: 'verdict' }, must: ['run'], may: [] },
  locate: { mark: { view: 'locate' }, must: ['run'], may: [] },
  run: { mark: {}, must: ['run'], may: ['beside'] },
  plan: { mark: {}, must: ['system'], may: ['test', 'number', 'avoid', 'procedure', 'with'] },
  site: { mark: {}, must: ['site'], may: [] },
  visit: { mark: {}, must: ['visit'], may: [] },
  sites: { mark: { at: 'sites' }, must: [], may: ['words'] },
  instruments: { mark: { at: 'instruments' }, must: [], may: [] },
  today: { mark: {}, must: [], may: [] },
};

/** The address of a place on the device. */
export function addressOfPlace({ at, ...fields }: Place): string {
  const given = Object.entries({ ...fields, ...table[at].mark }).filter((entry): entry is [string, string] => entry[1] !== undefined);
  const query = new URLSearchParams(given).toString();
  return query === '' ? '/field' : `/field?${query}`;
}

/** The place that an address names; Today where it names none. */
export function placeOf(query: URLSearchParams): Place {
  const asked: Query = Object.fromEntries(query);
  for (const [at, { mark, must, may }] of Object.entries(table) as [
    At,
    { mark: Query; must: readonly string[]; may: readonly string[] },
  ][]) {
    const isHere = Object.entries(mark).every(([key, value]) => asked[key] === value) && must.every((key) => (asked[key] ?? '') !== '');
    if (isHere)
      return {
        at,
        ...Object.fromEntries([...must, ...may].flatMap((key) => (asked[key] === undefined ? [] : [[key, asked[key]]]))),
      } as Place;
  }
  return { at: 'today' };
}

/** More than these side by side leave none of them room; the others stand in the strip. */
export const mostBeside = 4;

/** The runs that are on the screen together, each once. */
export const runsOf = (place: Place): readonly string[] =>
  place.at === 'run'
    ? [...new Set([place.run, ...(place.beside ?? '').split(',').filter((id) => id !== '')])].slice(0, mostBeside)
    : place.at === 'verdict' || place.at === 'locate'
      ? [place.run]
      : [];

export const placeOfRuns = ([run, ...beside]: readonly string[]): Place =>
  run === undefined ? { at: 'today' } : { at: 'run', run, ...(beside.length === 0 ? {} : { beside: beside.join(',') }) };
