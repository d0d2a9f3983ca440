import { toSi } from '@/core/quantities';
import { type Case, planOf } from './cases';
import { Chance } from './chance';
import { Hand, partNamed } from './hand';

/** What so many runs came to, by verdict. */
export type Tally = Readonly<Record<string, number>>;

const day = 1_767_603_600_000;
const passes = ['pass', 'pass with permitted drop'];

/** The verdict of one run of a case: a leak of 1.05 to 1.5 times a size in m³/s, or none. */
export function runOf(one: Case, seed: number, size: number) {
  const plan = planOf(one);
  const chance = new Chance(seed);
  const scaled = size * chance.between(1.05, 1.5);
  const hand = new Hand(plan, one.place({ plan, part: partNamed(plan, one.what), size: scaled, chance }), chance, day);
  return { judgement: hand.run(), events: hand.events, plan };
}

/** Runs a case so often with leaks of 1.05 to 1.5 times one of its two figures. */
export function leaking(one: Case, runs: number, figure: 'alone' | 'sure'): Tally {
  const part = partNamed(planOf(one), one.what);
  const size = part[figure];
  return size === undefined ? {} : tally(one, runs, toSi(Number(size), part.unit), 100_000);
}

/** Runs it so often with nothing wrong but what every place has: drift, air, an unsteady gauge, a hand that is early or late. */
export const sound = (one: Case, runs: number): Tally => tally(one, runs, 0, 150_000);

function tally(one: Case, runs: number, size: number, from: number): Tally {
  const found: Record<string, number> = {};
  for (let run = 0; run < runs; run += 1) {
    const { verdict } = runOf(one, from + run, size).judgement;
    found[verdict] = (found[verdict] ?? 0) + 1;
  }
  return found;
}

export const passedOf = (found: Tally): number => passes.reduce((sum, verdict) => sum + (found[verdict] ?? 0), 0);
export const failedOf = (found: Tally): number => (found.fail ?? 0) + (found.restricted ?? 0);
