/** What is still to be done after a test, with a date, a person and an end. A calibration that falls due is its gauge's own, and a new one ends it. */
export const followUpKinds = ['repair', 'retest', 'guard', 'waiting'] as const;
export type FollowUpKind = (typeof followUpKinds)[number];

/** What each kind is called, and what its date means. */
export const followUpWords: Readonly<Record<FollowUpKind, { readonly title: string; readonly by: string }>> = {
  repair: { title: 'Repair, then the whole test again', by: 'by' },
  retest: { title: 'Test again', by: 'by' },
  guard: { title: 'Read the guard gauge', by: 'on' },
  waiting: { title: 'Waiting for inspector or supplier', by: 'ask on' },
};

/** A follow-up as it is shown. */
export interface ShownFollowUp {
  readonly id: string;
  readonly kind: FollowUpKind;
  readonly system: string;
  readonly site: string;
  /** Local date, YYYY-MM-DD. */
  readonly due: string;
  /** Name of whoever sees to it; empty where it is anybody's. */
  readonly who: string;
  readonly what: string;
  /** Whole address of its tag. */
  readonly tag?: string;
  readonly ended?: { readonly at: number; readonly by: string; readonly how: string };
}
