import {
  between,
  count,
  decimalText,
  flag,
  is,
  list,
  may,
  name,
  type Of,
  oneOf,
  record,
  type Shape,
  shape,
  text,
  union,
} from '../exact/shape';
import {
  contentsShape,
  correctionShape,
  type HoldLimit,
  holdLimitSchema,
  instrumentUnit,
  type MeasureLimit,
  measureLimitSchema,
  termKinds,
} from '../limits';
import { type FlowUnit, type ReadQuantity, readQuantities, unitsOf } from '../quantities';

/**
 * A test's course as data: type and schema from one definition. The plan embeds these with every figure resolved, and the
 * judge reads nothing else, so an old record judges by its own rules.
 */

export { type ReadQuantity, readQuantities } from '../quantities';
export type Criterion = HoldLimit;
export type MeasureCriterion = MeasureLimit;
export { shortestCorrectedS, thresholdOf } from '../limits';

/** Something that must hold before a phase begins. */
const conditionShape = union(
  shape({ phase: name, outcome: list(name, 20) }),
  /** Something of that checklist was done in a round that a restart has since put aside. */
  shape({ phase: name, begunBefore: is(true) }),
  shape({ signal: is('smell'), seen: is(true) }),
  /** What the conclusions say so far: some kind of pass, restricted use, or anything else. */
  shape({ conclusion: oneOf('pass', 'restricted', 'other') }),
);
export type Condition = Of<typeof conditionShape>;

/** Any one of these lists, whole; an empty list means always. */
export const whenShape = list(list(conditionShape, 20), 20);
export type When = Of<typeof whenShape>;

/** Whether a `when` holds, given what holds: the one reading of its two lists. */
export const whenHolds = (when: When, holds: (condition: Condition) => boolean): boolean =>
  when.length === 0 || when.some((all) => all.every(holds));

/** Pressures between which a reading counts, in the plan's unit, ends included, compared after rounding to 0.1. */
const bandShape = shape({ low: decimalText, high: decimalText });
export type Band = Of<typeof bandShape>;

/** Phases that are drawn by what they are about, where no pressure, level or flow is read. */
export const phasePictures = ['dye', 'line map', 'loops', 'appliance round'] as const;
export type PhasePicture = (typeof phasePictures)[number];

const phaseBase = {
  id: name,
  title: name,
  /** One sentence that says what to do now. */
  say: text,
  when: whenShape,
  cautions: list(name, 20),
  /** Runs also after a smell of gas or an early end. */
  afterStop: may(flag),
  picture: may(oneOf(...phasePictures)),
};
const seconds = between(1, 604_800);

const checkItemShape = shape({
  id: name,
  text,
  /** May be answered "does not apply", with a reason. */
  mayNotApply: flag,
  /** Boundary that this item settles: answered proved, plugged or unproved. */
  boundary: may(name),
  /** How it is shut, where that is not by a plug or a cap. */
  plugged: may(name),
  /** A text that must be written down, such as a report's reference. */
  write: may(name),
  /** What doing it does to the plant; only a simulated one takes notice. */
  plant: may(oneOf('isolate', 'reconnect')),
  /** What this step raises to or lets down to: a pressure in the plan's unit, or a level with its own (`250 mm`). */
  to: may(name),
  /** Role of the instrument on the circuit that is raised, where a system has several. */
  of: may(name),
  /** How long it is watched there before it is ticked off. */
  pauseSeconds: may(seconds),
  /** The guard gauge is read here, with the pipe's temperature; what is written down is that reading. */
  guard: may(is(true)),
});
export type CheckItem = Of<typeof checkItemShape>;

const [plain, ofBoundary] = [['done'], ['plugged', 'proved', 'unproved']] as const;
/** What a step may be answered with, beside "does not apply" where that is allowed and taking it back; the usual answer first. */
export const answersTo = ({ boundary }: CheckItem): typeof plain | typeof ofBoundary => (boundary === undefined ? plain : ofBoundary);

const checkShape = shape({
  ...phaseBase,
  kind: is('check'),
  items: list(checkItemShape, 100),
  /** The steps that gate closing. */
  closing: flag,
  /** A hold beside whose clock it is gone through; its ticks count as soon as that runs. */
  alongside: may(name),
});
export type CheckPhase = Of<typeof checkShape>;

/** The gauge off the hose must show less than `below`, in its own unit. */
const zeroShape = shape({
  ...phaseBase,
  kind: is('zero'),
  below: decimalText,
  /** Role of the instrument; the plan's gauge when left out. */
  instrument: may(name),
});
export type ZeroPhase = Of<typeof zeroShape>;

const holdShape = shape({
  ...phaseBase,
  kind: is('hold'),
  purpose: oneOf('let-by', 'settle', 'tightness'),
  band: bandShape,
  /** The start must also lie so far under the figure that an earlier phase read, exactly, in the hold's unit or as a part of it (DOMAIN 5.5, 5.7). */
  under: may(shape({ phase: name, least: decimalText, most: decimalText, percent: may(is(true)) })),
  /** The start is let down to and never raised to: too low, it is waited for or begun again. */
  lowered: may(is(true)),
  /** What can be done while it stands, without touching what is held. */
  meanwhile: may(text),
  seconds,
  limit: holdLimitSchema,
  /** Where a new try begins when this one is spoilt. */
  restartFrom: name,
  /** Where it begins after a rise, which puts more in doubt than the hold itself. */
  afterRise: may(name),
  /** Role of the instrument that is read; the plan's gauge when left out. */
  instrument: may(name),
  /** Unit of band and limits; the plan's when left out. What is read follows from it: a length is a level. */
  unit: may(instrumentUnit),
  /** Never to be exceeded, exactly, whatever the band's rounding lets in: the lowest rating connected. */
  ceiling: may(decimalText),
  /** What the weakest part may see, where a start must lie lower: it has stood a strength test, and the sun may warm it. */
  rating: may(decimalText),
  corrects: may(correctionShape),
  /** The supply stays open while it runs: a regulator's lock-up, a test dial. */
  fed: may(is(true)),
  /** Let-by phases that prove the valve of this pipework: after one that fell, it must fall too (DOMAIN 4.21). */
  valve: may(list(name, 10)),
  /** A hold on another instrument that runs at the same time: as soon as that one has its start, this one may have its own. */
  alongside: may(name),
});
export type HoldPhase = Of<typeof holdShape>;

/** One place or setting at which figures are read. */
const pointShape = shape({
  id: name,
  label: text,
  /** What to bring the first field to, in its instrument's unit; reaching it is not demanded. */
  aim: may(decimalText),
  /** What is read there; every field when left out. */
  reads: may(list(oneOf(...readQuantities), 10, 1)),
});
export type MeasurePoint = Of<typeof pointShape>;

/** Figures read off instruments, without a hold: duct flows, a measured make-up. */
const measureShape = shape({
  ...phaseBase,
  kind: is('measure'),
  fields: list(shape({ quantity: oneOf(...readQuantities), label: text, instrument: may(name) }), 10, 1),
  /** All of them are to be read. */
  points: list(pointShape, 200, 1),
  limit: measureLimitSchema,
  restartFrom: name,
  /** The supply stays open while it is read. */
  fed: may(is(true)),
});
export type MeasurePhase = Of<typeof measureShape>;

/** Fields that are read at a point. */
export const fieldsAt = ({ fields }: MeasurePhase, { reads }: MeasurePoint): MeasurePhase['fields'] =>
  reads === undefined ? fields : fields.filter(({ quantity }) => (reads as readonly ReadQuantity[]).includes(quantity));

const observeShape = shape({
  ...phaseBase,
  kind: is('observe'),
  /** `hoped` marks what is seen when all is well; one that `spoils` proves nothing, and the phase named is done again. */
  options: list(shape({ id: name, label: text, hoped: flag, spoils: may(is(true)) }), 20, 1),
  restartFrom: may(name),
  /** What is soaped here is the rig: only dry is a fall the system's (DOMAIN 4.8). */
  rig: may(is(true)),
});
export type ObservePhase = Of<typeof observeShape>;

export const phaseShape: Shape<CheckPhase | ZeroPhase | HoldPhase | ObservePhase | MeasurePhase> = union(
  checkShape,
  zeroShape,
  holdShape,
  observeShape,
  measureShape,
);
export type Phase = Of<typeof phaseShape>;

export const verdicts = ['pass', 'pass with permitted drop', 'restricted', 'fail', 'inconclusive', 'invalid'] as const;
export type TestVerdict = (typeof verdicts)[number] | 'in progress';

/** The first conclusion whose conditions hold is what the test says; none means inconclusive. */
export const conclusionShape = shape({
  when: whenShape,
  verdict: oneOf(...verdicts),
  reason: name,
  /** The hold whose numbers the sentence gives; the last that was read when left out. */
  about: may(name),
  /** Days in which it must be repaired and tested again. */
  repairDays: may(between(1, 3660)),
  /** Another test that would tell more, as answers that its plan starts from. */
  offer: may(shape({ label: text, answers: record(text) })),
});
export type Conclusion = Of<typeof conclusionShape>;

export const boundaryShape = shape({
  id: name,
  label: text,
  /** Outcomes that prove it; without this a checklist item must. */
  provedBy: may(whenShape),
  /** What lies beyond it and is not tested. */
  beyond: text,
  /** It lies inside what is measured: unproved, a fall or a flow may be its own (DOMAIN 4.13). */
  inside: may(is(true)),
});
export type Boundary = Of<typeof boundaryShape>;

export { count };

/** What a step of the plan lengthens: a figure of the procedure, or one of its questions. */
const lengthenedBy = union(shape({ figure: name }), shape({ answer: name }));

/** A part of what is tested, and the phase whose pass clears it: what `sight.ts` works out its two figures from. */
export const partGiven = {
  phase: name,
  /** Holds that clear it in that one's stead: a repeat, or what is left once the rest is isolated. */
  orBy: may(list(name, 10)),
  /** In words that follow “in”: `the pipework`. */
  what: name,
  contents: contentsShape,
  /** Turns a rate found with the test medium into that of the gas carried. */
  factor: may(decimalText),
  /** Its claim goes by the fall that is permitted, not by the threshold. */
  permitted: may(is(true)),
  /** Watches that prove the valve before it; those of the hold itself when left out. */
  letBys: may(list(name, 10)),
  /** Pressure before that valve, in the hold's unit, and the phase that reads it. */
  supply: may(shape({ value: decimalText, phase: name })),
  /** Phase that measures the trapped air. */
  airBy: may(name),
  /** What a rate is given in. */
  unit: oneOf(...(unitsOf('flow') as readonly FlowUnit[])),
  /** What the procedure takes for granted beyond the figures, and names as outside. */
  alsoAssumes: may(list(text, 20)),
  alsoOutside: may(list(text, 20)),
  longer: may(lengthenedBy),
  longerLetBy: may(lengthenedBy),
  /** The answer that does without the valve. */
  plug: may(shape({ answer: name, value: name, label: name })),
};
export const partGivenShape = shape(partGiven);
export type PartGiven = Of<typeof partGivenShape>;

/** With its two figures: the leak that shows if nothing else moves, and the one that it is sure of (DOMAIN 3.3). */
export const partShape = shape({
  ...partGiven,
  /** Left out where the volume is not known; `sure` also where it is sure of no leak, and `blind` says why. */
  alone: may(decimalText),
  sure: may(decimalText),
  blind: may(text),
  /** The sum of what may move unnoticed, and how the figures come of it; what *sure* takes for granted, and what lies outside it. */
  terms: list(shape({ what: oneOf(...termKinds), amount: decimalText, unit: instrumentUnit }), 10, 1),
  working: list(text, 10),
  assumes: list(text, 20),
  outside: list(text, 20),
});
export type Part = Of<typeof partShape>;

/** Middle of a hold's band, in the hold's unit: where whoever raises the pressure stops. Narrow bands keep their decimals. */
export const middleOf = ({ band }: Pick<HoldPhase, 'band'>): string =>
  String(Number(((Number(band.low) + Number(band.high)) / 2).toFixed(4)));
