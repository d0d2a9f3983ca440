import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'rig-leak',
  answers: {},
  pipes: '12bore 14',
  gauge: simulatedGauge({ unit: 'psi', readability: '0.5', rangeLow: '0', rangeHigh: '100' }),
};
