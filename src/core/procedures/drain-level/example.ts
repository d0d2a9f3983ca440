import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'passing-ball',
  answers: {},
  pipes: '',
  gauge: simulatedGauge({ unit: 'psi', readability: '1', rangeLow: '0', rangeHigh: '60' }),
  instruments: {
    rule: simulatedInstrument('simulated-rule', 'Simulated rule', { unit: 'mm', readability: '1', rangeLow: '0', rangeHigh: '1000' }),
  },
};
