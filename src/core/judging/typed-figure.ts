import { compare, type Decimal, decimal, negate, readKeypad, toText } from '../quantities';
import { showAt } from '../quantities/display';
import type { Instrument } from '../sizing/gauge';
import { figureFault } from './readings';

/** A figure as it was typed for an instrument: what it is read as, or why it does not count. */
export type TypedFigure = { readonly shown: string; readonly fault?: undefined } | { readonly shown?: string; readonly fault: string };

const nought = decimal('0');

/** An instrument that only reads below its mark, as a rule from the rim of a riser: its figures are typed without a sign. */
export const readsBelow = ({ rangeHigh, rangeLow }: Pick<Instrument, 'rangeHigh' | 'rangeLow'>): boolean =>
  compare(decimal(rangeHigh), nought) <= 0 && compare(decimal(rangeLow), nought) < 0;

/**
 * Reads digits typed for an instrument. Trailing digits are added as the instrument shows them; more than it can show are
 * kept, so that the fault says so: nothing is rounded away. @param plausible largest figure meant literally; the range's end when left out
 */
export function typedFigure(text: string, instrument: Instrument, plausible: string = instrument.rangeHigh): TypedFigure {
  const isBelow = readsBelow(instrument);
  const read: Decimal | undefined = readKeypad(
    text,
    instrument.readability,
    isBelow ? toText(negate(decimal(instrument.rangeLow))) : plausible,
  );
  const value = read !== undefined && isBelow && compare(read, nought) > 0 ? negate(read) : read;
  if (value === undefined) return { fault: 'type digits and a point, like 20.5' };
  const shown = value.scale <= (instrument.readability.split('.')[1]?.length ?? 0) ? showAt(value, instrument.readability) : toText(value);
  const fault = figureFault(instrument, shown, instrument.unit);
  return fault === undefined ? { shown } : { shown, fault };
}
