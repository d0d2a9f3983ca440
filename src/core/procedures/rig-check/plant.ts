import { airModel, common, type PipingScenario } from '../../plants/air';
import { leakOf } from '../../plants/gas-scale';
import { type PlantModel, shownAs } from '../../plants/plant';
import { toSi } from '../../quantities';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly PipingScenario<SeenIn<Names>>[] = [
  ...common,
  {
    id: 'hose',
    label: 'Hose weeps',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 3) }),
    sees: { soap: 'rig', shown: 'flow' },
  },
  {
    id: 'cap',
    label: 'Cap weeps: looks like the rig',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 3) }),
    sees: { soap: 'cap', shown: 'flow' },
  },
];

const hose = airModel(scenarios);
const hoseL = '0.10';

/** Leakage of a sound fan at 25 Pa. */
const fanM3s = toSi(1.2, 'CFM');

/** A short hose that holds a tenth of a litre; a fan leaks a little at its connector by itself. */
export const plant: PlantModel = {
  scenarios,
  tried: hose.tried,
  track: (plan, id, seed, acts) => {
    if (plan.answers.kind !== 'fan') return hose.track({ ...plan, volume: { ...plan.volume, litres: hoseL } }, id, seed, acts);
    const gauge = plan.gauge;
    const meter = plan.instruments?.flow;
    const shown = (pa: number) => shownAs(pa, gauge.unit, gauge.readability);
    return {
      shownAt: () => shown(id === 'unzeroed' ? 3 : 0),
      temperatureAt: () => 20,
      barometerAt: () => 1013.2,
      measuredAt: (_, point, quantity) => {
        const pa = toSi(Number(point.aim ?? '25'), gauge.unit);
        if (quantity === 'pressure') return shown(pa);
        return meter === undefined ? undefined : shownAs(fanM3s * (pa / 25) ** 0.6, meter.unit, meter.readability);
      },
    };
  },
};
