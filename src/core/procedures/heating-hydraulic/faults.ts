import type { Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight'],
  ['leak', 'inconclusive', 'still-relaxing'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['open-end', 'fail', 'pressure-not-reached'],
  ['gross-leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['trapped-air', 'inconclusive', 'air-too-much', 'trap'],
  ['soft-pipe', 'inconclusive', 'still-relaxing', 'trap'],
];
