import { unitOfHold } from '../course/instruments';
import type { Part } from '../course/phases';
import { expectedCourse } from '../judging/course';
import { judge } from '../judging/judge';
import { holdRule, measureRule, roomOfHold, timeText } from '../limits';
import { exampleInput } from '../planning/example-input';
import { type HouseRule, type Plan, type Planned, planTest } from '../planning/plan';
import {
  adviceText,
  type Criterion,
  type Figure,
  type Guide,
  type HoldPhase,
  type Phase,
  type Procedure,
  type Task,
  type When,
} from '../procedures';
import { fromSi, isPressureUnit, toSi, type Unit, unitLabel } from '../quantities';
import { inSentence } from '../record/words';

/* A procedure as its page shows it: made from its data and from the plan of its example, with the firm's house rules. */

export interface FigureView extends Figure {
  readonly house?: Pick<HouseRule, 'value' | 'reference'>;
}

export interface PhaseView {
  readonly id: string;
  readonly title: string;
  readonly kind: Phase['kind'];
  readonly say: string;
  readonly cautions: readonly string[];
  /** What is ticked off, or what may be seen. */
  readonly lines: readonly string[];
  /** Of the way that a sound system goes. */
  readonly main: boolean;
  /** When another phase brings it about. */
  readonly when: string;
  /** Pressure or level, time, and what decides. */
  readonly band?: string;
  readonly time?: string;
  readonly rule?: string;
}

/** What the picture of the course draws: the way that a sound system goes. */
export interface CourseView {
  readonly unit: string;
  readonly highest: number;
  readonly steps: readonly CourseStep[];
}

export type CourseStep = { readonly id: string; readonly title: string; readonly number: number } & (
  | {
      readonly kind: 'list' | 'look' | 'zero' | 'figures';
      readonly closing: boolean;
      readonly stops: readonly number[];
      /** Flow that is permitted at the reference pressure, Pa, and the pressures at which it is read. */
      readonly flow?: { readonly limit: number; readonly unit: string; readonly reference: number; readonly at: readonly number[] };
    }
  | {
      readonly kind: 'hold';
      readonly seconds: number;
      readonly time: string;
      readonly decides: boolean;
      readonly waits: boolean;
      readonly fed: boolean;
      readonly rule: string;
      /** Corridor of its start, and what it must not exceed, in the course's unit; none where it reads no pressure. */
      readonly band?: readonly [low: number, high: number];
      readonly ceiling?: number;
      /** Fall, or rise, from its start that counts. */
      readonly fall?: number;
      readonly rise?: number;
      /** What is read instead of a pressure. */
      readonly reads?: string;
    }
);

/** A plan as the page shows it. */
export interface Worked {
  readonly course: CourseView;
  readonly phases: readonly PhaseView[];
  readonly boundaries: readonly { readonly label: string; readonly how: string; readonly beyond: string }[];
  readonly derivation: readonly string[];
  readonly notTested: readonly string[];
  readonly sight: readonly Part[];
  readonly sightSays: string;
  /** The leak that the worked example is sure of, or that it tells none. */
  readonly sees: string;
  /** Said of it, and of the example's gauge. */
  readonly advice: readonly string[];
}

export interface ProcedureView {
  readonly id: string;
  readonly version: string;
  readonly title: string;
  readonly school: string;
  readonly purpose: string;
  readonly kinds: readonly string[];
  readonly medium: string;
  readonly guide: Guide;
  readonly questions: readonly { readonly label: string; readonly help: string; readonly usual: string }[];
  readonly figures: readonly FigureView[];
  readonly kit: readonly string[];
  readonly instruments: readonly string[];
  readonly cautions: readonly string[];
  readonly evidence: readonly string[];
  readonly tasks: readonly Task[];
  readonly activeMinutes: number;
  readonly passiveMinutes: number;
  /** What it can come to, best first. */
  readonly verdicts: readonly string[];
  /** Absent where the firm's rules leave no course for the example; `trouble` says why. */
  readonly worked?: Worked;
  readonly trouble?: string;
}

/** The procedure with the house rules of a firm, worked out for its example on a local date, YYYY-MM-DD. */
export function viewOf(procedure: Procedure, rules: readonly HouseRule[], on: string): ProcedureView {
  const { id, version, title, school, purpose, systemKinds, medium, guide, kit, roles, cautions, evidence, tasks } = procedure;
  const own = rules.filter((rule) => rule.procedure === id);
  const planned = planTest({ ...exampleInput(procedure, on), houseRules: own });
  return {
    id,
    version,
    title,
    school,
    purpose,
    kinds: systemKinds,
    medium,
    guide,
    questions: procedure.parameters.map((parameter) => ({ label: parameter.label, help: parameter.help, usual: usual(parameter) })),
    figures: procedure.figures.map((figure) => {
      const house = own.find((rule) => rule.figure === figure.id);
      return house === undefined ? figure : { ...figure, house: { value: house.value, reference: house.reference } };
    }),
    kit,
    instruments: roles.map(({ label }) => label),
    cautions: Object.values(cautions),
    evidence: evidence.map(({ label }) => `Photograph: ${label.charAt(0).toLowerCase()}${label.slice(1)}`),
    tasks,
    activeMinutes: tasks.reduce((sum, task) => sum + task.activeMinutes, 0),
    passiveMinutes: tasks.reduce((sum, task) => sum + task.passiveMinutes, 0),
    verdicts: planned.ok
      ? ranked.filter((verdict) => verdict === 'inconclusive' || planned.value.plan.conclusions.some((one) => one.verdict === verdict))
      : [],
    ...(planned.ok ? { worked: workedOf(planned.value) } : { trouble: planned.problems.map(({ message }) => message).join(' ') }),
  };
}

const ranked = ['pass', 'pass with permitted drop', 'restricted', 'fail', 'inconclusive', 'invalid'] as const;

function usual(parameter: Procedure['parameters'][number]): string {
  if (parameter.kind === 'choice') return parameter.options.find(({ value }) => value === parameter.usual)?.label ?? '';
  if (parameter.usual === '') return '';
  return parameter.kind === 'quantity' ? `${parameter.usual} ${unitLabel(parameter.unit)}`.trim() : parameter.usual;
}

const dated: ReadonlySet<string> = new Set(['gauge-overdue', 'gauge-certificate-old']);

/** What a page shows of a plan. */
export function workedOf({ plan, advice, gaugeFindings }: Planned): Worked {
  const main = expectedCourse(plan, judge(plan, []));
  const phases = plan.phases.map((phase) => phaseView(plan, phase, main.includes(phase)));
  return {
    course: courseView(plan, main),
    phases,
    boundaries: plan.boundaries.map(({ label, beyond, provedBy }) => ({
      label,
      beyond,
      how: provedBy === undefined ? 'proved, plugged or capped, by the checklist' : `proved by ${titlesIn(plan, provedBy)}`,
    })),
    derivation: plan.derivation,
    notTested: plan.notTested,
    sight: plan.sight,
    sightSays: plan.sightSays ?? '',
    sees: plan.sight[0]?.sure === undefined ? 'no figure' : `${plan.sight[0].sure} ${unitLabel(plan.sight[0].unit)}`,
    // The example's gauge is made up: what is said of its dates says nothing to a reader.
    advice: [...gaugeFindings.filter(({ code }) => !dated.has(code)).map(({ message }) => message), ...advice.map(adviceText)],
  };
}

const titleOf = (plan: Plan, id: string): string => `“${plan.phases.find((phase) => phase.id === id)?.title ?? id}”`;

const titlesIn = (plan: Plan, when: When): string =>
  [...new Set(when.flat().flatMap((condition) => ('phase' in condition ? [titleOf(plan, condition.phase)] : [])))].join(' or ');

/** Words for an outcome: the option's own where something is looked at. */
function outcomeText(plan: Plan, id: string, outcome: string): string {
  const phase = plan.phases.find((one) => one.id === id);
  const option = phase?.kind === 'observe' ? phase.options.find((one) => one.id === outcome)?.label : undefined;
  return option === undefined ? outcome.replaceAll('-', ' ') : inSentence(option);
}

function whenText(plan: Plan, when: When): string {
  const conclusions = { pass: 'After a pass', restricted: 'After restricted use', other: 'After anything but a pass' } as const;
  return when
    .map((all) =>
      all
        .map((condition) => {
          if ('signal' in condition) return 'When gas is smelt';
          if ('conclusion' in condition) return conclusions[condition.conclusion];
          if ('begunBefore' in condition) return `When ${titleOf(plan, condition.phase)} was begun in an earlier round`;
          return `${titleOf(plan, condition.phase)}: ${condition.outcome.map((one) => outcomeText(plan, condition.phase, one)).join(' or ')}`;
        })
        .join(', and '),
    )
    .join('; or ');
}

function phaseView(plan: Plan, phase: Phase, main: boolean): PhaseView {
  const base = {
    id: phase.id,
    title: phase.title,
    kind: phase.kind,
    say: phase.say,
    cautions: phase.cautions.map((one) => plan.cautions[one]),
    main,
    when: whenText(plan, phase.when),
  };
  switch (phase.kind) {
    case 'check':
      return { ...base, lines: phase.items.map(({ text }) => text) };
    case 'observe':
      return { ...base, lines: phase.options.map(({ label }) => label) };
    case 'zero':
      return { ...base, lines: [] };
    case 'measure':
      return { ...base, lines: phase.points.map(({ label }) => label), rule: measureRule(phase.limit) };
    case 'hold': {
      const unit = unitLabel(unitOfHold(plan, phase));
      return { ...base, lines: [], band: bandText(phase, unit), time: timeText(phase.seconds), rule: holdRule(phase.limit, unit) };
    }
  }
}

/** Wide bands only keep a reading sane; they are no corridor to bring it into. */
const isCorridor = ({ band, fed }: HoldPhase): boolean => fed !== true && Number(band.high) < 20 * Math.max(Number(band.low), 0.5);

const bandText = (phase: HoldPhase, unit: string): string =>
  isCorridor(phase) ? `${phase.band.low} to ${phase.band.high} ${unit}` : phase.fed === true ? 'supply open' : `in ${unit}`;

function courseView(plan: Plan, main: readonly Phase[]): CourseView {
  const steps = main.map((phase, index): CourseStep => {
    const base = { id: phase.id, title: phase.title, number: index + 1 };
    if (phase.kind === 'hold') return { ...base, ...holdStep(plan, phase) };
    if (phase.kind === 'check') {
      // A level has a unit of its own and no place on a pressure's axis.
      const stops = phase.items.flatMap(({ to }) => (to === undefined || to.includes(' ') ? [] : [Number(to)]));
      return { ...base, kind: 'list', closing: phase.closing, stops };
    }
    const kind = phase.kind === 'observe' ? 'look' : phase.kind === 'zero' ? 'zero' : 'figures';
    const aims = phase.kind === 'measure' ? phase.points.flatMap(({ aim }) => (aim === undefined ? [] : [Number(aim)])) : [];
    const criterion = phase.kind === 'measure' ? phase.limit : undefined;
    if (criterion?.kind !== 'flow-at-most') return { ...base, kind, closing: false, stops: aims };
    const { limit, unit, reference } = criterion;
    const at = aims.map((aim) => toSi(aim, plan.gauge.unit));
    return {
      ...base,
      kind,
      closing: false,
      stops: [],
      flow: { limit: Number(limit), unit: unitLabel(unit), reference: Number(reference), at },
    };
  });
  return { unit: unitLabel(plan.unit as Unit), highest: Number(plan.highest), steps };
}

function holdStep(plan: Plan, phase: HoldPhase) {
  const { limit: criterion, band, seconds, fed = false } = phase;
  const unit = unitLabel(unitOfHold(plan, phase));
  const base = {
    kind: 'hold' as const,
    seconds,
    time: timeText(seconds),
    decides: phase.id === plan.judgedBy,
    waits: criterion.kind === 'wait',
    fed,
    rule: holdRule(criterion, unit),
  };
  const own = unitOfHold(plan, phase);
  if (!isPressureUnit(own)) return { ...base, reads: criterion.kind === 'dial' ? 'test dial' : 'level' };
  const inPlan = (text: string): number => (own === plan.unit ? Number(text) : fromSi(toSi(Number(text), own), plan.unit));
  // The limit draws its own lines: from the start, or at a pressure that must never be exceeded.
  const lines = roomOfHold(criterion)
    .lines(criterion, { seconds, unit: own })
    .filter(({ decides }) => decides);
  const fall = lines.find(({ of, side }) => of === 'start' && side === 'below');
  const rise = lines.find(({ of, side, label }) => of === 'start' && side === 'above' && label === 'limit');
  const top = lines.find(({ of }) => of === 'zero');
  const ceiling = top !== undefined ? inPlan(String(top.at)) : phase.ceiling === undefined ? undefined : inPlan(phase.ceiling);
  const corridor = isCorridor(phase) ? ([inPlan(band.low), inPlan(band.high)] as const) : lockUp(criterion);
  return {
    ...base,
    band: corridor,
    fall: fall === undefined ? undefined : inPlan(String(-fall.at)),
    rise: rise === undefined ? undefined : inPlan(String(rise.at)),
    ceiling,
  };
}

/** Where a regulator is hoped to lock up: the band that is hoped for, up to what must never be exceeded. */
function lockUp(criterion: Criterion): readonly [number, number] | undefined {
  if (criterion.kind !== 'at-most' || criterion.bands === undefined) return undefined;
  const { steps } = criterion.bands;
  const hoped = steps.findIndex(({ outcome }) => outcome === roomOfHold(criterion).hoped(criterion));
  const low = (hoped < 0 ? steps.at(-1) : steps[hoped - 1])?.below;
  return low === undefined ? undefined : [Number(low), Math.min(Number(criterion.limit), Number(steps[hoped]?.below ?? criterion.limit))];
}

/** A figure with its unit as it is read: long times in minutes and hours. */
export const figureText = ({ value, unit }: { readonly value: string; readonly unit: string }): string =>
  unit === 's' && Number(value) >= 120 ? timeText(Number(value)) : `${value} ${unitLabel(unit as Unit)}`.trim();
