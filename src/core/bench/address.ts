import type { Answers } from '../procedures/procedure';
import { isAsked } from '../procedures/procedure';
import { type Calculation, startOf } from './calculation';

/** Key of an address that names the calculation; no question may be called so. */
export const calculationKey = 'sum';

/** A calculation with its answers as the query of an address: what differs from its start, and only what is asked. */
export function queryOf(calculation: Calculation, answers: Answers): string {
  const start = startOf(calculation);
  const all = { ...start, ...answers };
  const parts = calculation.parameters
    .filter((parameter) => isAsked(calculation, parameter, all) && all[parameter.id] !== start[parameter.id])
    .map(({ id }) => `${encodeURIComponent(id)}=${encodeURIComponent(all[id])}`);
  return [`${calculationKey}=${calculation.id}`, ...parts].join('&');
}

/** The answers that an address holds; what it does not name, or names wrongly, starts as usual. */
export function answersIn(calculation: Calculation, query: readonly (readonly [string, string])[]): Answers {
  const given = Object.fromEntries(query);
  return Object.fromEntries(
    calculation.parameters.map(({ id, usual: value }) => [id, Object.hasOwn(given, id) ? given[id].slice(0, 4000) : value]),
  );
}
