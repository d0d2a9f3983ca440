import { waterSensitivity } from '../physics/water-stiffness';
import { bad, fromSi, good, type PressureUnit, type Result, toSi, unitLabel } from '../quantities';
import { isSoft, usualStiffness, type WaterPipe, waterPipes } from './water-hold';

/** What a plan says of the gauge that stays on; shares in percent of the pressure at leaving. */
export interface GuardGauge {
  readonly pipe: WaterPipe;
  readonly relaxingShare: string;
  readonly alarmShare: string;
}

/** A gauge left on through the finishing work, and a later look at it (DOMAIN 5.10, 5.11). */
export interface GuardReading {
  readonly pipe: WaterPipe;
  readonly unit: PressureUnit;
  /** Pressure at leaving and at the look, gauge, with the pipe's temperature, °C, where it was read. */
  readonly left: { readonly pressure: number; readonly celsius?: number };
  readonly now: { readonly pressure: number; readonly celsius?: number };
  /** Share that soft pipe may give up by relaxing on its first day, percent of the pressure at leaving. */
  readonly relaxingShare: number;
  /** A fall of more than this beyond temperature and relaxing raises the alarm, percent of the pressure at leaving. */
  readonly alarmShare: number;
}

export interface GuardState {
  readonly alarm: boolean;
  /** Lowest reading that temperature and relaxing explain, in the reading's unit. */
  readonly expected: number;
  /** Fall under it, percent of the pressure at leaving; none or less where nothing is left unexplained. */
  readonly beyondShare: number;
  readonly sentence: string;
  readonly working: readonly string[];
}

/**
 * Whether a guard gauge has fallen further than temperature and first-day relaxing explain: then the pipe was likely
 * damaged after hand-over. Rigid pipe is allowed its temperature, (β − 3·α)·K per kelvin with 1 % of trapped air (DOMAIN
 * 3.7); soft pipe its relaxing, since warming has no known sign there.
 * @returns `guard-figures` for a pressure at leaving of nothing, or a share outside 0 to 100 %
 */
export function guardState({ pipe, unit, left, now, relaxingShare, alarmShare }: GuardReading): Result<GuardState> {
  if (!(left.pressure > 0) || !(now.pressure >= 0))
    return bad('guard-figures', 'Give the pressure at leaving and the one now.', 'pressure');
  if (!(alarmShare > 0 && alarmShare <= 100 && relaxingShare >= 0 && relaxingShare <= 100))
    return bad('guard-figures', 'A share lies between 0 and 100 %.', 'share');
  const working: string[] = [];
  let expected = left.pressure;
  if (isSoft(pipe)) {
    const relaxed = (left.pressure * relaxingShare) / 100;
    expected -= relaxed;
    working.push(`${waterPipes[pipe].label} may relax by ${relaxingShare} %: ${relaxed.toFixed(2)} ${unitLabel(unit)}`);
  } else if (left.celsius !== undefined && now.celsius !== undefined) {
    const moved = warmed(pipe, toSi(left.pressure, unit), now.celsius - left.celsius);
    if (!moved.ok) return moved;
    const inUnit = fromSi(moved.value, unit);
    expected = Math.max(0, expected + inUnit);
    working.push(`${(now.celsius - left.celsius).toFixed(1)} K: ${inUnit.toFixed(2)} ${unitLabel(unit)}`);
  } else working.push('Without both temperatures nothing is allowed for them.');
  const beyondShare = Number((((expected - now.pressure) / left.pressure) * 100).toFixed(6));
  const alarm = beyondShare > alarmShare;
  working.push(
    `Expected ${expected.toFixed(2)}, read ${now.pressure} ${unitLabel(unit)}: ${beyondShare.toFixed(1)} % of ${left.pressure} below, alarm over ${alarmShare} %`,
  );
  return good({
    alarm,
    expected,
    beyondShare,
    sentence: alarm
      ? `The guard gauge has fallen ${beyondShare.toFixed(0)} % further than temperature and relaxing explain: look for damage done since it was left, before anything is covered.`
      : 'The guard gauge stands where temperature and relaxing leave it.',
    working,
  });
}

/** Change of pressure for a change of temperature in closed rigid pipe, Pa. */
function warmed(pipe: WaterPipe, pa: number, kelvin: number): Result<number> {
  const stiffness = usualStiffness(pipe, pa);
  if (!stiffness.ok) return stiffness;
  const perKelvin = waterSensitivity(waterPipes[pipe].wall, stiffness.value);
  return perKelvin.ok ? good(perKelvin.value * kelvin) : perKelvin;
}
