import { lineGroups, parseTrials, type Trial } from './line-groups';
import { type Opening, type PlugKind, parseOpenings } from './plugs';

/* The map of a pool's lines as it is tapped; what is kept are the lines of words that the other two files read (DOMAIN 5.14, 5.15). */

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

export const trialText = ({ at, answered }: Trial): string => `${at}: ${answered.length === 0 ? 'nothing' : answered.join(', ')}`;

/** Trials as lines; empty where there are none. */
export const trialsText = (trials: readonly Trial[]): string => trials.map(trialText).join('\n');

/** A trial with an outlet that answered, or no longer does. */
export const turned = ({ at, answered }: Trial, outlet: string): Trial => ({
  at,
  answered: answered.some((one) => same(one, outlet)) ? answered.filter((one) => !same(one, outlet)) : [...answered, outlet],
});

const kindWord: Record<PlugKind, string> = { standard: '', hook: ' hook', long: ' long', inflatable: ' inflatable' };

/** How an opening is closed: a plug of a kind, or a valve that was proved. */
export type Closing = PlugKind | 'valve';
export const closingOf = ({ kind, valve }: Opening): Closing => (valve ? 'valve' : kind);

/** The line of an opening that is closed in a way. A skimmer takes a long plug of itself. */
export const openingText = (place: string, closing: Closing): string =>
  `${place}${closing === 'valve' ? ' valve' : closing === 'long' && /\bskimmer\b/i.test(place) ? '' : kindWord[closing]}`;

/** Every outlet that was named, by an opening or a trial, each once, in that order. */
export function outletsOf(openings: string, trials: string): readonly string[] {
  const named = [...parseOpenings(openings).openings.map(({ place }) => place), ...lineGroups(parseTrials(trials).trials).flat()];
  return named.filter((name, index) => named.findIndex((one) => same(one, name)) === index);
}

/** The next outlet of a sort: `Return 1`, `Return 2`; what a pool has one of stands alone. */
export function nextOutlet(sort: string, alone: boolean, there: readonly string[]): string {
  const taken = (name: string) => there.some((one) => same(one, name));
  if (alone && !taken(sort)) return sort;
  for (let number = alone ? 2 : 1; ; number += 1) if (!taken(`${sort} ${number}`)) return `${sort} ${number}`;
}

/** A line by the trials as openings: those that stand already keep how they are closed. */
export function openingsOfLine(group: readonly string[], openings: string): string {
  const there = parseOpenings(openings).openings;
  return group.map((place) => there.find((one) => same(one.place, place))?.name ?? place).join('\n');
}
