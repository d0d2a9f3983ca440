import { decimalText, may } from '../exact/shape';
import { decimal, subtract, toText } from '../quantities';
import { compareAcross } from './compare';
import { heldLine, holdData, holdRoom, stoppedBefore } from './room';
import { finder, reason } from './say';

type Kept = 'title' | 'start' | 'lowest' | 'deepest' | 'end' | 'unit' | 'within' | 'limitUnit';
const sum = (d: Readonly<Record<Kept, string>>): readonly string[] => [`Start ${d.start}, lowest ${d.lowest}, end ${d.end} ${d.unit}`];
const says = {
  'fell-too-far': reason<Kept>(
    'inconclusive',
    (d) =>
      `The pressure fell ${d.deepest} ${d.unit} during ${d.title}. A fall of more than ${d.within} ${d.limitUnit} is pumped back during the hold, unless the engineer’s written criterion says otherwise: repeat, pumping back.`,
    sum,
  ),
  'pumped-unmeasured': reason<Kept>(
    'inconclusive',
    (d) =>
      `The pressure rose during ${d.title} (${d.start}, lowest ${d.lowest}, end ${d.end} ${d.unit}), so water was pumped in, and no volume stands beside it. The make-up would be wrong: repeat, measuring all that is pumped.`,
    sum,
  ),
} as const;
const find = finder(says);

/** A later phase decides; a fall of more than `within` in any reading spoils the hold, where one is named, and so does a rise with no water written down. */
export const keep = holdRoom(
  'keep',
  { within: may(decimalText) },
  {
    decides: true,
    says,
    sum: (data) => sum(data as never),
    hoped: () => 'kept',
    outcomes: () => ['kept', 'fell', 'pumped', 'stopped'],
    judge: ({ within }, facts) => {
      const { lowest } = facts.stood(facts.end.at);
      const deepest = subtract(facts.start.value, lowest);
      const fell = within !== undefined && compareAcross(deepest, facts.unit, decimal(within), facts.limitUnit) > 0;
      // It can only have been pumped: water that nobody measured would be missing from the make-up.
      const unmeasured = facts.pumpedUnmeasured();
      const data = { ...holdData(facts), lowest: toText(lowest), deepest: toText(deepest), within: within ?? '' };
      const spoilt = fell || unmeasured;
      return stoppedBefore(
        {
          outcome: fell ? 'fell' : unmeasured ? 'pumped' : 'kept',
          effect: spoilt ? 'spoils' : 'leads on',
          data,
          findings: spoilt ? [find(fell ? 'fell-too-far' : 'pumped-unmeasured', data)] : [],
        },
        facts,
      );
    },
    words: ({ within }, unit) =>
      within === undefined ? 'A later phase decides.' : `It may fall by at most ${within} ${unit}; a later phase decides.`,
    lines: ({ within }) =>
      within === undefined ? [] : [{ at: -Number(within), of: 'start', label: 'pump back by', decides: true, side: 'below' }],
    reach: ({ within }, _, start) => (within === undefined ? undefined : [start - Number(within) * 1.6, start + Number(within) * 0.96]),
    reports: heldLine,
    figures: (d) => [
      {
        label: 'Lowest',
        value: d.lowest ?? '',
        unit: d.unit ?? '',
        ...((d.within ?? '') === '' ? {} : { beside: `it may fall by ${d.within} ${d.limitUnit}` }),
      },
      { label: 'Held', value: d.time ?? '', unit: '' },
      { label: 'From', value: d.start ?? '', unit: d.unit ?? '' },
    ],
  },
);
