import type { Figure, Procedure, ResolvedFigure } from '../procedures/procedure';
import { bad, compare, decimal, good, type Problem, type Result, readDecimal } from '../quantities';

/** A firm's own, stricter figure with the code reference that it cites. */
export interface HouseRule {
  readonly procedure: string;
  readonly figure: string;
  readonly value: string;
  readonly reference: string;
}

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
  if (figure.bound !== undefined && (figure.stricter === 'lower' ? -1 : 1) * compare(value, decimal(figure.bound)) > 0)
    return bad(
      'house-rule-senseless',
      `${figure.label}: at ${rule.value} ${figure.unit} no test could ever pass; give at ${figure.stricter === 'lower' ? 'least' : 'most'} ${figure.bound} ${figure.unit}.`,
      'value',
    );
  if (rule.reference.trim() === '') return bad('house-rule-reference', 'Name the code or the reason behind the house rule.', 'reference');
  return good(figure);
}

/** Every figure of a procedure with the firm's stricter one in its place, and what is wrong with the firm's. */
export function resolveFigures(procedure: Procedure, rules: readonly HouseRule[]): { figures: ResolvedFigure[]; problems: Problem[] } {
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
