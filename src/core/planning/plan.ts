import { demandOf, instrumentsOf } from '../course/instruments';
import type { Part, PartGiven, Phase } from '../course/phases';
import { type PlanShape, planShape } from '../course/plan-shape';
import { type Sighted, sightOf } from '../course/sight';
import { canonical } from '../exact/canonical';
import { misfit } from '../exact/fit';
import { sha256 } from '../exact/hash';
import { linesOf } from '../exact/lines';
import { procedureById } from '../procedures';
import { answerLabel, checkAnswers } from '../procedures/answers';
import { type Advice, type Answers, type Course, isAsked, type Procedure } from '../procedures/procedure';
import { compare, compareQuantities, decimal, type Problem, unitKind, unitLabel } from '../quantities';
import { type AnyInstrument, type Gauge, type GaugeFinding, gaugeFindings, type Instrument, noGauge, type Weather } from '../sizing/gauge';
import type { VolumeSum } from '../sizing/pipe-volume';
import { withCorrections } from './corrections';
import { type HouseRule, resolveFigures, type Stricter, type Variant } from './figures';
import { resolveVolume } from './system-volume';

export { checkHouseRule, checkVariant, type HouseRule, resolveFigures, type Stricter, type Variant } from './figures';

export interface PlanInput {
  readonly procedure: string;
  readonly answers: Answers;
  /** Pipe lines as typed, one a line; left empty when `statedVolume` is given. */
  readonly pipes: string;
  /** Volume as typed, where the lengths are not known; taken to include pipe and fittings, not the meter. */
  readonly statedVolume: string;
  readonly gauge: Gauge;
  /** Instruments for the procedure's other roles. */
  readonly instruments?: Readonly<Record<string, Instrument>>;
  /** What the pipe's temperature and the barometer are read on. */
  readonly weather?: Weather;
  /** Figures that this job takes stricter. */
  readonly stricter?: readonly Stricter[];
  readonly houseRules: readonly HouseRule[];
  /** The firm's own procedure, a copy of `procedure` with figures of its own. */
  readonly variant?: Variant;
  /** Local date of the test, YYYY-MM-DD. */
  readonly on: string;
  /** When the register was taken along that instruments and rules come from, ms. */
  readonly asOf?: number;
}

/** What one job's test will do: every figure resolved, nothing left to look up later. Pressures are in `unit`. */
export type Plan = PlanShape;

export interface Planned {
  readonly plan: Plan;
  readonly volume: VolumeSum;
  /** Said on the sheet; nothing here stops the test, but an unsuitable gauge cannot give a pass. */
  readonly gaugeFindings: readonly GaugeFinding[];
  readonly advice: readonly Advice[];
}

export type PlanResult = { readonly ok: true; readonly value: Planned } | { readonly ok: false; readonly problems: readonly Problem[] };

/** The hash that names a plan: SHA-256 of its canonical form without the hash itself. */
export const planHash = ({ hash: _, ...rest }: Plan | (Omit<Plan, 'hash'> & { hash?: string })): string => sha256(canonical(rest));

/** The plan as one made from the register as it stood then; its hash says so too. */
export function asOf(plan: Plan, at: number): Plan {
  const dated = { ...plan, asOf: at };
  return { ...dated, hash: planHash(dated) };
}

/** The inputs that a plan was made from; planning them again must give the same plan. */
export const inputOf = (plan: Plan, on: string): PlanInput => ({
  procedure: plan.procedure.id,
  answers: plan.answers,
  pipes: plan.pipes.join('\n'),
  statedVolume: plan.volume.typed,
  gauge: plan.gauge,
  instruments: plan.instruments,
  weather: plan.weather,
  stricter: plan.figures
    .filter(({ source }) => source === 'this job')
    .map(({ id, value, reference = '' }) => ({ figure: id, value, reference })),
  houseRules: plan.figures
    .filter(({ source }) => source === 'house rule')
    .map(({ id, value, reference = '' }) => ({ procedure: plan.procedure.id, figure: id, value, reference })),
  ...(plan.procedure.variant === undefined
    ? {}
    : {
        variant: {
          ...plan.procedure.variant,
          base: plan.procedure.id,
          figures: plan.figures.filter(({ source }) => source === 'own procedure').map(({ id, value }) => ({ figure: id, value })),
        },
      }),
  on,
  asOf: plan.asOf,
});

/** House rules that are each stricter can together leave nothing between a band's ends. */
function bandProblem(phases: readonly Phase[], unit: string): Problem | undefined {
  const empty = phases.find((phase) => phase.kind === 'hold' && compare(decimal(phase.band.low), decimal(phase.band.high)) > 0);
  return empty?.kind === 'hold'
    ? {
        code: 'band-empty',
        message: `${empty.title}: the house rules leave no band, from ${empty.band.low} to ${empty.band.high} ${unit}. Ask your supervisor to correct one of them.`,
      }
    : undefined;
}

/**
 * Works a job's plan out. Every problem at once, so that a form can show each beside its field.
 * @param procedure the one that the input names; another where its figures are those of a former version
 */
export function planTest(given: PlanInput, procedure: Procedure | undefined = procedureById(given.procedure)): PlanResult {
  const input = procedure?.noGauge === true ? { ...given, gauge: noGauge } : given;
  if (procedure === undefined)
    return { ok: false, problems: [{ code: 'procedure-unknown', message: `There is no procedure “${input.procedure}”.` }] };
  const answerProblems = checkAnswers(procedure, input.answers);
  const { figures, problems: ruleProblems } = resolveFigures(procedure, input.houseRules, input.variant, input.stricter);
  const { value: volume, how, problems: volumeProblems } = resolveVolume(procedure, input);
  const early = [...answerProblems, ...ruleProblems, ...volumeProblems];
  if (early.length > 0) return { ok: false, problems: early };
  const figure = (id: string): string => {
    const found = figures.find((candidate) => candidate.id === id);
    if (found === undefined) throw new Error(`${procedure.id} asks for a figure that it does not list: ${id}`);
    return found.value;
  };
  const scope = procedure.outOfScope?.(input.answers, volume, figure) ?? [];
  if (scope.length > 0) return { ok: false, problems: scope };
  const unfit = instrumentProblems(procedure, input);
  if (unfit.length > 0) return { ok: false, problems: unfit };

  const made = procedure.course({ answers: input.answers, figure, gauge: input.gauge, instruments: input.instruments ?? {}, volume });
  if (!made.ok) return { ok: false, problems: [made.problem] };
  const course = made.value;
  if (how === 'measured' && course.filled === 'water')
    return {
      ok: false,
      problems: [
        {
          code: 'volume-not-gas',
          field: 'volume',
          message: 'A volume is measured by gas let in, and water fills this one: type the pipe lines, or estimate the volume.',
        },
      ],
    };
  const phases = withCorrections(
    withMeanwhile(procedure, course.phases),
    course.unit,
    course.filled,
    course.atmosphereHpa ?? '1013.25',
    input.weather,
  );
  const contradiction = bandProblem(phases, course.unit);
  if (contradiction !== undefined) return { ok: false, problems: [contradiction] };
  const body: Omit<Plan, 'hash'> = {
    schema: 1,
    procedure: named(procedure, input.variant),
    answers: input.answers,
    answerLabels: procedure.parameters
      .filter((parameter) => isAsked(procedure, parameter, input.answers) && (input.answers[parameter.id] ?? '').trim() !== '')
      .map(({ id }) => answerLabel(procedure, id, input.answers[id])),
    figures,
    unit: course.unit,
    medium: course.medium ?? procedure.medium,
    gauge: input.gauge,
    weather: phases.some((phase) => phase.kind === 'hold' && phase.corrects !== undefined) ? namedIn(input.weather) : undefined,
    ...beside(course),
    pipes: how === 'schedule' ? linesOf(input.pipes) : [],
    volume: {
      litres: volume.totalL.toFixed(2),
      how,
      typed: how === 'stated' || how === 'measured' ? input.statedVolume : '',
      lowest: volume.lowestL?.toFixed(2),
    },
    phases,
    conclusions: course.conclusions,
    boundaries: course.boundaries,
    cautions: procedure.cautions,
    limit: course.limit,
    highest: course.highest,
    judgedBy: course.judgedBy,
    evidence: picturesOf(procedure.evidence, input.answers),
    means: procedure.means,
    round: procedure.round,
    derivation: course.derivation,
    notTested: course.notTested,
    sight: seenBy({ unit: course.unit, gauge: input.gauge, instruments: course.instruments, phases }, course.sees),
    sightSays: course.sightSays,
    asOf: input.asOf,
  };
  // Whatever was typed, a plan that its own schema would refuse never leaves here: it could not be read back.
  const wrong = misfit(planShape, { ...body, hash: '0'.repeat(64) }, 'plan');
  if (wrong !== undefined)
    return {
      ok: false,
      problems: [
        { code: 'plan-unreadable', message: `These answers give no plan that can be kept: ${wrong}. Give fewer digits, or another unit.` },
      ],
    };
  const plan = { ...body, hash: planHash(body) };
  const advice = procedure.gaugeAdvice?.(input.gauge);
  return {
    ok: true,
    value: {
      plan,
      volume,
      gaugeFindings: findingsOf(plan, input.on),
      advice: [...(advice === undefined ? [] : [advice]), ...rigAdvice(plan), ...(course.advice ?? [])],
    },
  };
}

/** Every hold with what can be done while it stands. */
const withMeanwhile = ({ tasks }: Procedure, phases: readonly Phase[]): readonly Phase[] =>
  phases.map((phase) => {
    const meanwhile = phase.kind === 'hold' ? tasks.find(({ holds = [] }) => holds.includes(phase.id))?.meanwhile : undefined;
    return meanwhile === undefined ? phase : { ...phase, meanwhile };
  });

/** Every part with its two figures. */
const seenBy = (plan: Sighted, parts: readonly PartGiven[]): readonly Part[] =>
  parts.flatMap((part) => {
    const found = sightOf(plan, part);
    if (found === undefined) return [];
    const { sight: _, ...seen } = found;
    return [seen];
  });

/** Thermometer and barometer, where they are named. */
const namedBy = ({ thermometer, barometer }: Weather): readonly AnyInstrument[] =>
  [thermometer, barometer].filter((one) => one !== undefined);

const namedIn = (weather: Weather | undefined): Weather | undefined =>
  weather?.thermometer === undefined && weather?.barometer === undefined ? undefined : weather;

/** What is known of the rig, where it was checked; it is soaped in the test all the same. */
function rigAdvice({ gauge, highest, unit }: Plan): readonly string[] {
  const { rigCheck } = gauge;
  if (rigCheck === undefined || rigCheck.what === 'leaks') return [];
  const { on, what, value } = rigCheck;
  const at = `${value} ${unitLabel(rigCheck.unit)}`;
  if (what === 'does not hold')
    return [`This gauge’s rig did not hold ${at} when it was checked on ${on}: mend it and check it again first.`];
  return compareQuantities(decimal(value), rigCheck.unit, decimal(highest), unit) < 0
    ? [
        `This gauge’s rig was checked on ${on} at ${at}, below the ${highest} ${unitLabel(unit)} of this test: check it again at this pressure.`,
      ]
    : [`This gauge’s rig held ${at} on ${on}. Its joints are soaped in the test all the same.`];
}

/** Under an own procedure the plan goes by that name, and says what it is a copy of. */
function named({ id, version, title, school }: Procedure, variant: Variant | undefined): Plan['procedure'] {
  if (variant === undefined) return { id, version, title, school };
  const { base: _, figures: __, ...own } = variant;
  return {
    id,
    version,
    title: own.title,
    school: `Own procedure, version ${own.version} (${own.reference}), from ${title}`,
    variant: own,
  };
}

/** The pictures that the run has places for: of each thing that an answer lists one of its own. */
const picturesOf = (evidence: Procedure['evidence'], answers: Answers): PlanShape['evidence'] =>
  evidence.flatMap(({ each, ...one }) =>
    each === undefined
      ? [one]
      : linesOf(answers[each.answer]).map((line, index) => ({
          id: `${one.id}-${index + 1}`,
          label: `${each.label}: ${line}`.slice(0, 200),
        })),
  );

/** What a plan carries where its procedure needs more than a gauge. */
const beside = ({ instruments, demands, demand, guard }: Course) => ({ guard, instruments, demands, demand });

/** Instruments that are missing, of another kind than their role, or impossible in themselves. */
function instrumentProblems(procedure: Procedure, { answers, gauge, instruments = {}, weather = {} }: PlanInput): readonly Problem[] {
  const problems: Problem[] = [];
  for (const { role, label, needed, orGauge, apart, quantity } of procedure.roles) {
    const chosen = instruments[role];
    if (chosen !== undefined && unitKind(chosen.unit) !== quantity)
      problems.push({
        code: 'instrument-kind',
        field: role,
        message: `${label}: ${chosen.name} shows ${unitLabel(chosen.unit)}, and a ${quantity} must be read.`,
      });
    else if (chosen === undefined && needed(answers) && orGauge !== true)
      problems.push({ code: 'instrument-missing', field: role, message: `Choose the ${label.toLowerCase()}.` });
    else if (apart === true && chosen !== undefined && chosen.id === gauge.id && !chosen.simulated)
      problems.push({
        code: 'instrument-twice',
        field: role,
        message: `${label}: ${chosen.name} is the gauge already, and both are read at the same time. Choose another, or test one after the other.`,
      });
  }
  for (const { name, readability, rangeLow, rangeHigh } of [gauge, ...Object.values(instruments), ...namedBy(weather)])
    if (compare(decimal(readability), decimal('0')) <= 0 || compare(decimal(rangeLow), decimal(rangeHigh)) >= 0)
      problems.push({
        code: 'instrument-range',
        field: 'gauge',
        message: `${name}: its step must be above zero and its range must have a top above its foot. Correct it under Instruments.`,
      });
  return problems;
}

/** What is wrong with each instrument for this plan; another than the gauge is named. */
const findingsOf = (plan: Plan, on: string): readonly GaugeFinding[] =>
  instrumentsOf(plan).flatMap(({ role, instrument }) => {
    const demand = demandOf(plan, role);
    if (demand === undefined) return [];
    const found = gaugeFindings(instrument, { ...demand, on });
    return role === undefined ? found : found.map((one) => ({ ...one, message: `${instrument.name}: ${one.message}` }));
  });
