import { type HoldPhase, middleOf } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { toSi } from '../quantities';
import type { GasPlant } from './gas-plant';

/** What a fault is measured by: a hold that judges, its pressure and its threshold, mbar and s. */
export interface Scale {
  readonly thresholdMbar: number;
  readonly pressureMbar: number;
  /** Where whoever raises it stops. */
  readonly middleMbar: number;
  readonly seconds: number;
}

type Measure = Omit<Scale, 'middleMbar'>;

/** Leak, L/h at 20 mbar, that drops so many thresholds in a hold. */
export const leakOf = (plant: GasPlant, { thresholdMbar, pressureMbar, seconds }: Measure, thresholds: number): number =>
  (((thresholds * thresholdMbar) / 1013.25) * plant.volumeL * 3600) / seconds / Math.sqrt(pressureMbar / 20);

/** Warming, K/min, that moves the gauge by so many thresholds in a hold. */
export const warmingOf = (plant: GasPlant, { thresholdMbar, pressureMbar, seconds }: Measure, thresholds: number): number =>
  ((thresholds * thresholdMbar * (plant.startC + 273.15)) / (pressureMbar + 1013.25) / seconds) * 60;

export function scaleOf(plan: Plan, phase: HoldPhase): Scale {
  const unit = phase.unit ?? plan.unit;
  const mbar = (text: string): number => toSi(Number(text), unit) / 100;
  const threshold = phase.limit.kind === 'no-fall' ? mbar(phase.limit.threshold) : 1;
  return { thresholdMbar: threshold, pressureMbar: mbar(phase.band.low), middleMbar: mbar(middleOf(phase)), seconds: phase.seconds };
}
