import { procedures } from '.';
import { namesMet, plansOf } from './card.fixture';

/* Every choice beside every other: what a card names is what its courses hold, and none is named that no plan has. */

test.each(procedures.map(({ id, phases }) => [id, phases] as const))('%s', (id, names) => {
  expect(namesMet(plansOf(id, true), names)).toEqual([]);
});
