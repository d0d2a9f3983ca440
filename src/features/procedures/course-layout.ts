import { scaleLinear } from 'd3-scale';
import type { CourseStep, CourseView } from '@/core/library';

export interface LaidStep {
  readonly step: CourseStep;
  readonly x: number;
  readonly width: number;
  /** Its time is longer than its width says: drawn with a break mark. */
  readonly broken: boolean;
}

/** Narrowest block of a list or a look, and of a hold, px. */
const least = { list: 26, hold: 58 } as const;
/** Widest that one hold may be beside the next shorter one. */
const mostTimes = 3;

/**
 * Steps left to right. Lists and looks are narrow; holds share the rest in proportion to their time, but one may be at most
 * three times the median hold, and is then drawn broken. Never wider in all than `width` unless the least of each needs it.
 */
export function layCourse(steps: readonly CourseStep[], width: number): readonly LaidStep[] {
  const holds = steps.flatMap((step) => (step.kind === 'hold' ? [step.seconds] : [])).sort((a, b) => a - b);
  const median = holds[Math.floor((holds.length - 1) / 2)] ?? 1;
  const shown = (seconds: number) => Math.min(seconds, median * mostTimes);
  const total = holds.reduce((sum, seconds) => sum + shown(seconds), 0);
  const narrow = steps.length - holds.length;
  // Where no hold takes the room the steps share it, and one with a picture of its own takes most.
  const flows = steps.filter((step) => step.kind !== 'hold' && step.flow !== undefined).length;
  const wide = flows === 0 || holds.length > 0 ? 0 : (width * 0.55) / flows;
  const wideLists = holds.length === 0 ? (width - wide * flows) / Math.max(1, narrow - flows) : least.list;
  const listWidth = (step: CourseStep) => (wide > 0 && step.kind !== 'hold' && step.flow !== undefined ? wide : wideLists);
  const room = Math.max(0, width - narrow * wideLists - holds.length * least.hold);
  let x = 0;
  return steps.map((step) => {
    const own = step.kind === 'hold' ? least.hold + (total === 0 ? 0 : (room * shown(step.seconds)) / total) : listWidth(step);
    const laid = { step, x, width: own, broken: step.kind === 'hold' && step.seconds > median * mostTimes };
    x += own;
    return laid;
  });
}

/** Pressure axis from nothing to a little above what is ever reached. */
export function pressureScale({ steps, highest }: CourseView, top: number, bottom: number) {
  const reached = steps.flatMap((step) => (step.kind === 'hold' ? [...(step.band ?? []), step.ceiling ?? 0] : step.stops));
  return scaleLinear()
    .domain([0, Math.max(highest, ...reached, 1e-6) * 1.1])
    .range([bottom, top]);
}

export interface PathPoint {
  readonly x: number;
  readonly pressure: number;
}

export interface Way {
  readonly points: readonly PathPoint[];
  /** Pressure through each hold, by its id. */
  readonly through: ReadonlyMap<string, number>;
}

/** The pressure along the way: up the stops of a list, level through a hold, down where the next begins lower. */
export function pressureWay(laid: readonly LaidStep[]): Way {
  const points: PathPoint[] = [];
  const through = new Map<string, number>();
  let now = 0;
  for (const { step, x, width } of laid) {
    if (step.kind === 'hold') {
      if (step.band === undefined) continue;
      const [low, high] = step.band;
      // What already stands in the corridor is left where it is; a regulator locks up near the foot of its own.
      const stays = !step.fed && now > 0 && now >= low && now <= high;
      const aim = stays ? now : low + (high - low) * (step.fed ? 0.15 : 0.5);
      points.push({ x: x + 1, pressure: now }, { x: x + 6, pressure: aim }, { x: x + width - 1, pressure: aim });
      through.set(step.id, aim);
      now = aim;
      continue;
    }
    points.push({ x: x + 1, pressure: now });
    step.stops.forEach((stop, index) => {
      const at = x + (width * (index + 0.3)) / step.stops.length;
      points.push({ x: at, pressure: now }, { x: at + Math.min(2, (width * 0.3) / step.stops.length), pressure: stop });
      now = stop;
    });
    if (step.closing && step.stops.length === 0) now = 0;
    points.push({ x: x + width - 1, pressure: now });
  }
  return { points, through };
}
