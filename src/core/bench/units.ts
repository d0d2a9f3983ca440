import { fromSi, type Unit, unitLabel, unitsOf } from '../quantities';
import { type Found, figure } from './calculation';

/** Units of what is no quantity of the trade's gauges, with their size in SI. */
const others = {
  energy: { J: 1, kJ: 1000, ft·lbf: 1.3558179483314 },
  force: { N: 1, kN: 1000, lbf: 4.4482216152605 },
  number: {},
} as const;

/** Units that a result can be shown in, as value and label; none for a plain number. */
export function unitsFor({ quantity }: Pick<Found, 'quantity'>): readonly { readonly unit: string; readonly label: string }[] {
  if (quantity === 'energy' || quantity === 'force' || quantity === 'number')
    return Object.keys(others[quantity]).map((unit) => ({ unit, label: unit }));
  return unitsOf(quantity).map((unit) => ({ unit, label: unitLabel(unit) }));
}

/** Unit that a result is shown in at first: its own, or for energy and force the one that gives a short figure. */
export function firstUnit({ quantity, unit, si }: Found): string {
  if (quantity === 'energy') return Math.abs(si) >= 1000 ? 'kJ' : 'J';
  if (quantity === 'force') return Math.abs(si) >= 1000 ? 'kN' : 'N';
  return unit;
}

/** A result's figure in one of its units. */
export function figureIn({ quantity, si }: Found, unit: string): string {
  if (quantity === 'number') return figure(si);
  if (quantity === 'energy' || quantity === 'force') return figure(si / ((others[quantity] as Record<string, number>)[unit] ?? 1));
  return figure(fromSi(si, unit as Unit));
}
