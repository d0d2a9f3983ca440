import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'small-leak',
  answers: {},
  pipes: '22cu 11\n15cu 7.5',
  gauge: simulatedGauge({ unit: 'mbar', readability: '0.01', rangeLow: '-10', rangeHigh: '150' }),
};
