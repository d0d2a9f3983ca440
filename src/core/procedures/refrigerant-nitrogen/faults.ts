import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-strength'],
  ['pipework-leak', 'fail', 'strength-fall'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['gross-leak', 'fail', 'pressure-not-reached'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['slow-leak', 'fail', 'fall or strength-fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['hidden-by-warming', 'fail', 'corrected-fall or corrected', 'trap'],
  ['cooling', 'inconclusive', 'correction-unsure'],
  ['blind-gauge', 'inconclusive', 'gauge-blind', 'trap'],
  ['sides-pass', 'inconclusive', 'sides-not-apart', 'trap'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ gas: 'air' }, 'medium-air'],
  [{ gas: 'oxygen' }, 'medium-oxygen'],
  [{ regulator: '30' }, 'regulator-short'],
  [{ 'low-ps': '' }, 'blend-nameplate'],
];
