import { procedures } from '.';
import { namesMet, plansOf } from './card.fixture';

/* What a card names is what its courses hold: the compiler sees the one, this the other. Choices in pairs: `card.long.test.ts`. */

test.each(procedures.map(({ id, phases }) => [id, phases] as const))('%s', (id, names) => {
  namesMet(plansOf(id, false), names);
});
