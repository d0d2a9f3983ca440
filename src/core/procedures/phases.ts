/**
 * A test's course as data. The plan embeds these with every figure resolved, and the judge reads nothing else, so an
 * old record judges by its own rules.
 */

import type { FlowUnit, Unit, VolumeUnit } from '../quantities';

/** What a figure on site is a reading of. Temperature is the pipe's. */
export const readQuantities = ['pressure', 'temperature', 'barometer', 'flow', 'volume', 'level', 'turns'] as const;
export type ReadQuantity = (typeof readQuantities)[number];

/** Something that must hold before a phase begins. */
export type Condition =
  | { readonly phase: string; readonly outcome: readonly string[] }
  /** Something of that checklist was done in a round that a restart has since put aside. */
  | { readonly phase: string; readonly begunBefore: true }
  | { readonly signal: 'smell'; readonly seen: true }
  /** What the conclusions say so far: some kind of pass, restricted use, or anything else. */
  | { readonly conclusion: 'pass' | 'restricted' | 'other' };

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

/** Names for ranges of a figure: the first whose `below` it does not reach, else `beyond`. */
export interface Bands {
  readonly steps: readonly { readonly below: string; readonly outcome: string }[];
  readonly beyond: string;
}

/** What decides a hold. Limits are in the hold's unit unless they say otherwise. */
export type Criterion =
  /** Only time must pass. */
  | { readonly kind: 'wait' }
  /** A rise at or above the threshold fails; a fall is noted. */
  | { readonly kind: 'no-rise'; readonly threshold: string }
  /**
   * A fall at or above the threshold is perceptible; one up to and including `permitted` has its own outcome. Where a rise
   * has rules of its own, one under `noted` is only said, and an end at `feedsTo` or above means that the supply passes.
   */
  | {
      readonly kind: 'no-fall';
      readonly threshold: string;
      readonly permitted?: string;
      readonly rise?: { readonly noted: string; readonly feedsTo: string };
    }
  /**
   * No reading may stand above the limit: a regulator's lock-up. A rise at or above `creep` has its own outcome; else the
   * end falls into the first band whose `below` it does not reach, or beyond them all.
   */
  | { readonly kind: 'at-most'; readonly limit: string; readonly creep?: string; readonly bands?: Bands }
  /** A later phase decides; a fall of more than `within` spoils the hold, where one is named. */
  | { readonly kind: 'keep'; readonly within?: string }
  /**
   * Leak rate of a gas from the fall, L/h: the first band whose `below` it does not reach, else `beyond`. `factor` turns
   * what was found with the test medium into the gas carried.
   */
  | {
      readonly kind: 'leak-rate';
      readonly litres: string;
      readonly factor: string;
      readonly bands: readonly { readonly below: string; readonly outcome: string }[];
      readonly beyond: string;
    }
  /** Turns of a meter's test dial: at or above the threshold it moved. */
  | { readonly kind: 'dial'; readonly threshold: string; readonly litresPerTurn: string };

/** What decides a phase in which points are read. */
export type MeasureCriterion =
  /** Nothing: the figures are for the record. */
  | { readonly kind: 'recorded' }
  /** The figure of every point by its range; the worst counts, which is the first named in `worst`. */
  | { readonly kind: 'in-bands'; readonly unit: Exclude<Unit, 'C' | 'F' | 'K'>; readonly bands: Bands; readonly worst: readonly string[] }
  /**
   * Trapped air by the water that raising from the first point's pressure to the second's took, as a share of the volume
   * at atmospheric pressure. `softness` is that of water and wall, 1/GPa.
   */
  | {
      readonly kind: 'air-at-most';
      readonly litres: string;
      readonly softness: string;
      readonly atmosphereHpa: string;
      readonly most: string;
    }
  /** Flow at the reference pressure, Pa: permitted up to and including the limit; over it by no more than the rig's own is not told. */
  | {
      readonly kind: 'flow-at-most';
      readonly limit: string;
      readonly unit: FlowUnit;
      readonly reference: string;
      readonly baseline: string;
    }
  /** Water pumped to make up a main's fall in `hold`, against the allowance for its length, bore and time. */
  | {
      readonly kind: 'make-up-at-most';
      readonly hold: string;
      readonly material: 'iron' | 'steel' | 'PVC';
      readonly lengthM: string;
      readonly diameterM: string;
      readonly seconds: number;
      readonly unit: VolumeUnit;
    };

/** Shortest hold whose gas the pipe's temperatures may correct, s (DOMAIN 4.6): in a shorter one they are shown, and what was read decides. */
export const shortestCorrectedS = 600;

/** Where a long hold on gas is corrected for temperature and barometer (DOMAIN 4.6), and how far each may be off. */
export interface Correction {
  readonly temperatureDoubtK: string;
  readonly barometerDoubtHpa: string;
  /** Atmosphere where no barometer is read. */
  readonly atmosphereHpa: string;
  /** Both temperatures and barometer, or the barometer alone, must be read at both ends, else the hold proves nothing. */
  readonly needed: boolean | 'barometer';
}

/** Phases that are drawn by what they are about, where no pressure, level or flow is read. */
export const phasePictures = ['dye', 'line map', 'loops', 'appliance round'] as const;
export type PhasePicture = (typeof phasePictures)[number];

interface PhaseBase {
  readonly id: string;
  readonly title: string;
  /** One sentence that says what to do now. */
  readonly say: string;
  readonly when: When;
  readonly cautions: readonly string[];
  /** Runs also after a smell of gas or an early end. */
  readonly afterStop?: boolean;
  readonly picture?: PhasePicture;
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
  /** What this step raises to or lets down to: a pressure in the plan's unit, or a level with its own (`250 mm`). */
  readonly to?: string;
  /** How long it is watched there before it is ticked off. */
  readonly pauseSeconds?: number;
  /** The guard gauge is read here, with the pipe's temperature; what is written down is that reading. */
  readonly guard?: true;
}

export interface CheckPhase extends PhaseBase {
  readonly kind: 'check';
  readonly items: readonly CheckItem[];
  /** The steps that gate closing. */
  readonly closing: boolean;
}

/** The gauge off the hose must show less than `below`, in its own unit. */
export interface ZeroPhase extends PhaseBase {
  readonly kind: 'zero';
  readonly below: string;
  /** Role of the instrument; the plan's gauge when left out. */
  readonly instrument?: string;
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
  /** Role of the instrument that is read; the plan's gauge when left out. */
  readonly instrument?: string;
  /** Unit of band and limits; the plan's when left out. What is read follows from it: a length is a level. */
  readonly unit?: Exclude<Unit, 'C' | 'F' | 'K'>;
  /** Never to be exceeded, exactly, whatever the band's rounding lets in: the lowest rating connected. */
  readonly ceiling?: string;
  readonly corrects?: Correction;
  /** The supply stays open while it runs: a regulator's lock-up, a test dial. */
  readonly fed?: true;
}

/** One place or setting at which every field is read. */
export interface MeasurePoint {
  readonly id: string;
  readonly label: string;
  /** What to bring the first field to, in its instrument's unit; reaching it is not demanded. */
  readonly aim?: string;
}

/** Figures read off instruments, without a hold: duct flows, a measured make-up. */
export interface MeasurePhase extends PhaseBase {
  readonly kind: 'measure';
  readonly fields: readonly { readonly quantity: ReadQuantity; readonly label: string; readonly instrument?: string }[];
  /** All of them are to be read. */
  readonly points: readonly MeasurePoint[];
  readonly criterion: MeasureCriterion;
  readonly restartFrom: string;
  /** The supply stays open while it is read. */
  readonly fed?: true;
}

export interface ObservePhase extends PhaseBase {
  readonly kind: 'observe';
  /** `hoped` marks what is seen when all is well. */
  readonly options: readonly { readonly id: string; readonly label: string; readonly hoped: boolean }[];
}

export type Phase = CheckPhase | ZeroPhase | HoldPhase | ObservePhase | MeasurePhase;

export type TestVerdict = 'pass' | 'pass with permitted drop' | 'restricted' | 'fail' | 'inconclusive' | 'invalid' | 'in progress';

/** The first conclusion whose conditions hold is what the test says; none means inconclusive. */
export interface Conclusion {
  readonly when: When;
  readonly verdict: Exclude<TestVerdict, 'in progress'>;
  readonly reason: string;
  /** The hold whose numbers the sentence gives; the last that was read when left out. */
  readonly about?: string;
  /** Days in which it must be repaired and tested again. */
  readonly repairDays?: number;
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

/** Middle of a hold's band, in the hold's unit: where whoever raises the pressure stops. Narrow bands keep their decimals. */
export const middleOf = ({ band }: Pick<HoldPhase, 'band'>): string =>
  String(Number(((Number(band.low) + Number(band.high)) / 2).toFixed(4)));

/** The movement that a criterion calls perceptible; none where it judges no movement. */
export const thresholdOf = (criterion: Criterion): string | undefined => ('threshold' in criterion ? criterion.threshold : undefined);
