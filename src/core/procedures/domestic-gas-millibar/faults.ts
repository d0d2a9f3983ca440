import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight'],
  ['small-leak', 'pass with permitted drop', 'permitted-drop'],
  ['pipework-leak', 'fail', 'pipework-fall'],
  ['gross-leak', 'fail', 'fall-over-permitted'],
  ['let-by', 'fail', 'let-by-confirmed'],
  ['masked-leak', 'fail', 'let-by-repeated', 'trap'],
  ['warming', 'inconclusive', 'hold-rise', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['sticky', 'invalid', 'not-zeroed'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ fuel: 'lpg' }, 'scope-lpg'],
  [{ supply: '76' }, 'scope-supply'],
  [{ working: '22' }, 'scope-working'],
  [{ pipe: '>35' }, 'scope-pipe'],
];
