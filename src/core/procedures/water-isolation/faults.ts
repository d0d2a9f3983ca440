import type { Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-isolated'],
  ['leak', 'fail', 'fall'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['valve-passes', 'inconclusive', 'valve-passes', 'trap'],
  ['masked-leak', 'inconclusive', 'valve-passes', 'trap'],
  ['blind-gauge', 'inconclusive', 'gauge-blind', 'trap'],
  ['cistern', 'inconclusive', 'meter-moves'],
  ['heater', 'inconclusive', 'valve-passes'],
  ['water-drawn', 'pass', 'tight-isolated'],
];
