import type { Part } from '../course/phases';
import { daysFromCivil } from '../exact/calendar';
import { unnoticedK, unreadBarometerPa } from '../physics/hold-sight';
import type { Plan } from '../planning/plan';
import { bellAt, randomAt } from '../plants/random';
import { toSi } from '../quantities';
import { plantModel } from './plants';
import { simulateJudged } from './technician';

/**
 * The chance that a plan passes a leak of a size (DOMAIN 3.14): its simulated plant, in a world that keeps within what *sure* takes for
 * granted, and a technician who types what the gauge shows, through the real judge.
 */

export interface Size {
  /** In the part's unit. */
  readonly leak: number;
  readonly runs: number;
  readonly passed: number;
}

export interface Detection {
  readonly plan: string;
  readonly part: string;
  readonly unit: Part['unit'];
  readonly alone: number;
  readonly sure?: number;
  readonly sizes: readonly Size[];
  /** Sound systems: how many there were, how many were failed, and how many came to nothing. */
  readonly sound: { readonly runs: number; readonly failed: number; readonly open: number };
  /** Sizes that are caught 50 and 95 times in a hundred; undefined where the sizes tried do not reach so far. */
  readonly halfCaught?: number;
  readonly surelyCaught?: number;
}

export interface Asked {
  readonly plan: Plan;
  readonly part: Part;
  readonly sizes?: number;
  readonly runs?: number;
  /** Only the runs of one of several workers: the `nth` of `of`, from 0. */
  readonly share?: { readonly nth: number; readonly of: number };
}

/** What was tried, by one worker or by all of them. */
export type Tally = Pick<Detection, 'sizes' | 'sound'>;

/** Why a plan has no curve, or nothing where it has one. */
export function noCurve(plan: Plan, part: Part | undefined): string | undefined {
  if (!plan.conclusions.some(({ verdict }) => passes.has(verdict)))
    return 'This procedure never passes anything, so that there is no chance of a pass to draw.';
  if (part?.alone === undefined) return plan.sightSays ?? 'Nobody knows the volume, so that a leak has no size to draw the chance against.';
  if (plantModel(plan).tried === undefined) return 'This procedure has no plant to try a leak on.';
  return undefined;
}

const passes: ReadonlySet<string> = new Set(['pass', 'pass with permitted drop']);
const run = '00000000-0000-4000-8000-000000000001';
const noon = 43_200_000;

/** A date on which every instrument of the plan is in calibration: curves are of the plan, not of a day. */
function dayOf(plan: Plan): number {
  const last = [plan.gauge, ...Object.values(plan.instruments ?? {}), ...Object.values(plan.weather ?? {})].flatMap((one) =>
    one?.calibration.needed === true ? [one.calibration.last] : [],
  );
  const [year, month, day] = ['2020-01-01', ...last].sort().at(-1)?.split('-').map(Number) ?? [2020, 1, 1];
  return (daysFromCivil(year, month, day) + 1) * 86_400_000 + noon;
}
/** One verdict: a leak of so much, in a world drawn by a seed. @param leakM3s in the gas carried, as the part's figures are */
export function tryLeak(plan: Plan, part: Part, leakM3s: number, seed: number, startAt = dayOf(plan)): string {
  const { tried } = plantModel(plan);
  if (tried === undefined) throw new RangeError(`${plan.procedure.id} has no plant to try a leak on.`);
  const phase = plan.phases.find(({ id }) => id === part.phase);
  const seconds = phase?.kind === 'hold' ? phase.seconds : 0;
  const drawn = (place: number) => 2 * randomAt(seed, 9000 + place) - 1;
  const named = phase?.kind === 'hold' && phase.corrects?.thermometerK !== undefined;
  // What is read on a thermometer may well drift further than anybody would fail to notice.
  const most = named ? 3 * unnoticedK(seconds) : unnoticedK(seconds);
  const trial = {
    part,
    leakM3s: leakM3s / Number(part.factor ?? '1'),
    warms: most * drawn(1),
    presses: unreadBarometerPa(seconds) * drawn(2),
    // A sound system's valve holds.
    letBy: leakM3s > 0 ? 0.95 * randomAt(seed, 9003) : 0,
    air: Math.min(1, Math.max(0.05, 0.6 + 0.25 * bellAt(seed, 9004))),
  };
  return simulateJudged({
    plan,
    seed,
    scenario: { id: 'sound', label: '' },
    plant: (from, acts) => tried(plan, trial, from, acts),
    byHand: true,
    run,
    author: 'Simulated',
    device: 'simulated',
    startAt,
    offsetMinutes: 0,
  }).judgement.verdict;
}

/** Sizes around *sure* in even steps of their logarithm, from one up. */
export const sizesFrom = (from: number, { alone, sure }: Pick<Part, 'alone' | 'sure'>, count: number): readonly number[] => {
  const to = 1.5 * Number(sure ?? alone ?? '1');
  return Array.from({ length: count }, (_, index) => from * (to / from) ** (index / (count - 1)));
};

/** Where the sizes begin: at half of what shows if nothing else moves, or lower, as long as a few tries are still caught there. */
function begins(plan: Plan, part: Part, startAt: number): number {
  let from = 0.5 * Number(part.alone ?? part.sure ?? '1');
  // A limit that is a rate itself passes what lies under it.
  if (part.contents.kind === 'flow' || part.factor !== undefined) return from;
  for (let halved = 0; halved < 5; halved += 1) {
    let passed = 0;
    for (let index = 0; index < 8; index += 1)
      if (passes.has(tryLeak(plan, part, toSi(from, part.unit), 500_000 + index, startAt))) passed += 1;
    if (passed >= 4) break;
    from /= 2;
  }
  return from;
}

/** The runs of a curve, size by size: each step of it is handed out, so that whoever asks can show how far it is and stop. */
export function* detecting({
  plan,
  part,
  sizes = 12,
  runs = 200,
  share: { nth, of } = { nth: 0, of: 1 },
}: Asked): Generator<number, Tally> {
  const own = Array.from({ length: runs }, (_, index) => index).filter((index) => index % of === nth);
  const all = (sizes + 1) * own.length;
  const startAt = dayOf(plan);
  let done = 0;
  const verdicts = function* (leak: number, from: number): Generator<number, readonly string[]> {
    const found: string[] = [];
    for (const index of own) {
      found.push(tryLeak(plan, part, leak, from + index, startAt));
      done += 1;
      if (done % 10 === 0 || done === all) yield done / all;
    }
    return found;
  };
  const sound = yield* verdicts(0, 700_000);
  const failed = sound.filter((verdict) => verdict === 'fail' || verdict === 'restricted').length;
  const tallied: Size[] = [];
  for (const [place, leak] of sizesFrom(begins(plan, part, startAt), part, sizes).entries()) {
    const found = yield* verdicts(toSi(leak, part.unit), 1000 * (place + 1));
    tallied.push({ leak, runs: own.length, passed: found.filter((verdict) => passes.has(verdict)).length });
  }
  return {
    sizes: tallied,
    sound: { runs: own.length, failed, open: sound.filter((verdict) => !passes.has(verdict)).length - failed },
  };
}

/** The curve that the tallies of all who tried come to. @param tallies of the same plan, part and sizes; one at least */
export function curveOf(plan: Plan, part: Part, tallies: readonly Tally[]): Detection {
  const sum = (count: (tally: Tally) => number): number => tallies.reduce((total, tally) => total + count(tally), 0);
  const sizes = (tallies[0]?.sizes ?? []).map(({ leak }, place) => ({
    leak,
    runs: sum((tally) => tally.sizes[place]?.runs ?? 0),
    passed: sum((tally) => tally.sizes[place]?.passed ?? 0),
  }));
  return {
    plan: plan.hash,
    part: part.what,
    unit: part.unit,
    alone: Number(part.alone ?? '0'),
    sure: part.sure === undefined ? undefined : Number(part.sure),
    sizes,
    sound: { runs: sum(({ sound }) => sound.runs), failed: sum(({ sound }) => sound.failed), open: sum(({ sound }) => sound.open) },
    halfCaught: caughtAt(sizes, 0.5),
    surelyCaught: caughtAt(sizes, 0.95),
  };
}

/**
 * The size from which so large a share is caught: above the largest size that is caught less often, by straight line over the logarithm
 * of the size. Undefined where the sizes do not reach so far on both sides.
 */
export function caughtAt(sizes: readonly Size[], share: number): number | undefined {
  const caught = sizes.map(({ leak, runs, passed }) => ({ leak, share: 1 - passed / runs }));
  const last = caught.findLastIndex((one) => one.share < share);
  const [below, above] = [caught[last], caught[last + 1]];
  if (below === undefined || above === undefined) return undefined;
  return below.leak * (above.leak / below.leak) ** ((share - below.share) / (above.share - below.share));
}

/** The whole curve at once. */
export function detect(asked: Asked): Detection {
  const steps = detecting(asked);
  for (;;) {
    const { done, value } = steps.next();
    if (done === true) return curveOf(asked.plan, asked.part, [value]);
  }
}

/** For sentences: a size with two digits. */
export const sizeText = (leak: number): string => String(Number(leak.toPrecision(2)));
