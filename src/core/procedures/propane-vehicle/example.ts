import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { flow: 'yes' },
  pipes: '10cu 6\n12cu 2.5',
  gauge: simulatedGauge({ unit: 'inH2O', readability: '0.05', rangeLow: '0', rangeHigh: '30' }),
};
