/**
 * A test's course as data. The plan embeds these with every figure resolved, and the judge reads nothing else, so an
 * old record judges by its own rules.
 */

/** Something that must hold before a phase begins. */
export type Condition =
  | { readonly phase: string; readonly outcome: readonly string[] }
  /** Something of that checklist was done in a round that a restart has since put aside. */
  | { readonly phase: string; readonly begunBefore: true }
  | { readonly signal: 'smell'; readonly seen: true }
  /** What the conclusions say so far: some kind of pass, or anything else. */
  | { readonly conclusion: 'pass' | 'other' };

/** Any one of these lists, whole; an empty list means always. */
export type When = readonly (readonly Condition[])[];

/** Whether a `when` holds, given what holds: the one reading of its two lists. */
export const whenHolds = (when: When, holds: (condition: Condition) => boolean): boolean =>
  when.length === 0 || when.some((all) => all.every(holds));

/** Pressures between which a reading counts, in the plan's unit, ends included, compared after rounding to 0.1. */
export interface Band {
  readonly low: string;
  readonly high: string;
}

export type Criterion =
  /** Only time must pass. */
  | { readonly kind: 'wait' }
  /** A rise at or above the threshold fails; a fall is noted. */
  | { readonly kind: 'no-rise'; readonly threshold: string }
  /** A fall at or above the threshold is perceptible; one up to and including `permitted` has its own outcome. */
  | { readonly kind: 'no-fall'; readonly threshold: string; readonly permitted?: string };

interface PhaseBase {
  readonly id: string;
  readonly title: string;
  /** One sentence that says what to do now. */
  readonly say: string;
  readonly when: When;
  readonly cautions: readonly string[];
  /** Runs also after a smell of gas or an early end. */
  readonly afterStop?: boolean;
}

export interface CheckItem {
  readonly id: string;
  readonly text: string;
  /** May be answered "does not apply", with a reason. */
  readonly mayNotApply: boolean;
  /** Boundary that this item settles: answered proved, plugged or unproved. */
  readonly boundary?: string;
  /** A text that must be written down, such as a report's reference. */
  readonly write?: string;
  /** What doing it does to the plant; only a simulated one takes notice. */
  readonly plant?: 'isolate' | 'reconnect';
}

export interface CheckPhase extends PhaseBase {
  readonly kind: 'check';
  readonly items: readonly CheckItem[];
  /** The steps that gate closing. */
  readonly closing: boolean;
}

/** The gauge off the hose must show less than `below`. */
export interface ZeroPhase extends PhaseBase {
  readonly kind: 'zero';
  readonly below: string;
}

export interface HoldPhase extends PhaseBase {
  readonly kind: 'hold';
  readonly purpose: 'let-by' | 'settle' | 'tightness';
  readonly band: Band;
  readonly seconds: number;
  readonly criterion: Criterion;
  /** Where a new try begins when this one is spoilt. */
  readonly restartFrom: string;
  /** Where it begins after a rise, which puts more in doubt than the hold itself. */
  readonly afterRise?: string;
}

export interface ObservePhase extends PhaseBase {
  readonly kind: 'observe';
  /** `hoped` marks what is seen when all is well. */
  readonly options: readonly { readonly id: string; readonly label: string; readonly hoped: boolean }[];
}

export type Phase = CheckPhase | ZeroPhase | HoldPhase | ObservePhase;

export type TestVerdict = 'pass' | 'pass with permitted drop' | 'restricted' | 'fail' | 'inconclusive' | 'invalid' | 'in progress';

/** The first conclusion whose conditions hold is what the test says; none means inconclusive. */
export interface Conclusion {
  readonly when: When;
  readonly verdict: Exclude<TestVerdict, 'in progress'>;
  readonly reason: string;
  /** The hold whose numbers the sentence gives; the last that was read when left out. */
  readonly about?: string;
  /** Another test that would tell more, as answers that its plan starts from. */
  readonly offer?: { readonly label: string; readonly answers: Readonly<Record<string, string>> };
}

export interface Boundary {
  readonly id: string;
  readonly label: string;
  /** Outcomes that prove it; without this a checklist item must. */
  readonly provedBy?: When;
  /** What lies beyond it and is not tested. */
  readonly beyond: string;
}

/** Middle of a hold's band, in the plan's unit: where whoever raises the pressure stops. */
export const middleOf = ({ band }: Pick<HoldPhase, 'band'>): string => ((Number(band.low) + Number(band.high)) / 2).toFixed(1);
