import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'small-leak',
  answers: { low: 'yes', count: '4' },
  pipes: '1/2sch40 30ft',
  gauge: simulatedGauge({ unit: 'psi', readability: '0.5', rangeLow: '0', rangeHigh: '200' }),
  instruments: { low: simulatedGauge({ unit: 'inH2O', readability: '0.05', rangeLow: '0', rangeHigh: '30' }) },
};
