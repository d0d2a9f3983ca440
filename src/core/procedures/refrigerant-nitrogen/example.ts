import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  answers: { refrigerant: 'R407F', 'low-ps': '14.8', 'high-ps': '27.5' },
  pipes: '28cu 22\n15cu 24',
  gauge: simulatedGauge({ unit: 'bar', readability: '0.1', rangeLow: '0', rangeHigh: '60' }),
};
