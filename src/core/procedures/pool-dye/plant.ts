import type { PlantModel } from '../../plants/plant';

/** Dye is only looked at: nothing is read, and a fault is what is seen. */
export const plant: PlantModel = {
  scenarios: [
    { id: 'sound', label: 'Sound line' },
    { id: 'leak', label: 'Line leaks below the water', sees: { dye: 'drawn' } },
    { id: 'pressure-only', label: 'Leak that opens only under pressure', sees: { dye: 'hangs' } },
  ],
  track: () => ({ shownAt: () => '0', temperatureAt: () => 20, barometerAt: () => 1013.2, measuredAt: () => undefined }),
};
