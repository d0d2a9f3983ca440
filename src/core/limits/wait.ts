import { holdData, holdRoom } from './room';

/** Only time must pass: a settling, which lets the next hold begin. */
export const wait = holdRoom(
  'wait',
  {},
  {
    decides: false,
    says: {},
    hoped: () => 'settled',
    outcomes: () => ['settled'],
    judge: (_, facts) => ({ outcome: 'settled', effect: 'leads on', data: holdData(facts), findings: [] }),
    words: () => 'Only time passes.',
    lines: () => [],
    reports: (d) => `from ${d.start} ${d.unit}, settled ${d.time}`,
    figures: (d) => [{ label: 'Settled', value: d.time ?? '', unit: '' }],
  },
);
