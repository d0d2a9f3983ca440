import { decimalText } from '../exact/shape';
import { testDialFlow } from '../physics/test-dial';
import { absolute, decimal, fromSi, subtract, toNumber, toText } from '../quantities';
import { compareAcross } from './compare';
import { holdData, holdRoom, stoppedBefore } from './room';
import { finder, reason } from './say';

type Turned = 'title' | 'turned' | 'threshold' | 'litresPerTurn' | 'seconds' | 'rate';
const sum = (d: Readonly<Record<Turned, string>>): readonly string[] => [
  `${d.litresPerTurn} L × ${d.turned} turn / ${d.seconds} s = ${d.rate} L/h`,
];
const says = {
  'dial-still': reason<Turned>('note', (d) => `${d.title}: the dial stood still (${d.turned} turn; seen from ${d.threshold}).`, sum),
  'dial-moved': reason<Turned>('note', (d) => `${d.title}: the dial moved ${d.turned} turn, ${d.rate} L/h.`, sum),
} as const;
const find = finder(says);

/** Turns of a meter's smallest dial over the hold; at the threshold it moved, and the turns give the rate (DOMAIN 3.5, 5.2). */
export const dial = holdRoom(
  'dial',
  { threshold: decimalText, litresPerTurn: decimalText },
  {
    decides: true,
    says,
    sum: (data) => sum(data as never),
    hoped: () => 'still',
    outcomes: () => ['still', 'moved', 'stopped'],
    judge: ({ threshold, litresPerTurn }, facts) => {
      const turned = absolute(subtract(facts.end.value, facts.start.value));
      const seconds = (facts.end.at - facts.start.at) / 1000;
      const flow = testDialFlow(Number(litresPerTurn) / 1000, toNumber(turned), Math.max(1, seconds));
      const moved = compareAcross(turned, facts.unit, decimal(threshold), facts.limitUnit) >= 0;
      const data = {
        ...holdData(facts),
        turned: toText(turned),
        rate: flow.ok ? fromSi(flow.value, 'L/h').toFixed(2) : '',
        threshold,
        litresPerTurn,
      };
      return stoppedBefore(
        {
          outcome: moved ? 'moved' : 'still',
          effect: moved ? 'fails' : 'proves',
          data,
          findings: [find(moved ? 'dial-moved' : 'dial-still', data)],
        },
        facts,
      );
    },
    words: ({ threshold }) => `The dial must not move: ${threshold} turn counts.`,
    threshold: ({ threshold }) => threshold,
    lines: () => [],
    reports: (d) => `${d.start} to ${d.end} turn in ${d.time}, ${d.turned} turn, ${d.rate} L/h`,
    figures: (d) => [
      { label: 'Turned', value: d.turned ?? '', unit: 'turn', beside: `seen from ${d.threshold}` },
      { label: 'Which is', value: d.rate ?? '', unit: 'L/h' },
      { label: 'Watched', value: d.time ?? '', unit: '' },
    ],
  },
);
