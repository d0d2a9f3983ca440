import { procedureById } from '../procedures';
import type { Boundary, Conclusion, Phase } from '../procedures/phases';
import type { Answers, Figure, Procedure, ResolvedFigure } from '../procedures/procedure';
import { bad, compare, decimal, good, type PressureUnit, type Problem, parseQuantity, type Result, readDecimal } from '../quantities';
import { canonical } from '../record/canonical';
import { sha256 } from '../record/sha256';
import { type Gauge, type GaugeFinding, gaugeFindings } from './gauge';
import { parsePipeSchedule, parseVolume, systemVolume, type VolumeSum } from './pipe-volume';
import { sightOf } from './sight';

/** A firm's own, stricter figure with the code reference that it cites. */
export interface HouseRule {
  readonly procedure: string;
  readonly figure: string;
  readonly value: string;
  readonly reference: string;
}

export interface PlanInput {
  readonly procedure: string;
  readonly answers: Answers;
  /** Pipe lines as typed, one a line; left empty when `statedVolume` is given. */
  readonly pipes: string;
  /** Volume as typed, where the lengths are not known; taken to include pipe and fittings, not the meter. */
  readonly statedVolume: string;
  readonly gauge: Gauge;
  readonly houseRules: readonly HouseRule[];
  /** Local date of the test, YYYY-MM-DD. */
  readonly on: string;
}

/** What one job's test will do: every figure resolved, nothing left to look up later. Pressures are in `unit`. */
export interface Plan {
  readonly schema: 1;
  readonly procedure: { readonly id: string; readonly version: string; readonly title: string; readonly school: string };
  readonly answers: Answers;
  readonly answerLabels: readonly { readonly label: string; readonly value: string }[];
  readonly figures: readonly ResolvedFigure[];
  readonly unit: PressureUnit;
  readonly medium: string;
  readonly gauge: Gauge;
  readonly pipes: readonly string[];
  /** `typed` is the stated volume as written; empty where the schedule was summed. */
  readonly volume: { readonly litres: string; readonly how: 'schedule' | 'stated'; readonly typed: string };
  readonly phases: readonly Phase[];
  readonly conclusions: readonly Conclusion[];
  readonly boundaries: readonly Boundary[];
  readonly cautions: Readonly<Record<string, string>>;
  readonly limit: string;
  readonly highest: string;
  readonly judgedBy: string;
  readonly derivation: readonly string[];
  readonly notTested: readonly string[];
  /** Leak that the judging hold cannot tell from none, L/h at reference, with its working. */
  readonly sight: { readonly litresPerHour: string; readonly working: string };
  readonly hash: string;
}

export interface Planned {
  readonly plan: Plan;
  readonly volume: VolumeSum;
  /** Said on the sheet; nothing here stops the test, but an unsuitable gauge cannot give a pass. */
  readonly gaugeFindings: readonly GaugeFinding[];
  readonly advice: readonly string[];
}

export type PlanResult = { readonly ok: true; readonly value: Planned } | { readonly ok: false; readonly problems: readonly Problem[] };

/** Rig hose and tee, litres; small beside any installation, stated in the sum. */
const rigHoseL = 0.1;

/** Checks a house rule against the procedure's figure: it may only be stricter (DOMAIN 4.10). */
export function checkHouseRule(procedure: Procedure, rule: HouseRule): Result<Figure> {
  const figure = procedure.figures.find((candidate) => candidate.id === rule.figure);
  if (figure === undefined) return bad('house-rule-unknown', `${procedure.title} has no figure “${rule.figure}”.`, 'figure');
  const value = readDecimal(rule.value);
  if (value === undefined || value.digits < 0n)
    return bad('house-rule-value', 'A house rule must be a plain figure, such as 120.', 'value');
  if (figure.unit === 's' && value.scale > 0) return bad('house-rule-value', 'A time must be in whole seconds.', 'value');
  const direction = compare(value, decimal(figure.value));
  const looser = figure.stricter === 'higher' ? direction < 0 : direction > 0;
  if (looser)
    return bad(
      'house-rule-looser',
      `${figure.label}: the procedure asks for ${figure.value} ${figure.unit}; a house rule may only be ${figure.stricter}, not ${rule.value}.`,
      'value',
    );
  if (figure.least !== undefined && compare(value, decimal(figure.least)) < 0)
    return bad(
      'house-rule-senseless',
      `${figure.label}: at ${rule.value} ${figure.unit} no test could ever pass; give at least ${figure.least} ${figure.unit}.`,
      'value',
    );
  if (rule.reference.trim() === '') return bad('house-rule-reference', 'Name the code or the reason behind the house rule.', 'reference');
  return good(figure);
}

function resolveFigures(procedure: Procedure, rules: readonly HouseRule[]): { figures: ResolvedFigure[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const own = new Map<string, HouseRule>();
  for (const rule of rules.filter((candidate) => candidate.procedure === procedure.id)) {
    const checked = checkHouseRule(procedure, rule);
    if (checked.ok) own.set(rule.figure, rule);
    else problems.push(checked.problem);
  }
  const figures = procedure.figures.map(({ id, label, value, unit }): ResolvedFigure => {
    const rule = own.get(id);
    return rule === undefined
      ? { id, label, value, unit, procedureValue: value, source: 'procedure' }
      : { id, label, value: rule.value, unit, procedureValue: value, source: 'house rule', reference: rule.reference };
  });
  return { figures, problems };
}

function resolveVolume(procedure: Procedure, input: PlanInput): { value: VolumeSum; how: 'schedule' | 'stated'; problems: Problem[] } {
  const meterL = procedure.meterLitres(input.answers);
  const nothing: VolumeSum = { pipesL: 0, fittingsL: 0, meterL, rigHoseL, totalL: 0, largestNominalMm: 0 };
  if (input.statedVolume.trim() !== '') {
    const litres = parseVolume(input.statedVolume);
    return litres.ok
      ? { value: { ...nothing, pipesL: litres.value, totalL: litres.value + meterL + rigHoseL }, how: 'stated', problems: [] }
      : { value: nothing, how: 'stated', problems: [litres.problem] };
  }
  const { pipes, problems } = parsePipeSchedule(input.pipes);
  if (pipes.length === 0 && problems.length === 0)
    return {
      value: nothing,
      how: 'schedule',
      problems: [{ code: 'volume-missing', field: 'volume', message: 'Type the pipe lines, like 22cu 6.5, or state the volume.' }],
    };
  const sum = systemVolume({ pipes, meterL, rigHoseL });
  return sum.ok
    ? { value: sum.value, how: 'schedule', problems: [...problems] }
    : { value: nothing, how: 'schedule', problems: [...problems, sum.problem] };
}

function checkAnswers(procedure: Procedure, answers: Answers): readonly Problem[] {
  return procedure.parameters.flatMap((parameter): Problem[] => {
    const answer = answers[parameter.id];
    const refuse = (message: string): Problem[] => [{ code: 'answer', field: parameter.id, message: `${parameter.label}: ${message}` }];
    if (answer === undefined || answer.trim() === '') return refuse('give an answer.');
    if (parameter.kind === 'choice')
      return parameter.options.some(({ value }) => value === answer) ? [] : refuse('choose one of the answers offered.');
    const typed = parseQuantity(answer, 'pressure', parameter.unit);
    if (!typed.ok) return refuse(typed.problem.message);
    return typed.value.value.digits <= 0n ? refuse('a pressure here must be above zero.') : [];
  });
}

const label = (procedure: Procedure, id: string, value: string): { label: string; value: string } => {
  const parameter = procedure.parameters.find((candidate) => candidate.id === id);
  const option = parameter?.kind === 'choice' ? parameter.options.find((candidate) => candidate.value === value)?.label : undefined;
  const unit = parameter?.kind === 'pressure' && readDecimal(value.replace(',', '.')) !== undefined ? ` ${parameter.unit}` : '';
  return { label: parameter?.label ?? id, value: option ?? value + unit };
};

/** The hash that names a plan: SHA-256 of its canonical form without the hash itself. */
export const planHash = ({ hash: _, ...rest }: Plan | (Omit<Plan, 'hash'> & { hash?: string })): string => sha256(canonical(rest));

/** The inputs that a plan was made from; planning them again must give the same plan. */
export const inputOf = (plan: Plan, on: string): PlanInput => ({
  procedure: plan.procedure.id,
  answers: plan.answers,
  pipes: plan.pipes.join('\n'),
  statedVolume: plan.volume.typed,
  gauge: plan.gauge,
  houseRules: plan.figures
    .filter(({ source }) => source === 'house rule')
    .map(({ id, value, reference = '' }) => ({ procedure: plan.procedure.id, figure: id, value, reference })),
  on,
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

/** Works a job's plan out. Every problem at once, so that a form can show each beside its field. */
export function planTest(input: PlanInput): PlanResult {
  const procedure = procedureById(input.procedure);
  if (procedure === undefined)
    return { ok: false, problems: [{ code: 'procedure-unknown', message: `There is no procedure “${input.procedure}”.` }] };
  const answerProblems = checkAnswers(procedure, input.answers);
  const { figures, problems: ruleProblems } = resolveFigures(procedure, input.houseRules);
  const { value: volume, how, problems: volumeProblems } = resolveVolume(procedure, input);
  const early = [...answerProblems, ...ruleProblems, ...volumeProblems];
  if (early.length > 0) return { ok: false, problems: early };
  const scope = procedure.outOfScope(input.answers, volume);
  if (scope.length > 0) return { ok: false, problems: scope };

  const figure = (id: string): string => {
    const found = figures.find((candidate) => candidate.id === id);
    if (found === undefined) throw new Error(`${procedure.id} asks for a figure that it does not list: ${id}`);
    return found.value;
  };
  const { judgedBy, ...course } = procedure.course({ answers: input.answers, figure, gauge: input.gauge, volume });
  const contradiction = bandProblem(course.phases, course.unit);
  if (contradiction !== undefined) return { ok: false, problems: [contradiction] };
  const sight = sightOf(course.phases, judgedBy, course.unit, volume.totalL);
  if (!sight.ok) return { ok: false, problems: [sight.problem] };
  const body: Omit<Plan, 'hash'> = {
    schema: 1,
    procedure: { id: procedure.id, version: procedure.version, title: procedure.title, school: procedure.school },
    answers: input.answers,
    answerLabels: procedure.parameters.map(({ id }) => label(procedure, id, input.answers[id])),
    figures,
    unit: course.unit,
    medium: procedure.medium,
    gauge: input.gauge,
    pipes:
      how === 'schedule'
        ? input.pipes
            .split('\n')
            .map((line) => line.trim())
            .filter((line) => line !== '')
        : [],
    volume: { litres: volume.totalL.toFixed(2), how, typed: how === 'stated' ? input.statedVolume : '' },
    phases: course.phases,
    conclusions: course.conclusions,
    boundaries: course.boundaries,
    cautions: procedure.cautions,
    limit: course.limit,
    highest: course.highest,
    judgedBy,
    derivation: course.derivation,
    notTested: course.notTested,
    sight: sight.value,
  };
  const advice = procedure.gaugeAdvice(input.gauge);
  return {
    ok: true,
    value: {
      plan: { ...body, hash: planHash(body) },
      volume,
      gaugeFindings: gaugeFindings(input.gauge, { highest: course.highest, limit: course.limit, unit: course.unit, on: input.on }),
      advice: advice === undefined ? [] : [advice],
    },
  };
}
