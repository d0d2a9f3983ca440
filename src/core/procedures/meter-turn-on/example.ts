import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'masked-leak',
  answers: { dial: 'always' },
  pipes: '1-1/4sch40 15ft\n3/4sch40 35ft\n1/2sch40 20ft',
  gauge: simulatedGauge({ unit: 'inH2O', readability: '0.05', rangeLow: '0', rangeHigh: '30' }),
  instruments: {
    dial: simulatedInstrument('simulated-dial', 'Simulated test dial', {
      unit: 'turn',
      readability: '0.01',
      rangeLow: '0',
      rangeHigh: '1000',
    }),
  },
};
