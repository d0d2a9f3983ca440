import { decimalText, list, may, name, shape } from '../exact/shape';
import { compare, decimal, negate, subtract, toText } from '../quantities';
import { bandOf, compareAcross } from './compare';
import { isSlight, riseOf } from './no-rise';
import { heldLine, holdData, holdRoom, stoppedBefore } from './room';
import { finder, reason } from './say';

export const bandSteps = list(shape({ below: decimalText, outcome: name }), 20);
/** Names for ranges of a figure: the first whose `below` it does not reach, else `beyond`. */
export const bandNames = shape({ steps: bandSteps, beyond: name });

type Level = 'title' | 'highest' | 'unit' | 'limit' | 'limitUnit';
const sum = (d: Readonly<Record<Level | 'rise' | 'creep', string>>): readonly string[] => [
  `Highest ${d.highest} ${d.unit}, at most ${d.limit} ${d.limitUnit}`,
  ...(d.creep === '' ? [] : [`Rise ${d.rise} ${d.unit}, creep from ${d.creep} ${d.limitUnit}`]),
];
const says = {
  'level-within': reason<Level | 'rise' | 'creep'>(
    'note',
    (d) => `${d.title}: at most ${d.highest} ${d.unit}; up to ${d.limit} ${d.limitUnit} is in order.`,
    sum,
  ),
  'level-over': reason<Level | 'rise' | 'creep'>(
    'note',
    (d) => `${d.title}: ${d.highest} ${d.unit}, over the ${d.limit} ${d.limitUnit} that is in order.`,
    sum,
  ),
  'slight-creep': reason<'title' | 'rise' | 'unit'>(
    'inconclusive',
    (d) =>
      `${d.title}: the pressure rose ${d.rise} ${d.unit}, which a third of a degree makes too. Repeat it once; a second rise is creep.`,
  ),
} as const;
const find = finder(says);

/**
 * No reading may stand above the limit, at it is still within: a regulator's lock-up. A rise at or above `creep` has its own
 * outcome; else the end falls into the first band whose `below` it does not reach, or beyond them all.
 */
export const atMost = holdRoom(
  'at-most',
  { limit: decimalText, creep: may(decimalText), slight: may(decimalText), bands: may(bandNames) },
  {
    decides: true,
    says,
    sum: (data) => sum(data as never),
    hoped: ({ bands }) => (bands === undefined || bands.steps.some(({ outcome }) => outcome === 'within') ? 'within' : bands.beyond),
    outcomes: ({ creep, slight, bands }) => [
      ...(bands === undefined ? ['within'] : [...bands.steps.map(({ outcome }) => outcome), bands.beyond]),
      ...(creep === undefined ? [] : ['creep']),
      ...(slight === undefined ? [] : ['slight']),
      'over',
      'stopped',
    ],
    judge: ({ limit, creep, slight, bands }, facts) => {
      const stood = facts.stood(facts.end.at);
      const against = (value: typeof facts.start.value, other: string) => compareAcross(value, facts.unit, decimal(other), facts.limitUnit);
      const over = against(stood.highest, limit) > 0;
      const rise = riseOf(facts, stood);
      const creeps = creep !== undefined && compare(rise, decimal('0')) > 0 && against(rise, creep) >= 0;
      const again = creeps && !over && facts.round === 1 && isSlight(facts, rise, slight);
      const outcome = over
        ? 'over'
        : creeps
          ? again
            ? 'slight'
            : 'creep'
          : bands === undefined
            ? 'within'
            : bandOf(bands, facts.end.value, facts.unit, facts.limitUnit);
      const fall = subtract(facts.start.value, facts.end.value);
      const data = {
        ...holdData(facts),
        rise: toText(compare(rise, decimal('0')) > 0 ? rise : negate(fall)),
        highest: toText(stood.highest),
        limit,
        creep: creep ?? '',
      };
      return stoppedBefore(
        {
          outcome,
          effect: again ? 'spoils' : over || creeps ? 'fails' : 'leads on',
          data,
          findings: [...(again ? [find('slight-creep', data)] : []), find(over ? 'level-over' : 'level-within', data)],
        },
        facts,
      );
    },
    words: ({ limit, creep }, unit) => `Never above ${limit} ${unit}${creep === undefined ? '' : `, and no creep of ${creep} ${unit}`}.`,
    lines: ({ limit, creep }) => [
      { at: Number(limit), of: 'zero', label: 'never above', decides: true, side: 'above' },
      ...(creep === undefined ? [] : [{ at: Number(creep), of: 'start' as const, label: 'creep', decides: true, side: 'above' as const }]),
    ],
    reach: ({ limit }, _, start) => [Math.min(start, Number(limit)) * 0.85, Number(limit) * 1.08],
    reports: heldLine,
    figures: (d) => [
      { label: 'Highest', value: d.highest ?? '', unit: d.unit ?? '', beside: `at most ${d.limit} ${d.limitUnit}` },
      { label: 'Held', value: d.time ?? '', unit: '' },
    ],
  },
);
