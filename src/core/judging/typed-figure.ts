import { type Decimal, readKeypad, toText } from '../quantities';
import { showAt } from '../quantities/display';
import type { Instrument } from '../sizing/gauge';
import { figureFault } from './readings';

/** A figure as it was typed for an instrument: what it is read as, or why it does not count. */
export type TypedFigure = { readonly shown: string; readonly fault?: undefined } | { readonly shown?: string; readonly fault: string };

/**
 * Reads digits typed for an instrument. Trailing digits are added as the instrument shows them; more than it can show are
 * kept, so that the fault says so: nothing is rounded away. @param plausible largest figure meant literally; the range's end when left out
 */
export function typedFigure(text: string, instrument: Instrument, plausible: string = instrument.rangeHigh): TypedFigure {
  const value: Decimal | undefined = readKeypad(text, instrument.readability, plausible);
  if (value === undefined) return { fault: 'type digits and a point, like 20.5' };
  const shown = value.scale <= (instrument.readability.split('.')[1]?.length ?? 0) ? showAt(value, instrument.readability) : toText(value);
  const fault = figureFault(instrument, shown, instrument.unit);
  return fault === undefined ? { shown } : { shown, fault };
}
