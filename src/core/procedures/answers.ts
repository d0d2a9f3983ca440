import { fromSi, type Problem, parseQuantity, readDecimal, toNumber, toSi, toText, type Unit, unitLabel } from '../quantities';
import { parseComponents } from '../sizing/components';
import type { PipeRun } from '../sizing/pipe-volume';
import { pipeOfRuns } from '../sizing/water-hold';
import { type Answers, isAsked, type Parameter } from './procedure';

/** Whatever asks questions: a procedure, or a calculation on Bench. */
export interface Questions<L extends readonly Parameter[] = readonly Parameter[]> {
  readonly parameters: L;
}

type IdOf<L extends readonly Parameter[]> = L[number]['id'];

/** Why an answer cannot be taken, each beside its question. */
export function checkAnswers(procedure: Questions, answers: Answers): readonly Problem[] {
  return procedure.parameters
    .filter((parameter) => isAsked(procedure, parameter, answers))
    .flatMap((parameter): readonly Problem[] => {
      const answer = answers[parameter.id]?.trim() ?? '';
      const refuse: Refuse = (code, message) => [{ code, field: parameter.id, message: `${parameter.label}: ${message}` }];
      const optional = parameter.kind === 'components' || ('optional' in parameter && parameter.optional === true);
      if (answer === '') return optional ? [] : refuse('answer-missing', 'give an answer.');
      switch (parameter.kind) {
        case 'choice':
          return parameter.options.some(({ value }) => value === answer)
            ? []
            : refuse('answer-unknown', 'choose one of the answers offered.');
        case 'components':
          return parseComponents(answer).problems.map((problem) => ({ ...problem, field: parameter.id }));
        case 'quantity':
          return checkQuantity(parameter, answer, refuse);
        default:
          return [];
      }
    });
}

type Refuse = (code: string, message: string) => readonly Problem[];

function checkQuantity(
  { quantity, unit, least, most }: Extract<Parameter, { kind: 'quantity' }>,
  answer: string,
  refuse: Refuse,
): readonly Problem[] {
  const typed = parseQuantity(answer, quantity, unit);
  if (!typed.ok) return refuse(typed.problem.code, typed.problem.message);
  if (quantity === 'count' && typed.value.value.scale > 0) return refuse('not-whole', 'give a whole number.');
  // In the unit that was typed, so that the sentence speaks of what stands in the field.
  const own = typed.value.unit;
  const bound = (text: string): number => fromSi(toSi(Number(text), unit), own);
  const value = toNumber(typed.value.value);
  // A billionth of the bound itself takes back what a conversion loses at the very end of the range.
  const [low, high] = [bound(least), bound(most)];
  if (value >= low - 1e-9 * Math.abs(low) && value <= high + 1e-9 * Math.abs(high)) return [];
  const shown = (text: string): string => (own === unit ? text : String(Number(bound(text).toPrecision(4))));
  return refuse(
    'out-of-range',
    Number(least) >= 0 && value < 0
      ? Number(least) > 0
        ? 'it must be above zero.'
        : 'it cannot be below zero.'
      : `it must lie between ${shown(least)} and ${shown(most)} ${unitLabel(own)}; check the figure and its unit.`,
  );
}

/** An answer's quantity in SI; the caller has checked the answers. @throws RangeError for an answer that is none */
export function quantityIn<const L extends readonly Parameter[]>(procedure: Questions<L>, answers: Answers, id: NoInfer<IdOf<L>>): number {
  const parameter = procedure.parameters.find((candidate) => candidate.id === id);
  if (parameter?.kind !== 'quantity') throw new RangeError(`no quantity is asked as ${id}`);
  const typed = parseQuantity(answers[id] ?? '', parameter.quantity, parameter.unit);
  if (!typed.ok) throw new RangeError(typed.problem.message);
  return toSi(toNumber(typed.value.value), typed.value.unit);
}

/** An answer's quantity in one of its units, or undefined where an optional one was left out. */
export const optionalIn = <const L extends readonly Parameter[]>(
  procedure: Questions<L>,
  answers: Answers,
  id: NoInfer<IdOf<L>>,
  unit: Unit,
): number | undefined => ((answers[id] ?? '').trim() === '' ? undefined : fromSi(quantityIn(procedure, answers, id), unit));

/** An answer as people read it: the option's words, or the figure with its unit. */
export function answerLabel(procedure: Questions, id: string, value: string): { readonly label: string; readonly value: string } {
  const parameter = procedure.parameters.find((candidate) => candidate.id === id);
  const option = parameter?.kind === 'choice' ? parameter.options.find((candidate) => candidate.value === value)?.label : undefined;
  const unit =
    parameter?.kind === 'quantity' && readDecimal(value.replace(',', '.')) !== undefined ? ` ${unitLabel(parameter.unit)}`.trimEnd() : '';
  return { label: parameter?.label ?? id, value: option ?? value + unit };
}

/** A quantity exactly as it was typed: its figure and its unit, the field's where none was written. @throws RangeError where it was not checked before */
export function typedIn<const L extends readonly Parameter[]>(
  procedure: Questions<L>,
  answers: Answers,
  id: NoInfer<IdOf<L>>,
): { readonly value: string; readonly unit: Unit } {
  const parameter = procedure.parameters.find((one) => one.id === id);
  if (parameter?.kind !== 'quantity') throw new RangeError(`${id} is no quantity`);
  const typed = parseQuantity(answers[id] ?? '', parameter.quantity, parameter.unit);
  if (!typed.ok) throw new RangeError(`${id} was not checked`);
  return { value: toText(typed.value.value), unit: typed.value.unit };
}

/** The answer to which pipe a water system has, where its schedule tells. */
export function pipeFromRuns(_: unknown, runs: readonly PipeRun[]): Answers {
  const pipe = pipeOfRuns(runs);
  return pipe === undefined ? {} : { pipe };
}
