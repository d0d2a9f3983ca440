import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'reduced',
  answers: {},
  pipes: '28cu 24\n22cu 30\n15cu 18',
  gauge: simulatedGauge({ unit: 'mbar', readability: '0.01', rangeLow: '-10', rangeHigh: '200' }),
  instruments: { strength: simulatedGauge({ unit: 'mbar', readability: '5', rangeLow: '0', rangeHigh: '2500' }) },
};
