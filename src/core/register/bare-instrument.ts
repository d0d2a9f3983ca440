import type { AnyInstrument } from '../sizing';
import type { KnownInstrument } from './along';

/** An instrument as a plan freezes it: without what only the register wants of it. */
export function bareInstrument(known: KnownInstrument): AnyInstrument {
  const { version: _, putAway: __, calibrationNeeded: ___, calibrations: ____, ...bare } = known;
  return bare;
}
