import { isPass, type Judgement } from '../judging';
import { supplyNeeded } from '../planning';
import type { Procedure } from '../procedures';

/** What whoever lives there can be told: a supply that is off, and from when on it may be back; or that it is. */
export type OccupierNews =
  | { readonly is: 'off'; readonly of: string; readonly until: number }
  | { readonly is: 'back'; readonly of: string };

/**
 * What can be told just now. That a supply is back is said only after a pass, where the steps that restore it were gone through: after
 * anything else it may have been left off, and only a person who was there knows.
 * @param dueAt when the open hold ends, ms; nothing is promised before it
 */
export function occupierNews(
  procedure: Pick<Procedure, 'tasks'>,
  { verdict, current, phases }: Pick<Judgement, 'verdict' | 'current' | 'phases'>,
  dueAt: number | undefined,
): OccupierNews | undefined {
  if (verdict !== 'in progress') {
    const off = procedure.tasks.find(({ supply }) => supply?.state === 'off')?.supply;
    const restored = procedure.tasks.some(
      ({ supply, phases: own = [] }) =>
        supply?.state === 'on' && supply.of === off?.of && phases.some(({ id, state }) => own.includes(id) && state === 'done'),
    );
    return off !== undefined && restored && isPass(verdict) ? { is: 'back', of: off.of } : undefined;
  }
  const need = current === undefined ? undefined : supplyNeeded({ procedure, phase: current });
  return need?.state === 'off' && dueAt !== undefined ? { is: 'off', of: need.of, until: dueAt } : undefined;
}

const asks: Readonly<Record<string, string>> = {
  water: 'Please draw none and flush nothing until we say that it is back.',
  gas: 'Please light nothing and leave appliances off until we say that it is back.',
};

/** The news in words to be copied or shared. @param clock the moment as its reader’s clock shows it */
export const occupierWords = (news: OccupierNews, clock: (at: number) => string): string =>
  news.is === 'off'
    ? `No ${news.of} until ${clock(news.until)} at the earliest. ${asks[news.of] ?? ''}`.trim()
    : `The ${news.of} is back: the test is over and the supply is on again.`;
