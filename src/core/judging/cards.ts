import type { Finding } from '../limits';
import type { Plan } from '../planning/plan';
import type { EventOf, RunEvent } from './events';
import { find } from './sayings';

type Card = EventOf<'appliance'>;

/** The cards of a round as they stand: of each appliance the last one, in the order in which they were begun. */
export const cardsOf = (events: readonly RunEvent[]): readonly Card[] => [
  ...new Map(events.flatMap((event) => (event.type === 'appliance' ? [[event.of ?? event.name, event] as const] : []))).values(),
];

/** What a round found: another appliance than before, and what is not in order. Neither says anything of tightness. */
export function cardFindings({ round = [] }: Plan, cards: readonly Card[]): readonly Finding[] {
  return cards.flatMap(({ name, was, serial, checks }) => [
    ...(was === undefined || was === serial ? [] : [find('appliance-swapped', { name, was, serial })]),
    ...checks
      .filter(({ ok }) => !ok)
      .map(({ id, todo = '' }) =>
        find('appliance-not-in-order', { name, check: round.find((one) => one.id === id)?.label ?? id, todo: todo.trim() }),
      ),
  ]);
}
