import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { baseline: '1.2', 'baseline-date': '2025-12-01' },
  pipes: '',
  gauge: simulatedGauge({ unit: 'Pa', readability: '0.1', rangeLow: '-500', rangeHigh: '500' }),
  instruments: {
    flow: simulatedInstrument('simulated-fan', 'Simulated fan, ring for 4 to 60 CFM', {
      unit: 'CFM',
      readability: '0.1',
      rangeLow: '4',
      rangeHigh: '60',
    }),
  },
};
