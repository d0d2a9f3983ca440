import type { Breach, Fault } from '../fault';

/** What a good technician concludes from each simulated fault; traps are marked. */
export const faults: readonly Fault[] = [
  ['sound', 'inconclusive', 'dye-not-drawn'],
  ['leak', 'fail', 'dye-drawn'],
  ['pressure-only', 'inconclusive', 'dye-not-drawn', 'trap'],
];

/** Answers outside its scope, each with the refusal that it meets. */
export const breaches: readonly Breach[] = [
  [{ lost: 'running' }, 'dye-pressure'],
  [{ above: 'above' }, 'dye-above'],
];
