import { type HoldPhase, middleOf } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { fromSi, referencePressure, toSi } from '../quantities';
import type { GasPlant } from './gas-plant';
import type { HydraulicPlant } from './hydraulic-plant';
import type { Trial } from './plant';

/** How a sound plant is made one that a claim is tried on (DOMAIN 3.14). */

interface Judged {
  readonly hold: HoldPhase;
  /** Where it begins, Pa gauge. */
  readonly pa: number;
}

function held(plan: Plan, id: string): Judged | undefined {
  const hold = plan.phases.find((phase): phase is HoldPhase => phase.kind === 'hold' && phase.id === id);
  return hold === undefined ? undefined : { hold, pa: toSi(Number(middleOf(hold)), hold.unit ?? plan.unit) };
}

/** The watch of the part's valve, and the rise in it that the trial's let-by makes by itself, Pa. */
function watchOf(plan: Plan, { part, letBy }: Trial): (Judged & { readonly rise: number }) | undefined {
  const own = held(plan, part.phase)?.hold.valve;
  const watch = held(plan, (part.letBys ?? own ?? [])[0] ?? '');
  if (watch === undefined || watch.hold.limit.kind !== 'no-rise' || letBy === 0) return undefined;
  return { ...watch, rise: letBy * toSi(Number(watch.hold.limit.threshold), watch.hold.unit ?? plan.unit) };
}

/** Whether the part lies beyond what is isolated at first: appliances, controls, the piping after a regulator. */
export type Beyond = (part: Trial['part']) => boolean;

/** Pipes with a gas, their leak named at the pressure of the part's hold. */
export function triedGas(sound: GasPlant, plan: Plan, trial: Trial, beyond: Beyond = () => false): GasPlant {
  const { part, leakM3s, warms, presses } = trial;
  const judged = held(plan, part.phase);
  if (judged === undefined) return sound;
  const minutes = judged.hold.seconds / 60;
  const volumeL = part.contents.kind === 'gas' ? Number(part.contents.litres) : sound.volumeL;
  const leakLh = fromSi(leakM3s, 'L/h') / Math.sqrt(judged.pa / 2000);
  const watch = watchOf(plan, trial);
  // What stands before the valve is the plant's own, or half as much again as the hold where nothing is known of it.
  const supplyMbar = Math.max(sound.supplyMbar, watch === undefined ? 0 : (judged.pa / 100) * 1.5);
  const watched = watch === undefined ? 0 : watch.pa / 100;
  return {
    ...sound,
    volumeL,
    supplyMbar,
    ...(beyond(part) ? { applianceLeakLh: leakLh } : { pipeworkLeakLh: leakLh }),
    letByLh:
      watch === undefined
        ? 0
        : ((watch.rise / referencePressure) * volumeL * 3600) /
          watch.hold.seconds /
          Math.sqrt(Math.max(0.01, (supplyMbar - watched) / supplyMbar)),
    warmingKPerMin: warms / minutes,
    barometerHpaPerH: (presses * 60) / minutes / 100,
    // Fine enough for the law, coarse enough for many runs.
    stepS: Math.max(0.5, judged.hold.seconds / 240),
  };
}

/** Pipes full of water, with the air that the claim takes for granted or a share of it. */
export function triedWater(sound: HydraulicPlant, plan: Plan, trial: Trial): HydraulicPlant {
  const { part, leakM3s, warms, air } = trial;
  const { contents } = part;
  const judged = held(plan, part.phase) ?? held(plan, 'hold');
  if (judged === undefined || contents.kind !== 'water') return sound;
  const { pa, hold } = judged;
  const share = (air * Number(contents.airPercent)) / 100;
  const softness = Number(contents.softness) / 1e9;
  const stiffness = 1 / (softness + share / (pa + referencePressure));
  const volumeM3 = Number(contents.litres) / 1000;
  const watch = watchOf(plan, trial);
  return {
    ...sound,
    volumeM3,
    softness,
    airAtAtmosphere: (share * (pa + referencePressure)) / referencePressure,
    leakM3s,
    leakAtPa: pa,
    letByM3s:
      watch === undefined || sound.supplyPa <= watch.pa
        ? 0
        : (watch.rise * volumeM3) / stiffness / watch.hold.seconds / Math.sqrt((sound.supplyPa - watch.pa) / sound.supplyPa),
    warmingPaS: contents.expansionPpm === undefined ? 0 : (Number(contents.expansionPpm) * 1e-6 * stiffness * warms) / hold.seconds,
    warmingKPerMin: contents.expansionPpm === undefined ? 0 : (warms * 60) / hold.seconds,
  };
}
