import type { Gauge } from '../planning/gauge';
import type { VolumeSum } from '../planning/pipe-volume';
import type { PressureUnit } from '../quantities';
import type { Problem } from '../quantities/result';
import type { Boundary, Conclusion, Phase } from './phases';

/** A question that the plan asks, in trade order. */
export type Parameter =
  | {
      readonly kind: 'choice';
      readonly id: string;
      readonly label: string;
      readonly help: string;
      readonly options: readonly { readonly value: string; readonly label: string }[];
      readonly default: string;
    }
  | {
      readonly kind: 'pressure';
      readonly id: string;
      readonly label: string;
      readonly help: string;
      readonly unit: PressureUnit;
      readonly default: string;
    };

export type Answers = Readonly<Record<string, string>>;

/** A figure of the procedure. A house rule may move it only towards `stricter`. */
export interface Figure {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly unit: string;
  readonly stricter: 'lower' | 'higher';
  /** A lower house rule than this would have no sense, such as a threshold of nothing at all. */
  readonly least?: string;
}

/** A figure as the plan froze it, with where it came from. */
export interface ResolvedFigure {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly unit: string;
  /** The procedure's own figure, also where a house rule replaced it. */
  readonly procedureValue: string;
  readonly source: 'procedure' | 'house rule';
  readonly reference?: string;
}

export interface Course {
  readonly unit: PressureUnit;
  readonly phases: readonly Phase[];
  readonly conclusions: readonly Conclusion[];
  readonly boundaries: readonly Boundary[];
  /** Highest pressure that the gauge must show, and the smallest movement that it must resolve. */
  readonly highest: string;
  readonly limit: string;
  /** The hold whose time and threshold set what the test can see. */
  readonly judgedBy: string;
  /** Sentences that derive the limit. */
  readonly derivation: readonly string[];
  readonly notTested: readonly string[];
}

export interface CourseInput {
  readonly answers: Answers;
  readonly figure: (id: string) => string;
  readonly gauge: Gauge;
  readonly volume: VolumeSum;
}

export interface Task {
  readonly title: string;
  readonly activeMinutes: number;
  readonly passiveMinutes: number;
}

/** The rules for one kind of test: data first, small functions after. */
export interface Procedure {
  readonly id: string;
  readonly version: string;
  readonly title: string;
  readonly school: string;
  readonly purpose: string;
  readonly systemKind: 'gas';
  readonly medium: string;
  readonly parameters: readonly Parameter[];
  readonly figures: readonly Figure[];
  readonly kit: readonly string[];
  readonly cautions: Readonly<Record<string, string>>;
  readonly evidence: readonly string[];
  readonly tasks: readonly Task[];
  /** Litres of the meter chosen in the answers. */
  readonly meterLitres: (answers: Answers) => number;
  /** What lies outside the procedure, with what to do instead; empty when all is inside. */
  readonly outOfScope: (answers: Answers, volume: VolumeSum) => readonly Problem[];
  readonly course: (input: CourseInput) => Course;
  /** Advice about a gauge that would do but is not the best choice. */
  readonly gaugeAdvice: (gauge: Gauge) => string | undefined;
}
