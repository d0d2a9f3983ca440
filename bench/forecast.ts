import { kept, parts, timesKept, worlds } from '@/core/judging/falls.fixture';
import type { Say } from './measures';

/** Whether the live estimate keeps its promise: how often its interval holds the truth, in every world that it is tried in. */
export function forecasts(say: Say): void {
  const runs = 400;
  let [covered, all, wrong, below] = [0, 0, 0, 0];
  for (const world of worlds) {
    const found = parts.map((part) => kept(world, part, runs));
    for (const one of found) {
      covered += one.covered;
      all += one.runs;
      wrong += one.wronglyBelow;
      below += one.below;
    }
    say(
      `Forecast, hold of ${world.hold.seconds} s, ${world.noise}, ${world.fall}`,
      found.map((one) => `${((100 * one.covered) / one.runs).toFixed(1)} %`).join(', '),
      `at ${parts.map((part) => 100 * part).join(', ')} % of the hold, ${runs} runs each`,
      '90 to 99 %',
    );
  }
  say('Forecast, all of them', `${((100 * covered) / all).toFixed(1)} %`, `${all} runs`, '90 to 99 %');
  say('“Below the limit” and wrong', `${((100 * wrong) / all).toFixed(2)} %`, `of ${all} runs; said ${below} times`, 'at most 5 %');
  const times = worlds.flatMap((world) => parts.map((part) => timesKept(world, part, 40)));
  const sum = (what: keyof (typeof times)[number]) => times.reduce((whole, one) => whole + one[what], 0);
  say(
    'Time still needed, between the two said',
    `${((100 * sum('between')) / sum('unclear')).toFixed(0)} %`,
    `${sum('unclear')} runs`,
    'nine of ten',
  );
  say(
    'Time still needed, told in one figure: within a quarter',
    `${((100 * sum('near')) / sum('told')).toFixed(0)} %`,
    `${sum('told')} runs`,
    'eight of ten',
  );
}
