import type { Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'rig-held'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['gross-leak', 'fail', 'pressure-not-reached'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['hose', 'fail', 'rig-fell'],
  ['cap', 'inconclusive', 'cap-leaks', 'trap'],
];
