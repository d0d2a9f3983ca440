import { type Estimate, estimateHold } from './estimate';
import type { Point } from './seen';

/* Falls as gauges show them, made for the live estimate alone: what it says of them is held against the truth. */

export const noises = ['independent', 'correlated', 'sticking'] as const;
export const falls = ['straight', 'bending'] as const;
export const holds = [
  { seconds: 120, every: 1 },
  { seconds: 900, every: 1 },
  { seconds: 3600, every: 10 },
] as const;
export const parts = [0.1, 0.3, 0.6] as const;

export interface World {
  readonly hold: (typeof holds)[number];
  readonly noise: (typeof noises)[number];
  readonly fall: (typeof falls)[number];
}

const step = 0.01;
export const limit = 0.25;

function chanceOf(from: number) {
  let state = from | 0;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  return { next, bell: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()) };
}

/**
 * A fall of up to three times the limit on a gauge of a hundredth. Independent noise of half a step to two; as much with a memory of 30 s;
 * or a needle that sticks until the truth is half a step to two away. A fall that bends has spent three tenths to all of itself in a time
 * of its own.
 */
export function fallOf({ hold, noise, fall }: World, seed: number): { readonly truth: number; readonly points: readonly Point[] } {
  const { next, bell } = chanceOf(seed);
  const { seconds, every } = hold;
  const truth = 3 * limit * next();
  const lasts = seconds * (0.2 + 1.3 * next());
  const spent = 0.3 + 0.7 * next();
  const gone = (at: number) =>
    fall === 'straight'
      ? (truth * at) / seconds
      : (spent * truth * (1 - Math.exp(-at / lasts))) / (1 - Math.exp(-seconds / lasts)) + ((1 - spent) * truth * at) / seconds;
  const deviation = (noise === 'sticking' ? 0.1 : 0.5 + 1.5 * next()) * step;
  const sticks = (0.5 + 1.5 * next()) * step;
  let lasting = deviation * bell();
  let stuck = 20;
  const points: Point[] = [];
  for (let at = 0; at <= seconds; at += every) {
    const is = 20 - gone(at);
    const kept = Math.exp(-every / 30);
    if (at > 0) lasting = lasting * kept + deviation * Math.sqrt(1 - kept * kept) * bell();
    if (Math.abs(is - stuck) > sticks) stuck = is;
    const shown = noise === 'independent' ? is + deviation * bell() : noise === 'correlated' ? is + lasting : stuck + deviation * bell();
    points.push({ seconds: at, value: Math.round(shown / step) * step });
  }
  return { truth, points };
}

export const estimateAt = (
  { hold }: Pick<World, 'hold'>,
  points: readonly Point[],
  part: number,
  tellsTime = false,
): Estimate | undefined =>
  estimateHold(
    points.filter(({ seconds }) => seconds <= part * hold.seconds),
    step,
    limit,
    hold.seconds,
    tellsTime,
  );

export interface Kept {
  readonly runs: number;
  readonly covered: number;
  readonly below: number;
  readonly wronglyBelow: number;
  readonly bends: number;
}

/** How often the interval kept its promise, and how often it was surely below and wrong. */
export function kept(world: World, part: number, runs: number): Kept {
  const found = { runs: 0, covered: 0, below: 0, wronglyBelow: 0, bends: 0 };
  for (let run = 0; run < runs; run += 1) {
    const { truth, points } = fallOf(world, 7919 * run + 13);
    const estimate = estimateAt(world, points, part);
    if (estimate === undefined) continue;
    found.runs += 1;
    if (estimate.forecastLow <= truth && truth <= estimate.forecastHigh) found.covered += 1;
    if (estimate.status === 'below') found.below += 1;
    if (estimate.status === 'below' && truth >= limit) found.wronglyBelow += 1;
    if (estimate.status === 'bends') found.bends += 1;
  }
  return found;
}

/** Of runs that cannot be told yet: how often the time that it took lay between the two that were said, and within a quarter of the one. */
export function timesKept(world: World, part: number, runs: number) {
  const found = { unclear: 0, between: 0, told: 0, near: 0 };
  for (let run = 0; run < runs; run += 1) {
    const { points } = fallOf(world, 104_729 * run + 5);
    const needed = estimateAt(world, points, part, true)?.needed;
    if (needed === undefined) continue;
    const at = part * world.hold.seconds;
    let took = world.hold.seconds;
    for (let later = part + 0.01; later < 1; later += 0.01) {
      const status = estimateAt(world, points, later)?.status;
      if (status !== 'below' && status !== 'above') continue;
      took = later * world.hold.seconds;
      break;
    }
    const reach = 0.01 * world.hold.seconds;
    found.unclear += 1;
    if (at + needed.least - reach <= took && took <= at + needed.most + reach) found.between += 1;
    if (needed.about === undefined) continue;
    found.told += 1;
    if ((at + needed.about) / took >= 0.75 && (at + needed.about) / took <= 1.25) found.near += 1;
  }
  return found;
}

export const worlds: readonly World[] = holds.flatMap((hold) => noises.flatMap((noise) => falls.map((fall) => ({ hold, noise, fall }))));
