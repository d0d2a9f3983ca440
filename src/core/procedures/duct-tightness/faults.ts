import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'duct-within'],
  ['leaky', 'fail', 'duct-over'],
  ['within-rig', 'inconclusive', 'duct-within-rig', 'trap'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['hose-off', 'invalid', 'exponent-impossible', 'trap'],
  ['taped-register', 'invalid', 'exponent-impossible', 'trap'],
  ['below-range', 'inconclusive', 'flow-below-range'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ 'baseline-date': '' }, 'baseline-undated'],
  [{ rule: 'own' }, 'own-limit-missing'],
];
