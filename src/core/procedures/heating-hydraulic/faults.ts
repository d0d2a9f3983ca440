import type { Breach, Fault } from '../fault';

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

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ test: '2.9' }, 'test-low'],
  [{ test: '4.1' }, 'test-over-twice'],
  [{ components: 'Boiler 2.5bar' }, 'over-weakest'],
];
