import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { rig: 'Hose set 1', pressure: '3 psi' },
  pipes: '',
  gauge: simulatedGauge({ unit: 'psi', readability: '0.05', rangeLow: '0', rangeHigh: '15' }),
  instruments: {
    flow: simulatedInstrument('flow', 'Simulated flow meter', { unit: 'CFM', readability: '0.1', rangeLow: '1', rangeHigh: '100' }),
  },
};
