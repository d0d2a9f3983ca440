import type { Unit, UnitKind } from '../quantities';
import type { Parameter } from './procedure';

/** Short ways of writing the questions of a procedure or a calculation. */

/** A question whose id is known. */
type Asked<I extends string, K extends Parameter['kind']> = Extract<Parameter, { kind: K }> & { readonly id: I };

type More = { readonly askedFor?: Parameter['askedFor'] };

/** A quantity; its bounds are in its unit, ends included. */
export const askQuantity = <const I extends string>(
  id: I,
  label: string,
  quantity: UnitKind,
  unit: Unit,
  value: string,
  [least, most]: readonly [string, string],
  help = '',
  more: More & { readonly optional?: boolean } = {},
): Asked<I, 'quantity'> => ({ kind: 'quantity', id, label, quantity, unit, usual: value, least, most, help, ...more });

/** A choice; options are value and label, or a value that is its own label. The first is the usual one. */
export const askChoice = <const I extends string>(
  id: I,
  label: string,
  options: readonly (string | readonly [value: string, label: string])[],
  help = '',
  more: More & { readonly usual?: string } = {},
): Asked<I, 'choice'> => {
  const all = options.map((option) =>
    typeof option === 'string' ? { value: option, label: option } : { value: option[0], label: option[1] },
  );
  return { kind: 'choice', id, label, help, options: all, usual: all[0].value, ...more };
};

/** Words. */
export const askText = <const I extends string>(
  id: I,
  label: string,
  help: string,
  optional: boolean,
  more: More = {},
): Asked<I, 'text'> => ({
  kind: 'text',
  id,
  label,
  help,
  usual: '',
  optional,
  ...more,
});
