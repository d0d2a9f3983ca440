import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-turn-on'],
  ['leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['lock-up-high', 'fail', 'lock-up-over'],
  ['lock-up-low', 'inconclusive', 'lock-up-low'],
  ['creep', 'fail', 'regulator-creeps'],
  ['inlet-seeps', 'fail', 'inlet-seeps'],
  ['masked-leak', 'fail', 'inlet-seeps', 'trap'],
  ['hidden-by-warming', 'fail or inconclusive', 'correction-unsure or corrected-fall', 'trap'],
  ['large-leak', 'fail', 'dial-leak'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [[{ fuel: 'propane' }, 'scope-propane']];
