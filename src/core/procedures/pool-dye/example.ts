import { noGauge } from '../../sizing/gauge';
import type { Example } from '../procedure';

/** What a plan of it starts from in demonstrations, tests and simulated records. */
export const example: Example = { answers: { line: 'Main drain', openings: 'Main drain\nEquipment end' }, pipes: '', gauge: noGauge };
