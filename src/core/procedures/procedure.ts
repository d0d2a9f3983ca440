import type { Boundary, Conclusion, PartGiven, Phase } from '../course/phases';
import type { PlantModel } from '../plants/plant';
import type { PressureUnit, Unit, UnitKind } from '../quantities';
import type { Problem, Result } from '../quantities/result';
import type { Demand, Gauge, Instrument } from '../sizing/gauge';
import type { GuardGauge } from '../sizing/guard-gauge';
import type { PipeRun, VolumeSum } from '../sizing/pipe-volume';
import type { Breach, Fault } from './fault';

interface Question {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  /** What examples and Bench begin with. A plan presumes it only where the procedure says so. */
  readonly usual: string;
  /** Asked only where another answer is one of these. */
  readonly askedFor?: { readonly answer: string; readonly is: readonly string[] };
}

/** A question that the plan asks, in trade order. */
export type Parameter =
  | (Question & { readonly kind: 'choice'; readonly options: readonly { readonly value: string; readonly label: string }[] })
  /** A quantity with its unit; bounds are in that unit, ends included. */
  | (Question & {
      readonly kind: 'quantity';
      readonly quantity: UnitKind;
      readonly unit: Unit;
      readonly least: string;
      readonly most: string;
      readonly optional?: boolean;
    })
  /** Words, such as a code reference. */
  | (Question & { readonly kind: 'text'; readonly optional: boolean })
  /** Lines of figures, read by whoever asks for them; some are tapped on the map of a pool's lines. */
  | (Question & {
      readonly kind: 'lines';
      readonly example: string;
      readonly optional?: boolean;
      readonly tapped?: 'openings' | 'trials';
    })
  /** Components, a line each: name, rating and, where it lies elsewhere, its height (`Hydrant 16bar -2m`). */
  | (Question & { readonly kind: 'components' });

export type Answers = Readonly<Record<string, string>>;

/** Something to know before the start; what must be done or kept away from stands out. */
export type Advice = string | { readonly beware: string };
export const adviceText = (advice: Advice): string => (typeof advice === 'string' ? advice : advice.beware);

/** Whether a question matters, given the other answers: what it hangs on must itself be asked. */
export function isAsked({ parameters }: { readonly parameters: readonly Parameter[] }, { askedFor }: Parameter, answers: Answers): boolean {
  if (askedFor === undefined) return true;
  const other = parameters.find(({ id }) => id === askedFor.answer);
  return askedFor.is.includes(answers[askedFor.answer] ?? '') && (other === undefined || isAsked({ parameters }, other, answers));
}

/** What the register knows of a system, for the answers that it gives by itself. */
export interface KnownSystem {
  readonly name: string;
  /** What hangs on it, a line each; and those whose rating is known, with it. */
  readonly components: readonly string[];
  readonly rated: readonly string[];
  /** What its last tests were planned from, by whatever procedure; the newest answer to each question. */
  readonly last: Answers;
  /** The same of the other systems of its kind on the site. */
  readonly beside: Answers;
}

/** A figure of the procedure. A house rule may move it only towards `stricter`. */
export interface Figure {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly unit: string;
  readonly stricter: 'lower' | 'higher';
  /** The end of the stricter side, beyond which a figure has no sense, such as a threshold of nothing at all. */
  readonly bound?: string;
  /** How far a firm's own procedure may go the other way, naming its code; its value itself when left out. */
  readonly loosest?: string;
}

/** A figure as the plan froze it, with where it came from. */
export interface ResolvedFigure {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly unit: string;
  /** The procedure's own figure, also where a house rule replaced it. */
  readonly procedureValue: string;
  readonly source: 'procedure' | 'own procedure' | 'house rule' | 'this job';
  readonly reference?: string;
}

export interface Course {
  /** What fills it while it holds: gas is corrected for temperature and barometer (DOMAIN 4.6), water never by the gas law (3.7). */
  readonly filled: 'gas' | 'water';
  /** Atmosphere where no barometer is read, hPa; the standard one when left out. */
  readonly atmosphereHpa?: string;
  readonly unit: PressureUnit;
  /** What fills it by these answers, where the procedure alone does not say. */
  readonly medium?: string;
  readonly phases: readonly Phase[];
  readonly conclusions: readonly Conclusion[];
  readonly boundaries: readonly Boundary[];
  /** Highest pressure that the gauge must show, and the smallest movement that it must resolve. */
  readonly highest: string;
  readonly limit: string;
  /** More that is asked of the gauge. */
  readonly demand?: Pick<Demand, 'rangeAtLeast' | 'rangeAtMost' | 'certificateYears'>;
  /** Instruments beside the gauge, by their role, and what is asked of them. */
  readonly instruments?: Readonly<Record<string, Instrument>>;
  readonly demands?: Readonly<Record<string, Demand>>;
  /** The phase whose time and limit set what the test can see. */
  readonly judgedBy: string;
  /** Its parts, the one that the judging phase clears first, from which plan and judge work out what it can see. */
  readonly sees: readonly PartGiven[];
  /** Said of what it can see, where a figure says too little or none can be given. */
  readonly sightSays?: string;
  /** What is to be known before anything is connected: stored energy, thrust, what lengthens the hold. */
  readonly advice?: readonly Advice[];

  /** The gauge that stays on afterwards, and how far it may fall before somebody must look. */
  readonly guard?: GuardGauge;

  /** Sentences that derive the limit. */
  readonly derivation: readonly string[];
  readonly notTested: readonly string[];
}

/** Given to a course: answers and figures by the ids that the procedure lists. Methods, so that a course may ask for fewer than there are. */
export interface CourseInput<F extends string = string, Q extends string = string> {
  readonly answers: Readonly<Record<Q, string>>;
  figure(id: F): string;
  readonly gauge: Gauge;
  /** Instruments chosen for roles beside the gauge. */
  readonly instruments: Readonly<Record<string, Instrument>>;
  readonly volume: VolumeSum;
}

/** An instrument that the test needs beside its gauge. */
export interface Role {
  readonly role: string;
  readonly label: string;
  readonly quantity: UnitKind;
  /** Asked for only where this holds. */
  readonly needed: (answers: Answers) => boolean;
  /** The plan's own gauge takes the role where nothing else is chosen. */
  readonly orGauge?: boolean;
  /** It is read while the gauge is: one and the same instrument cannot be in both places. */
  readonly apart?: boolean;
}

/** What a plan starts from in demonstrations, tests and simulated records. */
export interface Example {
  /** The simulated fault that its published record shows; a sound plant where none is named. */
  readonly fault?: string;
  readonly answers: Answers;
  readonly pipes: string;
  readonly gauge: Gauge;
  readonly instruments?: Readonly<Record<string, Instrument>>;
}

/** Kinds of system that have procedures. */
export const systemKinds = [
  'gas',
  'propane',
  'water',
  'heating',
  'drain',
  'water main',
  'refrigerant',
  'pool',
  'duct',
  'component',
] as const;
export type SystemKind = (typeof systemKinds)[number];

/** What people on site call them. */
export const systemKindWords: Readonly<Record<SystemKind, string>> = {
  gas: 'Gas',
  propane: 'Propane',
  water: 'Water',
  heating: 'Heating, underfloor heating',
  drain: 'Drains',
  'water main': 'Water main',
  refrigerant: 'Refrigerant pipework',
  pool: 'Pool or spa line',
  duct: 'Ducts',
  component: 'Single component',
};

/** A supply that a task needs in one state, and that disturbs another test in the other. */
export interface SupplyNeed {
  readonly of: 'water' | 'gas';
  readonly state: 'on' | 'off';
}

/** A picture that proves what is said: a place for it stands in the run, at the hold's start or end where it belongs there. */
export interface Evidence {
  readonly id: string;
  readonly label: string;
  readonly at?: 'start' | 'end';
  /** One picture of each thing that the answer of that name lists, and what it is called then. */
  readonly each?: { readonly answer: string; readonly label: string };
}

export interface Task {
  readonly title: string;
  readonly activeMinutes: number;
  readonly passiveMinutes: number;
  readonly supply?: SupplyNeed;
  /** Phases of the run in which that supply is needed so. */
  readonly phases?: readonly string[];
  /** What can be done while it waits, and in which holds of the run. */
  readonly meanwhile?: string;
  readonly holds?: readonly string[];
  /** Waits for another test's task of that title where both are done together. */
  readonly after?: string;
}

/** What a reader of the procedure is told, beside what its data shows. */
export interface Guide {
  /** Where it ends, and what to use instead. */
  readonly scope: readonly string[];
  readonly tells: readonly string[];
  readonly cannotTell: readonly string[];
  /** What to do on each outcome. */
  readonly outcomes: readonly { readonly on: string; readonly act: string }[];
  /** Where schools differ: which is taken here, and why. */
  readonly schools?: string;
}

/** The rules for one kind of test: data first, small functions after. */
export interface Procedure {
  readonly id: string;
  readonly version: string;
  readonly title: string;
  readonly school: string;
  readonly purpose: string;
  /** Kinds of system that it is for, the usual one first. */
  readonly systemKinds: readonly SystemKind[];
  /** The simulated plant that demonstrations, training and tests run it on. */
  readonly plant: PlantModel;
  readonly guide: Guide;
  /** Whether the plan sums a pipe schedule, or the answers hold all that is needed. */
  readonly volumeFrom: 'pipes' | 'answers';
  /**
   * Whether the volume decides anything beyond what the test can see: a time, a limit, a scope. Where it does not, a test may be
   * planned by whoever does not know it, and no leak rate is claimed. It always does where nothing is said.
   */
  readonly volumeDecides?: (answers: Answers) => boolean;
  /** Questions whose usual answer stands unless somebody says otherwise: it sets no limit, or the strictest. */
  readonly presumed?: readonly string[];
  /** Asked afresh at every test: what was seen, smelled, measured or done just now. */
  readonly askedEachTime?: readonly string[];
  /** Answers that the register gives: names, appliances, the map of a line. */
  readonly fromRegister?: (known: KnownSystem) => Answers;
  /** Answers that a pipe schedule gives by itself. */
  readonly fromPipes?: (volume: VolumeSum, runs: readonly PipeRun[]) => Answers;
  /** Nothing is read on any gauge. */
  readonly noGauge?: true;
  readonly roles: readonly Role[];
  /** Its phases, each with what decides it or what it can come to. */
  readonly phases: Readonly<Record<string, string | readonly string[]>>;
  readonly example: Example;
  /** Simulated faults with what a good technician concludes from each. */
  readonly faults: readonly Fault[];
  /** Answers that its scope refuses, where it has one beyond the bounds of its questions. */
  readonly breaches?: readonly Breach[];
  readonly medium: string;
  readonly parameters: readonly Parameter[];
  readonly figures: readonly Figure[];
  readonly kit: readonly string[];
  /** Of the kit, what a van carries once: two tests that need it go one after the other. */
  readonly carriedOnce?: readonly string[];
  readonly cautions: Readonly<Record<string, string>>;
  readonly evidence: readonly Evidence[];
  /** What is looked at at each appliance while a hold stands. */
  readonly round?: readonly { readonly id: string; readonly label: string }[];
  /** What a verdict means here, where it is not the usual: only what is dangerous to use is not to be used. */
  readonly means?: { readonly pass?: string; readonly fail?: string };
  readonly tasks: readonly Task[];
  /** Litres of the meter chosen in the answers, where there is one. */
  readonly meterLitres?: (answers: Answers) => number;
  /** What lies outside the procedure, with what to do instead; empty when all is inside. */
  outOfScope?(answers: Answers, volume: VolumeSum, figure: CourseInput['figure']): readonly Problem[];
  /** The course, or why these answers give none. */
  course(input: CourseInput): Result<Course>;
  /** Advice about a gauge that would do but is not the best choice. */
  readonly gaugeAdvice?: (gauge: Gauge) => string | undefined;
}
