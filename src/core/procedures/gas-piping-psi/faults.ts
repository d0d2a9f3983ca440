import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'pass', 'tight-both-stages'],
  ['pipework-leak', 'fail', 'fall'],
  ['control-leak', 'fail', 'controls-fall'],
  ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ['hidden-by-warming', 'fail', 'corrected-fall', 'trap'],
  ['cooling', 'inconclusive', 'correction-unsure'],
  ['weather', 'fail', 'corrected-fall', 'trap'],
  ['sticky', 'invalid', 'not-zeroed'],
  ['gross-leak', 'fail', 'pressure-not-reached'],
  ['unzeroed', 'invalid', 'not-zeroed'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ working: '2.1' }, 'scope-working'],
  [{ medium: 'oxygen' }, 'medium-oxygen'],
  [{ medium: 'fuel gas' }, 'medium-fuel'],
];
