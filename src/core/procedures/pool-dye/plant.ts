import type { PlantModel, Scenario } from '../../plants/plant';
import type { SeenIn } from '../card';
import type { Names } from '.';

/** Dye is only looked at: nothing is read, and a fault is what is seen. */
const scenarios: readonly Scenario<SeenIn<Names>>[] = [
  { id: 'sound', label: 'Sound line' },
  { id: 'leak', label: 'Line leaks below the water', sees: { dye: 'drawn' } },
  { id: 'pressure-only', label: 'Leak that opens only under pressure', sees: { dye: 'hangs' } },
];

export const plant: PlantModel = {
  scenarios,
  track: () => ({ shownAt: () => '0', temperatureAt: () => 20, barometerAt: () => 1013.2, measuredAt: () => undefined }),
};
