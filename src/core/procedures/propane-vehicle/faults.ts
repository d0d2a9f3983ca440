import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-and-shut'],
  ['leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['lock-up-high', 'fail', 'lock-up-over'],
  ['lock-up-low', 'inconclusive', 'lock-up-low'],
  ['empty', 'inconclusive', 'no-supply'],
  ['valve-feeds', 'fail', 'valve-feeds'],
  ['masked-leak', 'inconclusive', 'valve-passes', 'trap'],
  ['warming', 'pass', 'tight-and-shut'],
  ['fitting', 'fail', 'bubbles-seen'],
  ['starved', 'inconclusive', 'pressure-off'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [[{ regulators: 'other' }, 'scope-pressure']];
