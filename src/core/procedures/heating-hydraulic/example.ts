import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { pipe: 'multilayer', components: 'Manifold 6bar\nRadiator 10bar +3m' },
  pipes: '16x2pex 90\n20x2pex 24',
  gauge: simulatedGauge({ unit: 'bar', readability: '0.05', rangeLow: '0', rangeHigh: '6' }),
  instruments: {
    pump: simulatedInstrument('simulated-pump', 'Simulated pump with water count', {
      unit: 'mL',
      readability: '1',
      rangeLow: '0',
      rangeHigh: '20000',
    }),
  },
};
