import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'water-drawn',
  answers: {},
  pipes: '22cu 18\n15cu 32',
  gauge: simulatedGauge({ unit: 'bar', readability: '0.05', rangeLow: '0', rangeHigh: '10' }),
};
