import type { TestVerdict } from '../course/phases';
import type { Finding } from '../limits';
import type { Plan } from '../planning/plan';
import { againFrom } from './rounds';
import { isSpoilt, outcomeOf, type PhaseJudgement } from './state';

/** What can be done next, as the verdict screen's buttons. */
export type NextStep =
  | { readonly code: 'restart'; readonly phase: string; readonly label: string }
  /** A new attempt whose plan starts from other answers. */
  | { readonly code: 'repeat-with'; readonly label: string; readonly answers: Readonly<Record<string, string>> }
  | { readonly code: 'new-attempt' | 'swap-gauge' | 'certificate' | 'finish-closing' | 'stop'; readonly label: string };

export function nextSteps(
  plan: Plan,
  phases: readonly PhaseJudgement[],
  current: string | undefined,
  provisional: TestVerdict,
  reasons: readonly Finding[],
): readonly NextStep[] {
  const spoilt = phases.filter(isSpoilt);
  if (spoilt.length > 0) {
    const again = spoilt.map((state) =>
      againFrom(
        plan.phases.find(({ id }) => id === state.id),
        outcomeOf(state) ?? '',
      ),
    );
    return [
      ...plan.phases
        .filter(({ id }) => again.includes(id))
        .map(({ id, title }) => ({ code: 'restart' as const, phase: id, label: `Repeat from ${title.toLowerCase()}` })),
      { code: 'stop', label: 'End the test here' },
    ];
  }
  const zeroing = phases.find((state) => state.state === 'current' && state.is === 'zeroing' && state.shown !== undefined);
  if (zeroing !== undefined) return [{ code: 'stop', label: 'End the test and take another gauge' }];
  if (provisional === 'in progress') return [];
  // What is held under pressure is looked for and repeated under it: the closing steps come when the technician goes on to them.
  const last: NextStep =
    current === undefined ? { code: 'certificate', label: 'Certificate' } : { code: 'finish-closing', label: 'Finish the closing steps' };
  // Another test that would tell more, where the conclusion that was reached names one.
  const offers = plan.conclusions.flatMap(({ reason, offer }): NextStep[] =>
    offer !== undefined && reasons.some(({ code }) => code === reason) ? [{ code: 'repeat-with', ...offer }] : [],
  );
  switch (provisional) {
    case 'pass':
    case 'pass with permitted drop':
      return current === undefined ? [...offers, last] : [last];
    case 'invalid':
      return [{ code: 'swap-gauge', label: 'Repeat with another gauge' }, last];
    case 'fail':
      return reasons.some(({ code }) => code === 'smell')
        ? [last]
        : [
            ...offers,
            { code: 'new-attempt', label: 'After the repair: test again' },
            { code: 'swap-gauge', label: 'Swap the gauge and repeat' },
            last,
          ];
    case 'restricted':
    case 'inconclusive':
      return [...offers, { code: 'new-attempt', label: 'Test again' }, { code: 'swap-gauge', label: 'Swap the gauge and repeat' }, last];
  }
}
