import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'make-up-within'],
  ['leak', 'fail', 'make-up-over'],
  ['trapped-air', 'fail', 'make-up-over', 'trap'],
  ['seen', 'fail', 'leak-on-walk'],
  ['blind-gauge', 'inconclusive', 'gauge-blind', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['open-end', 'fail', 'pressure-not-reached'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ material: 'PE' }, 'main-creeps'],
  [{ 'large-fall': 'engineer' }, 'criterion-missing'],
];
