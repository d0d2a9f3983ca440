import type { TestVerdict } from '../course/phases';
import type { Plan } from '../planning/plan';

/** What each verdict is called and what it means, in one place for screens, certificates and the command line. */
export const verdictWords: Readonly<Record<TestVerdict, { readonly title: string; readonly meaning: string }>> = {
  pass: { title: 'Pass', meaning: 'No leak was perceived in what was tested, within what this test can see.' },
  'pass with permitted drop': {
    title: 'Pass with permitted drop',
    meaning: 'The pipework is tight; the fall with the appliances connected is within what is permitted.',
  },
  restricted: { title: 'Restricted', meaning: 'May stay in use for now; to be repaired by the date given.' },
  fail: { title: 'Fail', meaning: 'Not to be used until it is repaired and has passed the whole test again.' },
  inconclusive: { title: 'Inconclusive', meaning: 'Neither tightness nor a leak was proved. Test again.' },
  invalid: { title: 'Invalid', meaning: 'What was read cannot be trusted. Test again with a sound gauge.' },
  'in progress': { title: 'In progress', meaning: 'The test is not finished.' },
};

/**
 * The family of block shapes, drawn in a square of 24: whole, notched, split, hatched, struck-through outline, rising. The word always
 * stands beside.
 */
export const verdictShapes: Readonly<Record<TestVerdict, { readonly path: string; readonly drawn: 'filled' | 'outlined' }>> = {
  pass: { path: 'M3 3H21V21H3Z', drawn: 'filled' },
  'pass with permitted drop': { path: 'M3 3H21V12H12V21H3Z', drawn: 'filled' },
  restricted: { path: 'M3 12H21V21H3ZM3 3H12V9H3Z', drawn: 'filled' },
  fail: { path: 'M3 3H13L9 21H3ZM17 3H21V21H13Z', drawn: 'filled' },
  inconclusive: { path: 'M4 4H20V20H4ZM4 10L10 4M4 16L16 4M8 20L20 8M14 20L20 14', drawn: 'outlined' },
  invalid: { path: 'M4 4H20V20H4ZM1 23L23 1', drawn: 'outlined' },
  'in progress': { path: 'M3 15H8V21H3ZM10 9H15V21H10ZM17 3H21V21H17Z', drawn: 'filled' },
};

/** What a verdict means for what was tested. */
export const meaningOf = ({ means }: Pick<Plan, 'means'>, verdict: TestVerdict): string =>
  (verdict === 'pass' || verdict === 'fail' ? means?.[verdict] : undefined) ?? verdictWords[verdict].meaning;

/** A title inside a sentence: only its first letter is made small, so that a code's name in it keeps its own. */
export const inSentence = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

const worst = ['fail', 'invalid', 'inconclusive', 'in progress', 'restricted', 'pass with permitted drop', 'pass'] as const;

/** What several tests under one paper come to: the worst of them. */
export const verdictOver = (verdicts: readonly TestVerdict[]): TestVerdict => worst.find((one) => verdicts.includes(one)) ?? 'in progress';
