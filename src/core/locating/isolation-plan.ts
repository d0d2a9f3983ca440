import { subtree } from './likelihood';
import type { Section } from './sections';

/** What a search of a system costs. */
export interface SearchCost {
  /** One isolation's own hold, minutes. */
  readonly holdMinutes: number;
}

export type NextSearch =
  /** Shut this section and all that hangs on it, and hold what is left. */
  | {
      readonly kind: 'isolate';
      readonly section: string;
      /** Minutes of this isolation, and expected minutes until the section is known and has been looked at. */
      readonly minutes: number;
      readonly expectedMinutes: number;
      /** Likelihood that the leak lies in what is shut off. */
      readonly inside: number;
    }
  /** Nothing is gained by shutting more off: look at this section. */
  | { readonly kind: 'look'; readonly section: string; readonly minutes: number; readonly expectedMinutes: number };

/** Minutes to shut a section off where nobody has said. */
const usualMinutes = 5;
/** Sections that are still in question beyond which the order is chosen a step at a time. */
const exactUpTo = 12;
/** Less likely than this is out of question. */
const negligible = 0.01;

/** Minutes to look at a section joint by joint; what is hidden must be opened first. */
const lookMinutes = ({ joints = 4, hidden = false }: Section): number => Math.max(3, joints * 1.5) + (hidden ? 40 : 0);

/**
 * The next isolation with the least expected minutes to the leak (DOMAIN 6): every cut costs its own time and a hold, and
 * leaves one side or the other; at the end of every way the section that is left is looked at. Exact for up to 12 sections in
 * question, else the cut that tells most for its minutes.
 * @param likelihood per section id, adding up to 1
 */
export function nextSearch(
  sections: readonly Section[],
  likelihood: ReadonlyMap<string, number>,
  cost: SearchCost,
): NextSearch | undefined {
  const inQuestion = sections.filter(({ id }) => (likelihood.get(id) ?? 0) > negligible);
  if (inQuestion.length === 0) return undefined;
  const cuts = sections
    .filter(({ parent }) => parent !== undefined)
    .map((section) => ({ section, inside: subtree(sections, section.id), minutes: (section.minutes ?? usualMinutes) + cost.holdMinutes }));
  const chance = (ids: readonly Section[]) => ids.reduce((sum, { id }) => sum + (likelihood.get(id) ?? 0), 0);
  const known = new Map<string, { readonly minutes: number; readonly cut?: string }>();

  const search = (left: readonly Section[], deep: boolean): { readonly minutes: number; readonly cut?: string } => {
    const key = left.map(({ id }) => id).join();
    const before = known.get(key);
    if (before !== undefined) return before;
    // Looking at all that is left, the likeliest for its minutes first: on the way the leak is met.
    const order = [...left].sort((a, b) => (likelihood.get(b.id) ?? 0) / lookMinutes(b) - (likelihood.get(a.id) ?? 0) / lookMinutes(a));
    const all = chance(left) || 1;
    let spent = 0;
    let best: { minutes: number; cut?: string } = {
      minutes: order.reduce((sum, section) => {
        spent += lookMinutes(section);
        return sum + (spent * (likelihood.get(section.id) ?? 0)) / all;
      }, 0),
    };
    if (left.length > 1)
      for (const { section, inside, minutes } of cuts) {
        const within = left.filter(({ id }) => inside.has(id));
        if (within.length === 0 || within.length === left.length) continue;
        const outside = left.filter(({ id }) => !inside.has(id));
        const share = chance(within) / all;
        const after = deep
          ? share * search(within, true).minutes + (1 - share) * search(outside, true).minutes
          : share * lookAll(within) + (1 - share) * lookAll(outside);
        if (minutes + after < best.minutes - 1e-9) best = { minutes: minutes + after, cut: section.id };
      }
    known.set(key, best);
    return best;
  };
  const lookAll = (left: readonly Section[]) => left.reduce((sum, section) => sum + lookMinutes(section), 0) / 2;

  const { minutes, cut } = search(inQuestion, inQuestion.length <= exactUpTo);
  const chosen = cuts.find(({ section }) => section.id === cut);
  if (chosen !== undefined)
    return {
      kind: 'isolate',
      section: chosen.section.id,
      minutes: chosen.minutes,
      expectedMinutes: Math.round(minutes),
      inside: chance(inQuestion.filter(({ id }) => chosen.inside.has(id))),
    };
  const first = inQuestion.reduce((best, one) =>
    (likelihood.get(one.id) ?? 0) / lookMinutes(one) > (likelihood.get(best.id) ?? 0) / lookMinutes(best) ? one : best,
  );
  return { kind: 'look', section: first.id, minutes: lookMinutes(first), expectedMinutes: Math.round(minutes) };
}
