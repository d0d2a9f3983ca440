import type { ProcedureView } from './procedure-view';

/* Finding a procedure by words: apart from the working of its page, so that a list loads no planner. */

/** Everything that a reader may look for, in one text. */
export function wordsOf(view: ProcedureView): string {
  const { guide } = view;
  return [
    view.title,
    view.school,
    view.purpose,
    view.medium,
    ...view.kinds,
    ...guide.scope,
    ...guide.tells,
    ...guide.cannotTell,
    ...guide.outcomes.flatMap(({ on, act }) => [on, act]),
    guide.schools ?? '',
    ...view.figures.map(({ label, value }) => `${label} ${value}`),
    ...view.kit,
    ...view.cautions,
    ...(view.worked?.phases.flatMap(({ title, lines }) => [title, ...lines]) ?? []),
  ]
    .join(' ')
    .toLowerCase();
}

/** Whether every word asked for stands somewhere in a text of words. */
export const finds = (words: string, asked: string): boolean =>
  asked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
