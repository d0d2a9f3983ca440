import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'trapped-air',
  answers: { components: 'Hydrant 250psi -6ft\nAir valve 300psi 12ft' },
  pipes: '',
  gauge: simulatedGauge({ unit: 'psi', readability: '1', rangeLow: '0', rangeHigh: '300' }),
  instruments: {
    vessel: simulatedInstrument('simulated-vessel', 'Simulated measuring vessel', {
      unit: 'galUS',
      readability: '0.01',
      rangeLow: '0',
      rangeHigh: '20',
    }),
  },
};
