import type { Breach, Fault } from '../fault';

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

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [[{ medium: 'air' }, 'medium-air']];
