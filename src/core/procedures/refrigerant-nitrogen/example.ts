import { simulatedGauge, simulatedInstrument } from '../example-instruments';
import type { Example } from '../procedure';

const shown = { unit: 'bar', readability: '0.1', rangeLow: '0', rangeHigh: '60' } as const;

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { refrigerant: 'R407F', 'low-ps': '14.8', 'high-ps': '27.5' },
  pipes: '28cu 22\n15cu 24',
  gauge: simulatedGauge(shown),
  instruments: { high: simulatedInstrument('simulated-high', 'Simulated gauge, high side', shown) },
};
