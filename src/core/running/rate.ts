import { instrumentOf } from '../course/instruments';
import type { HoldPhase } from '../course/phases';
import { gasLeakRate } from '../physics';
import type { Plan } from '../planning/plan';
import { fromSi, referencePressure, toSi, unitLabel } from '../quantities';

/** So long a hold has run before its movement is told as a rate, s: a step of the gauge after a second would be a flood. */
const soonestS = 30;

/**
 * What a hold loses as it stands, in its plan's flow unit, from its start to what the gauge shows: an estimate while it runs, that decides nothing (DOMAIN 3.1,
 * 3.9). Under what a step of the gauge would be, it is told as under that. Undefined where the volume is not known, or it has not fallen.
 */
export function rateSoFar(plan: Plan, phase: HoldPhase, start: string, now: string, seconds: number): string | undefined {
  const part = plan.sight.find((one) => one.phase === phase.id || one.orBy?.includes(phase.id));
  if (part === undefined || seconds < soonestS || phase.purpose !== 'tightness' || phase.fed === true) return undefined;
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const litresIn = (lost: number): number | undefined => {
    const { contents } = part;
    if (contents.kind === 'level') {
      const metres = toSi(lost, unit);
      return ((metres * Number(contents.squareCm)) / 10) * (3600 / seconds);
    }
    if (contents.kind !== 'gas') return undefined;
    const from = toSi(Number(start), unit);
    const rate = gasLeakRate({
      volumeM3: Number(contents.litres) / 1000,
      startPa: from + referencePressure,
      endPa: from - toSi(lost, unit) + referencePressure,
      seconds,
    } as never);
    return rate.ok ? fromSi(rate.value, 'L/h') : undefined;
  };
  const lost = Number(start) - Number(now);
  const step = Number(readability);
  // A single step may be the next mark only just reached.
  const isSeen = lost >= 1.5 * step;
  const litres = litresIn(isSeen ? lost : step);
  if (litres === undefined || !(litres > 0)) return undefined;
  const rate = fromSi(toSi(litres * Number(part.factor ?? '1'), 'L/h'), part.unit);
  const figure = rate >= 10 ? rate.toFixed(0) : rate >= 1 ? rate.toFixed(1) : rate.toPrecision(2);
  return `${isSeen ? 'about' : 'under'} ${figure} ${unitLabel(part.unit)}`;
}
