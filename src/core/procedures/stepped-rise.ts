import type { CheckItem } from '../course/phases';
import { bad, good, type PressureUnit, type Result, unitLabel } from '../quantities';

/** A pressure on the way up, and how long to pause there. */
export interface RiseStep {
  readonly pressure: string;
  readonly pauseSeconds: number;
}

export interface Rise {
  /** Where to stop first and look at every joint; the step itself when left out. */
  readonly first?: number;
  readonly step: number;
  readonly target: number;
  readonly pauseSeconds: number;
  readonly decimals: number;
}

/** Most steps of a rise: more is a step too small for the pressure. */
const mostSteps = 40;

/**
 * Pressures to stop at on the way up, the target last (DOMAIN 5.13, 5.14): a fast rise fires plugs and hides an unmade
 * joint. A last step of less than a fifth is taken with the one before it.
 * @returns `rise-steps` for a step of nothing, or for more than 40 of them
 */
export function riseSteps({ first, step, target, pauseSeconds, decimals }: Rise): Result<readonly RiseStep[]> {
  if (!(step > 0 && target > 0)) return bad('rise-steps', 'A rise needs a step and a target above zero.');
  const start = first === undefined || first >= target ? 0 : first;
  const count = Math.ceil((target - start) / step - 0.2);
  if (count > mostSteps) return bad('rise-steps', `That would be ${count} steps; take at most ${mostSteps}.`);
  const stops = [
    ...(start > 0 ? [start] : []),
    ...Array.from({ length: Math.max(0, count - 1) }, (_, index) => start + step * (index + 1)),
    target,
  ];
  return good(
    stops.map((pressure, index) => ({ pressure: pressure.toFixed(decimals), pauseSeconds: index === stops.length - 1 ? 0 : pauseSeconds })),
  );
}

/** The steps as a checklist that raises a simulated plant too. @param prefix begins their ids @param look what to look at, and at the first stop */
export const riseItems = (
  steps: readonly RiseStep[],
  unit: PressureUnit,
  { prefix, atFirst, atEach, of }: { readonly prefix: string; readonly atFirst: string; readonly atEach: string; readonly of?: string },
): readonly CheckItem[] =>
  steps.map(({ pressure, pauseSeconds }, index) => ({
    id: `${prefix}-${index + 1}`,
    text:
      pauseSeconds === 0
        ? `Raised to ${pressure} ${unitLabel(unit)}, the test pressure, and shut`
        : `Raised to ${pressure} ${unitLabel(unit)}, paused ${pauseSeconds} s: ${index === 0 ? atFirst : atEach}`,
    mayNotApply: false,
    to: pressure,
    of,
    pauseSeconds: pauseSeconds === 0 ? undefined : pauseSeconds,
  }));
