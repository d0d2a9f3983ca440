import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'hidden-by-warming',
  answers: {},
  pipes: '1-1/4sch40 60ft\n1sch40 45ft\n3/4sch40 80ft',
  gauge: simulatedGauge({ unit: 'psi', readability: '0.05', rangeLow: '0', rangeHigh: '6' }),
  instruments: { fine: simulatedGauge({ unit: 'psi', readability: '0.01', rangeLow: '0', rangeHigh: '2' }) },
};
