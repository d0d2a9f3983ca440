import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight'],
  ['pipework-leak', 'fail', 'fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['hidden-by-warming', 'inconclusive', 'correction-unsure', 'trap'],
  ['cooling', 'pass', 'tight'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['gross-leak', 'fail', 'pressure-not-reached'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['blind-gauge', 'inconclusive', 'gauge-blind', 'trap'],
  ['seen-inside', 'fail', 'fall'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ air: 'oily' }, 'air-oily'],
  [{ rating: '19' }, 'rating-low'],
  [{ components: 'Filter 30psi' }, 'over-weakest'],
];
