import {
  between,
  date,
  decimalText,
  flag,
  hash,
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
  time,
  union,
  uuid,
} from '../exact/shape';
import { instrumentUnits } from '../limits';
import { pressureUnits, temperatureUnits } from '../quantities';
import { instrumentKinds } from '../sizing/gauge';
import { waterPipeOptions } from '../sizing/water-hold';
import { boundaryShape, conclusionShape, partShape, phaseShape } from './phases';

/** A plan as it is frozen: its type and the schema that every reader checks it by are one definition. */

const instrumentIn = <U extends string>(units: readonly U[]) =>
  shape({
    id: name,
    name,
    kind: oneOf(...instrumentKinds),
    unit: oneOf(...units),
    readability: decimalText,
    rangeLow: decimalText,
    rangeHigh: decimalText,
    serial: text,
    simulated: flag,
    /** A liquid column of known density, a rule or a vessel needs no calibration; `due` is a local date. */
    /** What the last check of its rig found. */
    rigCheck: may(shape({ on: date, what: oneOf('holds', 'does not hold', 'leaks'), value: decimalText, unit: oneOf(...instrumentUnits) })),
    calibration: union(shape({ needed: is(false) }), shape({ needed: is(true), last: date, due: date })),
  });
const gauge = instrumentIn(pressureUnits);
const instrument = instrumentIn(instrumentUnits);
const strictness = { rangeAtLeast: may(decimalText), rangeAtMost: may(decimalText), certificateYears: may(between(1, 50)) };
const demand = shape({ highest: decimalText, limit: decimalText, unit: oneOf(...instrumentUnits), ...strictness });

const figure = shape({
  id: name,
  label: text,
  value: decimalText,
  unit: text,
  /** The procedure's own figure, also where another replaced it. */
  procedureValue: decimalText,
  source: oneOf('procedure', 'own procedure', 'house rule', 'this job'),
  reference: may(text),
});

export const planShape = shape({
  schema: is(1),
  /** Title and school are those of the firm's own procedure where one was followed. */
  procedure: shape({
    id: name,
    version: name,
    title: name,
    school: name,
    variant: may(shape({ id: uuid, title: name, version: name, reference: name })),
  }),
  answers: record(text),
  answerLabels: list(shape({ label: name, value: text }), 100),
  figures: list(figure, 200),
  unit: oneOf(...pressureUnits),
  medium: text,
  gauge,
  /** What the weather is read by at both ends of every hold that corrects for it. */
  weather: may(shape({ thermometer: may(instrumentIn(temperatureUnits)), barometer: may(gauge) })),
  /** Instruments beside the gauge, by role, with what is asked of each. */
  instruments: may(record(instrument)),
  demands: may(record(demand)),
  /** What is asked of the gauge beyond showing `highest` and resolving `limit`. */
  demand: may(shape(strictness)),
  pipes: list(text, 1000),
  /**
   * `typed` is the stated volume as written; empty where the schedule was summed. Where lengths were given as ranges,
   * `litres` is the high estimate, which is the one to plan by, and `lowest` the low one.
   */
  volume: shape({
    litres: decimalText,
    how: oneOf('schedule', 'stated', 'measured', 'answers', 'unknown'),
    typed: text,
    lowest: may(decimalText),
  }),
  phases: list(phaseShape, 100, 1),
  conclusions: list(conclusionShape, 50),
  boundaries: list(boundaryShape, 100),
  cautions: record(text),
  limit: decimalText,
  highest: decimalText,
  /** The phase whose time and limit set what the test can see. */
  judgedBy: name,
  /** The gauge that stays on afterwards; absent where none does. */
  guard: may(shape({ pipe: oneOf(...waterPipeOptions.map(([pipe]) => pipe)), relaxingShare: decimalText, alarmShare: decimalText })),
  /** Pictures that prove what is said, in the order in which they are taken; at a hold's start or end where they belong there. */
  evidence: may(list(shape({ id: name, label: name, at: may(oneOf('start', 'end')) }), 50)),
  /** What is looked at at each appliance while a hold stands; absent where no round belongs to the test. */
  round: may(list(shape({ id: name, label: name }), 20)),
  /** What its verdicts mean, where that is not the usual. */
  means: may(shape({ pass: may(text), fail: may(text) })),
  derivation: list(text, 50),
  notTested: list(text, 50),
  /** What it can see, part by part, the one that the judging phase clears first; empty where it gives no figure. */
  sight: list(partShape, 20),
  /** Said of what it can see, where a figure says too little or none can be given. */
  sightSays: may(text),
  /** When the register's instruments and rules were taken along that it was planned with, by the server's clock. */
  asOf: may(time),
  hash,
});
/** What one job's test will do: every figure resolved, nothing left to look up later. Pressures are in `unit`. */
export type PlanShape = Of<typeof planShape>;

/** What a plan is made from: the input of `plan FILE`. */
export const planInputShape: Shape<unknown> = shape({
  procedure: name,
  answers: record(text),
  pipes: may(text),
  statedVolume: may(text),
  gauge,
  instruments: may(record(instrument)),
  weather: may(shape({ thermometer: may(instrumentIn(temperatureUnits)), barometer: may(gauge) })),
  /** Figures that this job takes stricter, and why. */
  stricter: may(list(shape({ figure: name, value: text, reference: text }), 50)),
  houseRules: may(list(shape({ procedure: name, figure: name, value: text, reference: text }), 100)),
  variant: may(
    shape({ id: uuid, base: name, title: name, version: name, reference: name, figures: list(shape({ figure: name, value: text }), 100) }),
  ),
  on: date,
  asOf: may(time),
});
