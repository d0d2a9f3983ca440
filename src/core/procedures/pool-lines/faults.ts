import type { Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight'],
  ['leak', 'fail', 'falls-thrice'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['passing-plug', 'inconclusive', 'rig-leaks', 'trap'],
  ['broken-line', 'fail', 'pressure-not-reached'],
  ['fast-rise', 'fail', 'pressure-not-reached'],
  ['trapped-air', 'fail', 'falls-thrice', 'trap'],
];
