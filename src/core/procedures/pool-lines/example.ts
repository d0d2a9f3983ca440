import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'fast-rise',
  answers: {
    line: 'Returns',
    openings: 'Equipment end\nReturn 1\nReturn 2 hook\nReturn 3',
    trials: 'Return 1: Return 2, Return 3\nSkimmer 1: Skimmer 2',
    size: '2',
  },
  pipes: '',
  gauge: simulatedGauge({ unit: 'psi', readability: '0.1', rangeLow: '0', rangeHigh: '30' }),
};
