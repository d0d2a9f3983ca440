import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'level-held'],
  ['leak', 'fail', 'level-fell'],
  ['slow-leak', 'fail', 'level-fell'],
  ['passing-ball', 'invalid', 'ball-passes', 'trap'],
  ['soft-ball', 'inconclusive', 'ball-lost'],
  ['ball-flat', 'inconclusive', 'pressure-off'],
  ['wetting', 'pass', 'level-held'],
  ['water-used', 'fail', 'level-fell'],
  ['unzeroed', 'invalid', 'not-zeroed'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [[{ opening: 'some' }, 'scope-opening']];
