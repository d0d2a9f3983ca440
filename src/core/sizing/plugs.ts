import { bad, good, type Problem, type Result } from '../quantities';

/** What closes an opening of a pool line (DOMAIN 5.14). */
export const plugKinds = {
  standard: 'standard plug',
  hook: 'hook plug, past the threads',
  long: 'long-reach plug, for a skimmer',
  inflatable: 'inflatable plug, for an out-of-round or curved body',
} as const;
export type PlugKind = keyof typeof plugKinds;

export interface Opening {
  readonly name: string;
  /** Its name without what closes it, as trials name it. */
  readonly place: string;
  readonly kind: PlugKind;
  /** Closed by a valve that was proved: it takes no plug. */
  readonly valve: boolean;
}

const kindWords: readonly (readonly [RegExp, PlugKind])[] = [
  [/\b(long|skimmer)\b/i, 'long'],
  [/\b(hook|thread(s|ed)?)\b/i, 'hook'],
  [/\b(inflatable|round|curved|oval)\b/i, 'inflatable'],
];

/**
 * Reads an opening as people note it: `Return 1`, `Return 2 hook`, `Skimmer 1`, `Main drain inflatable`, `Return 4 valve`.
 * A skimmer takes a long-reach plug of itself; without a word it is a standard one.
 */
export function parseOpening(text: string): Result<Opening> {
  const name = text.trim().replace(/\s+/g, ' ');
  if (!/[a-z]/i.test(name))
    return bad('opening-line', `“${name}” names no opening. Write a line each: Return 1, Return 2 hook, Skimmer 1.`);
  return good({
    name,
    place: name.replace(/\s(hook|inflatable|long|valve)$/i, ''),
    kind: kindWords.find(([word]) => word.test(name))?.[1] ?? 'standard',
    valve: /\bvalve\b/i.test(name),
  });
}

/** `8 return jets hook` is eight openings, numbered; a size such as `2 in` is none. */
function counted(line: string): readonly string[] {
  const match = /^\s*(\d{1,2})\s*[x×]?\s+(?!(?:in|inch|mm)\b)(\p{L}[^\d]*?)\s*$/iu.exec(line);
  const count = Number(match?.[1] ?? 1);
  if (match === null || count < 2 || count > 40) return [line];
  const [, words = match[2], kind = ''] = /^(.*?)(\s+(?:hook|inflatable|long|valve|threads?))?$/i.exec(match[2]) ?? [];
  const one = words.trim().replace(/(?<=[^s])s$/i, '');
  return Array.from({ length: count }, (_, index) => `${one} ${index + 1}${kind}`);
}

/** Openings, a line each, or several of a kind with their number before; a name that stands twice is a fault. */
export function parseOpenings(text: string): { readonly openings: readonly Opening[]; readonly problems: readonly Problem[] } {
  const openings: Opening[] = [];
  const problems: Problem[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    for (const one of counted(line)) {
      const opening = parseOpening(one);
      if (!opening.ok) problems.push({ ...opening.problem, message: `Line ${index + 1}: ${opening.problem.message}` });
      else if (openings.some(({ name }) => name.toLowerCase() === opening.value.name.toLowerCase()))
        problems.push({ code: 'opening-twice', message: `Line ${index + 1}: ${opening.value.name} stands there twice.` });
      else openings.push(opening.value);
    }
  }
  return { openings, problems };
}

export interface Plugs {
  /** Where the water is let in: the one open plug. */
  readonly open: Opening;
  readonly closed: readonly Opening[];
  readonly valves: readonly Opening[];
}

/**
 * Plugs for a line with n openings, the equipment end counted and proved valves not: n − 1 closed and 1 open (DOMAIN 5.14).
 * The first opening takes the open one.
 * @returns `openings-few` for no opening that takes a plug
 */
export function plugsFor(openings: readonly Opening[]): Result<Plugs> {
  const plugged = openings.filter(({ valve }) => !valve);
  const [open, ...closed] = plugged;
  return open === undefined
    ? bad('openings-few', 'A line has at least one opening that takes the filling plug: name them, the equipment end too.')
    : good({ open, closed, valves: openings.filter(({ valve }) => valve) });
}
