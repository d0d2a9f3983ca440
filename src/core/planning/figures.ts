import type { Figure, Procedure, ResolvedFigure } from '../procedures/procedure';
import { bad, compare, decimal, good, type Problem, type Result, readDecimal } from '../quantities';

/** A firm's own, stricter figure with the code reference that it cites. */
export interface HouseRule {
  readonly procedure: string;
  readonly figure: string;
  readonly value: string;
  readonly reference: string;
}

/** A stricter figure that one job takes, and why. */
export type Stricter = Omit<HouseRule, 'procedure'>;

/** A firm's own procedure (DOMAIN 5.17): a copy of another with some of its figures changed, as published in one version. */
export interface Variant {
  readonly id: string;
  /** Procedure that it is a copy of. */
  readonly base: string;
  readonly title: string;
  readonly version: string;
  /** Code that it follows. */
  readonly reference: string;
  readonly figures: readonly { readonly figure: string; readonly value: string }[];
}

const stricterThan = ({ stricter }: Pick<Figure, 'stricter'>, one: string, other: string): boolean =>
  (stricter === 'higher' ? 1 : -1) * compare(decimal(one), decimal(other)) > 0;

/** Times are counted, never measured: a hold of 90.5 s could not be kept. */
const wholeTimes: Readonly<Record<string, string>> = { s: 'seconds', days: 'days', years: 'years' };

/** What is wrong with a value in a figure's place, whichever way it may be moved. */
function checkValue(figure: Figure, typed: string, what: string): Problem | undefined {
  const problem = (code: string, message: string): Problem => ({ code, message, field: 'value' });
  const value = readDecimal(typed);
  if (value === undefined || value.digits < 0n) return problem('value', `${what} must be a plain figure, such as 120.`);
  const wholeTime = wholeTimes[figure.unit];
  if (wholeTime !== undefined && value.scale > 0) return problem('value', `A time must be in whole ${wholeTime}.`);
  if (figure.bound !== undefined && stricterThan(figure, typed, figure.bound))
    return problem(
      'senseless',
      `${figure.label}: at ${typed} ${figure.unit} no test could ever pass; give at ${figure.stricter === 'lower' ? 'least' : 'most'} ${figure.bound} ${figure.unit}.`,
    );
  return undefined;
}

/** Checks a house rule against the procedure's figure: it may only be stricter (DOMAIN 4.10). */
export function checkHouseRule(procedure: Procedure, rule: HouseRule): Result<Figure> {
  const figure = procedure.figures.find((candidate) => candidate.id === rule.figure);
  if (figure === undefined) return bad('house-rule-unknown', `${procedure.title} has no figure “${rule.figure}”.`, 'figure');
  const wrong = checkValue(figure, rule.value, 'A house rule');
  if (wrong?.code === 'value') return bad('house-rule-value', wrong.message, 'value');
  if (stricterThan(figure, figure.value, rule.value))
    return bad(
      'house-rule-looser',
      `${figure.label}: the procedure asks for ${figure.value} ${figure.unit}; a house rule may only be ${figure.stricter}, not ${rule.value}.`,
      'value',
    );
  if (wrong !== undefined) return bad('house-rule-senseless', wrong.message, 'value');
  if (rule.reference.trim() === '') return bad('house-rule-reference', 'Name the code or the reason behind the house rule.', 'reference');
  return good(figure);
}

/**
 * Everything that is wrong with an own procedure: each figure must lie between the loosest that its procedure lets a firm
 * take and the strictest that still makes sense. The field of a figure's problem is the figure's id.
 */
export function checkVariant(procedure: Procedure, variant: Variant): readonly Problem[] {
  const problems: Problem[] = [];
  const say = (code: string, field: string, message: string) => problems.push({ code, field, message });
  if (variant.title.trim() === '') say('variant-title', 'title', 'Give your own procedure a title.');
  if (variant.reference.trim() === '') say('variant-reference', 'reference', 'Name the code that your own procedure follows.');
  const seen = new Set<string>();
  for (const { figure: id, value } of variant.figures) {
    const figure = procedure.figures.find((candidate) => candidate.id === id);
    if (figure === undefined) {
      say('variant-unknown', id, `${procedure.title} has no figure “${id}”.`);
      continue;
    }
    if (seen.has(id)) say('variant-twice', id, `${figure.label} is given twice.`);
    seen.add(id);
    const wrong = checkValue(figure, value, `${figure.label}: it`);
    const loosest = figure.loosest ?? figure.value;
    if (wrong !== undefined) say(`variant-${wrong.code}`, id, wrong.message);
    else if (stricterThan(figure, loosest, value))
      say(
        'variant-looser',
        id,
        `${figure.label}: ${value} ${figure.unit} is looser than is safe; give ${figure.stricter === 'higher' ? 'at least' : 'at most'} ${loosest} ${figure.unit}.`,
      );
  }
  return problems;
}

/**
 * Every figure of a procedure with the firm's in its place, and what is wrong with the firm's. A house rule binds an own
 * procedure too: the stricter of the two is taken.
 */
export function resolveFigures(
  procedure: Procedure,
  rules: readonly HouseRule[],
  variant?: Variant,
  stricter: readonly Stricter[] = [],
): { figures: ResolvedFigure[]; problems: Problem[] } {
  const problems: Problem[] = variant === undefined ? [] : [...checkVariant(procedure, variant)];
  if (variant !== undefined && variant.base !== procedure.id)
    problems.push({ code: 'variant-base', message: `“${variant.title}” is no copy of ${procedure.title}.` });
  const house = new Map<string, HouseRule>();
  const job = new Map<string, HouseRule>();
  for (const rule of rules.filter((candidate) => candidate.procedure === procedure.id)) {
    const checked = checkHouseRule(procedure, rule);
    if (checked.ok) house.set(rule.figure, rule);
    else problems.push(checked.problem);
  }
  for (const one of stricter) {
    const rule = { ...one, procedure: procedure.id };
    const checked = checkHouseRule(procedure, rule);
    if (checked.ok) job.set(rule.figure, rule);
    else problems.push(checked.problem);
  }
  if (problems.length > 0) return { figures: [], problems };
  const figures = procedure.figures.map((figure): ResolvedFigure => {
    const { id, label, value, unit } = figure;
    const own = variant?.figures.find((one) => one.figure === id);
    const rule = house.get(id);
    const asked = job.get(id);
    const resolved: ResolvedFigure =
      rule !== undefined && (own === undefined || !stricterThan(figure, own.value, rule.value))
        ? { id, label, value: rule.value, unit, procedureValue: value, source: 'house rule', reference: rule.reference }
        : own !== undefined && variant !== undefined
          ? { id, label, value: own.value, unit, procedureValue: value, source: 'own procedure', reference: variant.reference }
          : { id, label, value, unit, procedureValue: value, source: 'procedure' };
    // What a job asks for binds only where it is stricter than all that stands already.
    return asked !== undefined && stricterThan(figure, asked.value, resolved.value)
      ? { ...resolved, value: asked.value, source: 'this job', reference: asked.reference }
      : resolved;
  });
  return { figures, problems };
}
