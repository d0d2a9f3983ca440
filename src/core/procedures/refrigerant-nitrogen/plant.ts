import type { PlanShape as Plan } from '../../course/plan-shape';
import { airModel, common, type PipingScenario } from '../../plants/air';
import { leakOf, warmingOf } from '../../plants/gas-scale';
import type { PlantAct, PlantModel, PlantTrack } from '../../plants/plant';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly PipingScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'pipework-leak', label: 'Leak in the piping', change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }) },
  {
    id: 'slow-leak',
    label: 'Leak that only the long hold shows',
    change: (plant, _, last) => ({ ...plant, pipeworkLeakLh: leakOf(plant, { ...last, pressureMbar: 13_300 }, 1.2) }),
  },
  {
    id: 'rig-leak',
    label: 'Leak at the rig’s own joint',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }),
    sees: { 'rig-strength-low': 'bubbles', 'rig-strength-high': 'bubbles' },
  },
  {
    id: 'hidden-by-warming',
    label: 'Leak hidden by warming pipes',
    change: (plant, _, last) => ({
      ...plant,
      pipeworkLeakLh: leakOf(plant, { ...last, pressureMbar: 11_800 }, 2),
      warmingKPerMin: warmingOf(plant, { ...last, pressureMbar: 14_700 }, 2),
    }),
  },
  {
    id: 'cooling',
    label: 'Cooling pipes, no leak',
    change: (plant, _, last) => ({ ...plant, warmingKPerMin: warmingOf(plant, { ...last, pressureMbar: 14_700 }, -2.6) }),
  },
  {
    id: 'blind-gauge',
    label: 'Service valve shut behind the gauge',
    change: (plant) => plant,
    sees: { 'sees-low': 'stands', 'sees-high': 'stands' },
  },
  {
    id: 'sides-pass',
    label: 'A valve between the sides passes',
    change: (plant) => plant,
    sees: { 'other-low': 'moved', 'other-high': 'moved' },
  },
];

/** Holds of an hour and more: a look a second is enough. */
const oneSide = airModel(
  [
    ...scenarios,
    {
      id: 'warming',
      label: 'Warming pipes, no leak',
      change: (plant, _, last) => ({ ...plant, warmingKPerMin: warmingOf(plant, { ...last, pressureMbar: 14_700 }, 2) }),
    },
  ],
  1,
);

const onSide = (plan: Plan, role: string | undefined): Plan => ({
  ...plan,
  gauge: role === undefined ? plan.gauge : ((plan.instruments?.[role] as Plan['gauge'] | undefined) ?? plan.gauge),
  instruments: undefined,
  phases: plan.phases.filter((phase) => phase.kind !== 'hold' || phase.instrument === role),
});

/** The weather is that of both sides; a leak, or a gauge’s fault, is of one. */
const weather: Readonly<Record<string, string>> = { 'hidden-by-warming': 'warming', cooling: 'cooling' };

/** Two sides apart, each with its gauge and its pressure, and one weather; a fault is of the low side, where both are tested. */
export const plant: PlantModel = {
  scenarios,
  tried: (plan, trial, seed, acts) => {
    const tried = (side: Plan, leaks: boolean, own: readonly PlantAct[], from: number) =>
      oneSide.tried?.(side, leaks ? trial : { ...trial, leakM3s: 0 }, from, own) ?? oneSide.track(side, 'sound', from, own);
    if (plan.instruments?.high === undefined) return tried(plan, true, acts, seed);
    const onHigh = trial.part.phase.endsWith('high');
    return bothSides(
      acts,
      // Scaled by the part's own hold, wherever that stands.
      (own) => tried({ ...onSide(plan, undefined), phases: plan.phases }, !onHigh, own, seed),
      (own) => tried({ ...onSide(plan, 'high'), phases: plan.phases }, onHigh, own, seed + 1),
    );
  },
  track: (plan, id, seed, acts) =>
    plan.instruments?.high === undefined
      ? oneSide.track(plan, id, seed, acts)
      : bothSides(
          acts,
          (own) => oneSide.track(onSide(plan, undefined), id, seed, own),
          (own) => oneSide.track(onSide(plan, 'high'), weather[id] ?? 'sound', seed + 1, own),
        ),
};

/** Each side hears what is done to it. */
function bothSides(acts: readonly PlantAct[], lowOf: (own: PlantAct[]) => PlantTrack, highOf: (own: PlantAct[]) => PlantTrack): PlantTrack {
  const [lows, highs]: PlantAct[][] = [[], []];
  const [low, high] = [lowOf(lows), highOf(highs)];
  let done = 0;
  const told = (): void => {
    for (; done < acts.length; done += 1) {
      const act = acts[done];
      if (act.of !== 'high') lows.push(act);
      if (act.of === 'high' || act.action !== 'raise') highs.push(act);
    }
  };
  return {
    shownAt: (ms, role) => {
      told();
      return role === 'high' ? high.shownAt(ms) : low.shownAt(ms);
    },
    temperatureAt: (ms) => {
      told();
      return low.temperatureAt(ms);
    },
    barometerAt: (ms) => {
      told();
      return low.barometerAt(ms);
    },
    measuredAt: (ms, point, quantity) => low.measuredAt(ms, point, quantity),
  };
}
