import { figureText } from './procedure-view';

/* Two procedures beside each other, with what differs marked. */

export interface Pair {
  readonly label: string;
  readonly first: string;
  readonly second: string;
  readonly differs: boolean;
}

const pair = (label: string, first: string, second: string): Pair => ({ label, first, second, differs: first !== second });

export interface Shared {
  readonly text: string;
  readonly in: 'both' | 'first' | 'second';
}

const tidy = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/** Two lists as one: what stands in both, and what in one alone, in the order of the first and then the second. */
export function shared(first: readonly string[], second: readonly string[]): readonly Shared[] {
  const inSecond = new Set(second.map(tidy));
  const inFirst = new Set(first.map(tidy));
  return [
    ...first.map((text): Shared => ({ text, in: inSecond.has(tidy(text)) ? 'both' : 'first' })),
    ...second.filter((text) => !inFirst.has(tidy(text))).map((text): Shared => ({ text, in: 'second' })),
  ];
}

interface Comparable {
  readonly school: string;
  readonly medium: string;
  readonly kinds: readonly string[];
  readonly activeMinutes: number;
  readonly passiveMinutes: number;
  readonly figures: readonly { readonly id: string; readonly label: string; readonly value: string; readonly unit: string }[];
  readonly verdicts: readonly string[];
  readonly worked?: {
    readonly sees: string;
    readonly phases: readonly {
      readonly title: string;
      readonly main: boolean;
      readonly band?: string;
      readonly time?: string;
      readonly rule?: string;
    }[];
  };
}

/** The plain facts, row by row. */
export function facts(first: Comparable, second: Comparable): readonly Pair[] {
  const holds = (one: Comparable) => one.worked?.phases.filter(({ time, main }) => main && time !== undefined) ?? [];
  const judging = (one: Comparable) =>
    holds(one)
      .filter(({ rule }) => rule !== 'Only time passes.')
      .map(({ title, band, time, rule }) => `${title}: ${band}, ${time}. ${rule}`)
      .join('\n');
  const waiting = (one: Comparable) =>
    holds(one)
      .filter(({ rule }) => rule === 'Only time passes.')
      .map(({ title, time }) => `${title} ${time}`)
      .join(', ') || 'none';
  return [
    pair('School', first.school, second.school),
    pair('For', first.kinds.join(', '), second.kinds.join(', ')),
    pair('Tested with', first.medium, second.medium),
    pair('Holds that decide', judging(first) || 'none', judging(second) || 'none'),
    pair('Settling', waiting(first), waiting(second)),
    pair('It can say', first.verdicts.join(', '), second.verdicts.join(', ')),
    pair('Sure of leaks above, in its example', first.worked?.sees ?? 'not worked', second.worked?.sees ?? 'not worked'),
    pair('Hands busy', `${first.activeMinutes} min`, `${second.activeMinutes} min`),
    pair('Waiting', `${first.passiveMinutes} min`, `${second.passiveMinutes} min`),
  ];
}

/** Figures that go by one id or one name in both, side by side; and those of one alone. */
export function figurePairs(
  first: Comparable,
  second: Comparable,
): { readonly both: readonly Pair[]; readonly onlyFirst: readonly string[]; readonly onlySecond: readonly string[] } {
  const both: Pair[] = [];
  const onlyFirst: string[] = [];
  const matched = new Set<string>();
  for (const figure of first.figures) {
    const other = second.figures.find(({ id, label }) => id === figure.id || tidy(label) === tidy(figure.label));
    if (other === undefined) onlyFirst.push(`${figure.label} ${figureText(figure)}`);
    else {
      matched.add(other.id);
      both.push(pair(figure.label, figureText(figure), figureText(other)));
    }
  }
  const alone = second.figures.filter(({ id }) => !matched.has(id));
  return { both, onlyFirst, onlySecond: alone.map((figure) => `${figure.label} ${figureText(figure)}`) };
}
