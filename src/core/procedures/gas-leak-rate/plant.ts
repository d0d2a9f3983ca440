import type { GasPlant } from '../../plants/gas-plant';
import type { Scale } from '../../plants/gas-scale';
import { common, type RegulatedScenario, regulated } from '../../plants/regulated';
import type { SeenIn } from '../card';
import type { Names } from '.';

/** Leaks of the litres-per-hour school are named by their rate, L/h at the pressure of the hold. */
const rate =
  (litresPerHour: number) =>
  (plant: GasPlant, { pressureMbar }: Scale): GasPlant => ({ ...plant, pipeworkLeakLh: litresPerHour / Math.sqrt(pressureMbar / 20) });

const scenarios: readonly RegulatedScenario<SeenIn<Names>>[] = [
  ...common.filter(({ id }) => id !== 'leak' && id !== 'rig-leak'),
  { id: 'slight', label: 'Leak of a tenth of a litre an hour', change: rate(0.1) },
  // Measured under one, and over it with what the gauge and the barometer may hide.
  { id: 'near-limit', label: 'Leak too near a litre an hour for the time', change: rate(0.95) },
  { id: 'reduced', label: 'Leak of two and a half litres an hour', change: rate(2.5) },
  { id: 'large-leak', label: 'Leak of eight litres an hour', change: rate(8) },
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: rate(2.5), sees: { rig: 'bubbles', 'rig-strength': 'bubbles' } },
  {
    id: 'hidden-by-weather',
    label: 'Leak made smaller by a falling barometer',
    change: (plant, scale) => ({ ...rate(1.15)(plant, scale), barometerHpaPerH: -12 }),
  },
  { id: 'open-end', label: 'Open end', change: rate(4000) },
];

/** Gas at operating pressure, or what a pump or cylinder raises, closed off while it is held. */
export const plant = regulated(scenarios, () => ({ lockUpMbar: Number.POSITIVE_INFINITY, supplyMbar: 1 }));
