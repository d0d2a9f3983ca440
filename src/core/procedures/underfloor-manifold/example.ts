import { simulatedGauge } from '../example-instruments';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = {
  fault: 'long-relaxing',
  answers: { loops: '1 Kitchen\n2 Hall\n3 Bath\n4 Bedroom', components: 'Manifold 8bar\nFlow meters 8bar' },
  pipes: '16x2pex 320',
  gauge: simulatedGauge({ unit: 'bar', readability: '0.05', rangeLow: '0', rangeHigh: '10' }),
};
