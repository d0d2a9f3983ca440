import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'rate-unrestricted'],
  ['unzeroed', 'invalid', 'not-zeroed'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['slight', 'pass', 'rate-unrestricted'],
  ['near-limit', 'restricted', 'rate-reduced', 'trap'],
  ['reduced', 'restricted', 'rate-reduced'],
  ['large-leak', 'fail', 'rate-shut-down'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['hidden-by-weather', 'restricted', 'rate-reduced', 'trap'],
  ['open-end', 'fail', 'pressure-not-reached'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ medium: 'oxygen' }, 'medium-oxygen'],
  [{ work: 'new', medium: 'gas' }, 'medium-fuel'],
  [{ level: 'above', standing: '10' }, 'standing-below'],
];
