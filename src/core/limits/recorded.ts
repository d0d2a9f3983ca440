import { measureRoom } from './room';

/** Nothing is decided: the figures are for the record. */
export const recorded = measureRoom(
  'recorded',
  {},
  {
    decides: false,
    says: {},
    hoped: () => 'recorded',
    outcomes: () => ['recorded'],
    judge: (_, { title }) => ({ outcome: 'recorded', effect: 'leads on', data: { title }, findings: [] }),
    words: () => 'Written down; decides nothing.',
    reports: () => 'written down',
    figures: () => [],
  },
);
