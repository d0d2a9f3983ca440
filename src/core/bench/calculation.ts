import type { Plan } from '../planning/plan';
import { checkAnswers, quantityIn } from '../procedures/answers';
import { type Answers, isAsked, type Parameter } from '../procedures/procedure';
import { fromSi, type Problem, type Result, type Unit, type UnitKind, unitLabel } from '../quantities';

/** A result with its unit, in SI; pressures, flows and the like can be shown in any unit of their kind. */
export interface Found {
  readonly label: string;
  readonly si: number;
  readonly quantity: UnitKind | 'energy' | 'force' | 'number';
  /** Unit it is shown in at first; for the last three a plain word or nothing. */
  readonly unit: Unit | '';
  /** Said after the figure: gauge or absolute, at what reference. */
  readonly note?: string;
  /** The one answer that the question was for. */
  readonly main?: boolean;
}

export interface Axis {
  readonly label: string;
  readonly scale: 'linear' | 'log';
  /** Where it begins and ends, whatever is shown. */
  readonly ends?: readonly [number, number];
}

/** A picture as data: lines, points, and what to mark. Values are in the units that the axes name. */
export interface Chart {
  readonly x: Axis;
  readonly y: Axis;
  readonly lines: readonly { readonly label: string; readonly points: readonly (readonly [number, number])[]; readonly dashed?: boolean }[];
  readonly band?: readonly (readonly [x: number, low: number, high: number])[];
  readonly dots?: readonly (readonly [number, number])[];
  /** What was asked, marked on the line. */
  readonly mark?: { readonly x: number; readonly y: number; readonly label: string };
  /** Places on the axis below, named. */
  readonly plumbs?: readonly { readonly x: number; readonly label: string }[];
  /** A level across, such as a limit. */
  readonly level?: { readonly y: number; readonly label: string };
}

export interface Outcome {
  readonly found: readonly Found[];
  /** What must be said beside the figures, with how much it weighs. */
  readonly said: readonly { readonly tone: 'plain' | 'caution' | 'stop'; readonly text: string }[];
  /** The sum, a line each. */
  readonly working: readonly string[];
  readonly chart?: Chart;
}

/** A quick calculation with no job attached. */
export interface Calculation {
  readonly id: string;
  readonly title: string;
  /** What it answers, in one sentence. */
  readonly about: string;
  readonly parameters: readonly Parameter[];
  /** Where it holds, and where not. */
  readonly validity: readonly string[];
  readonly compute: (inputs: Inputs) => Result<Outcome>;
  /** The hold that is asked about as a plan, where its chances can be tried. */
  readonly plan?: (inputs: Inputs) => Plan | undefined;
}

/** Answers as a calculation reads them: checked, in SI. */
export interface Inputs {
  readonly answers: Answers;
  /** An answer in SI. */
  readonly si: (id: string) => number;
  readonly optional: (id: string) => number | undefined;
  readonly text: (id: string) => string;
}

export type Worked = { readonly ok: true; readonly value: Outcome } | { readonly ok: false; readonly problems: readonly Problem[] };

/** The answers that a calculation starts with. */
export const startOf = ({ parameters }: Pick<Calculation, 'parameters'>): Answers =>
  Object.fromEntries(parameters.map(({ id, usual: value }) => [id, value]));

/** Works a calculation out, or says everything that is wrong with its answers, each beside its field. */
export function work(calculation: Calculation, given: Answers): Worked {
  const read = readIn(calculation, given);
  if (!read.ok) return read;
  const result = calculation.compute(read.value);
  return result.ok ? result : { ok: false, problems: [result.problem] };
}

/** The plan of the hold that is asked about; undefined where there is none, or the answers are wrong. */
export function planOf(calculation: Calculation, given: Answers): Plan | undefined {
  const read = readIn(calculation, given);
  return read.ok ? calculation.plan?.(read.value) : undefined;
}

function readIn(
  calculation: Calculation,
  given: Answers,
): { readonly ok: true; readonly value: Inputs } | { readonly ok: false; readonly problems: readonly Problem[] } {
  const all = { ...startOf(calculation), ...given };
  // What is not asked counts for nothing, whatever was left in its field.
  const answers = Object.fromEntries(
    calculation.parameters.map((parameter) => [parameter.id, isAsked(calculation, parameter, all) ? all[parameter.id] : '']),
  );
  const problems = checkAnswers(calculation, answers);
  if (problems.length > 0) return { ok: false, problems };
  return {
    ok: true,
    value: {
      answers,
      si: (id) => quantityIn(calculation, answers, id),
      optional: (id) => ((answers[id] ?? '').trim() === '' ? undefined : quantityIn(calculation, answers, id)),
      text: (id) => answers[id] ?? '',
    },
  };
}

/** A figure for reading: four digits, without an exponent where it can be. */
export function figure(value: number, digits = 4): string {
  if (value === 0) return '0';
  const size = Math.abs(value);
  if (size >= 1e6 || size < 1e-4) return value.toPrecision(digits).replace(/\.?0+(?=e|$)/, '');
  const text = value.toPrecision(digits);
  return String(Number(text));
}

/** A quantity in a unit, for working and sentences. */
export const show = (si: number, unit: Unit, digits = 4): string => `${figure(fromSi(si, unit), digits)} ${unitLabel(unit)}`;

/** Points of a curve, evenly spread on its axis; those that the formula refuses are left out. */
export function curve(
  from: number,
  to: number,
  scale: Axis['scale'],
  f: (x: number) => number | undefined,
  count = 60,
): readonly (readonly [number, number])[] {
  const points: (readonly [number, number])[] = [];
  for (let index = 0; index <= count; index += 1) {
    const part = index / count;
    const x = scale === 'log' ? from * (to / from) ** part : from + (to - from) * part;
    const y = f(x);
    if (y !== undefined && Number.isFinite(y)) points.push([x, y]);
  }
  return points;
}

export const orUndefined = (result: Result<number>): number | undefined => (result.ok ? result.value : undefined);
