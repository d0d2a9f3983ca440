import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight'],
  ['leak', 'inconclusive', 'still-relaxing'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['open-end', 'fail', 'pressure-not-reached'],
  ['long-relaxing', 'inconclusive', 'still-relaxing', 'trap'],
  ['soft-pipe', 'fail or inconclusive', 'fall or still-relaxing', 'trap'],
  ['sun', 'inconclusive', 'hold-rise'],
  ['gross-leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ loops: 'Hall\nhall' }, 'loop-twice'],
  [{ components: 'Flow meters 4bar' }, 'over-weakest'],
];
