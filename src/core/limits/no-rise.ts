import { decimalText, may } from '../exact/shape';
import { compare, type Decimal, decimal, negate, subtract, toText } from '../quantities';
import { compareAcross } from './compare';
import type { HoldFacts } from './facts';
import { heldFigures, heldLine, holdData, holdRoom, plain, stoppedBefore, type Verdict } from './room';
import { finder, reason } from './say';

const sum = (d: Readonly<Record<'start' | 'end' | 'fall' | 'unit' | 'threshold' | 'limitUnit', string>>): readonly string[] => [
  `${d.start} − ${d.end} = ${d.fall} ${d.unit}`,
  `Perceptible from ${d.threshold} ${d.limitUnit}`,
];

const says = {
  'let-by-steady': reason<'start' | 'end' | 'unit' | 'time' | 'fall' | 'threshold' | 'limitUnit'>(
    'note',
    (d) => `The supply valve does not let by: ${d.start} to ${d.end} ${d.unit} in ${d.time}.`,
    sum,
  ),
  'let-by-fall': reason<'title' | 'start' | 'end' | 'fall' | 'unit' | 'threshold' | 'limitUnit'>(
    'note',
    (d) =>
      `${d.title}: the gauge fell ${d.fall} ${d.unit}: noted, and the test goes on. A falling gauge proves no valve; the hold must fall as fast, or the let-by is done again.`,
    sum,
  ),
  'let-by-rise': reason<'title' | 'start' | 'end' | 'fall' | 'rise' | 'unit' | 'threshold' | 'limitUnit'>(
    'note',
    (d) => `${d.title}: the gauge rose ${d.rise} ${d.unit}; perceptible from ${d.threshold} ${d.limitUnit}.`,
    sum,
  ),
  'slight-rise': reason<'title' | 'rise' | 'unit'>(
    'inconclusive',
    (d) => `${d.title}: the gauge rose ${d.rise} ${d.unit}, which a third of a degree makes too. Repeat it once; a second rise counts.`,
  ),
} as const;
const find = finder(says);

/** Largest rise of a hold: from start to end, or above the lowest that stood before, where that is more than a step (DOMAIN 4.20). */
export function riseOf(facts: HoldFacts, stood = facts.stood(facts.end.at)): Decimal {
  const ends = subtract(facts.end.value, facts.start.value);
  return compare(stood.rise, facts.step) > 0 && compare(stood.rise, ends) > 0 ? stood.rise : ends;
}

/** A movement so small that the weather alone may make it, where a limit names how small. */
export const isSlight = (facts: HoldFacts, movement: Decimal, slight: string | undefined): boolean =>
  slight !== undefined && compareAcross(movement, facts.unit, decimal(slight), facts.limitUnit) < 0;

/** A rise at or above the threshold fails: a let-by, a seepage, a creep. A fall is noted. */
export const noRise = holdRoom(
  'no-rise',
  { threshold: decimalText, slight: may(decimalText) },
  {
    decides: false,
    says,
    sum: (data) => sum(data as never),
    hoped: () => 'steady',
    outcomes: ({ slight }) => ['steady', 'fall', 'rise', ...(slight === undefined ? [] : (['slight'] as const)), 'stopped'],
    judge: ({ threshold, slight }, facts) => {
      const rise = riseOf(facts);
      const data = { ...holdData(facts), rise: toText(rise), threshold };
      const reaches = (movement: Decimal) => compareAcross(movement, facts.unit, decimal(threshold), facts.limitUnit) >= 0;
      const say = (outcome: string, effect: Verdict['effect'], code: keyof typeof says): Verdict => ({
        outcome,
        effect,
        data,
        findings: [find(code, data)],
      });
      const fall = subtract(facts.start.value, facts.end.value);
      // What a third of a degree makes is looked at once more before anything is charged with it.
      if (reaches(rise) && facts.round === 1 && isSlight(facts, rise, slight)) return say('slight', 'spoils', 'slight-rise');
      if (reaches(rise)) return say('rise', 'fails', 'let-by-rise');
      return stoppedBefore(
        reaches(fall) && !reaches(negate(fall)) ? say('fall', 'leads on', 'let-by-fall') : say('steady', 'proves', 'let-by-steady'),
        facts,
      );
    },
    words: ({ threshold }, unit) => `No rise: ${threshold} ${unit} or more counts.`,
    threshold: ({ threshold }) => threshold,
    lines: ({ threshold }) => [{ at: Number(threshold), of: 'start', label: 'limit', decides: true, side: 'above' }],
    reach: ({ threshold }, _, start) => [start - Number(threshold) * 1.6, start + Number(threshold) * 2.4],
    reports: heldLine,
    figures: (d) => heldFigures(d, `a rise counts from ${plain(d.threshold)} ${d.limitUnit}`),
  },
);
