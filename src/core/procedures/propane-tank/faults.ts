import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-pair'],
  ['leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['small-leak', 'fail', 'fall', 'trap'],
  ['tank-passes', 'inconclusive', 'hold-rise'],
  ['masked-leak', 'inconclusive', 'stopped', 'trap'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [[{ count: '2', appliances: 'Cooker\nHeater\nBoiler' }, 'appliances-differ']];
