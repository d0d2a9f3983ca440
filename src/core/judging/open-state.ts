import { owedBy } from './facts';
import { itemStates, type Open, owesUntil, pointStates, readBetween } from './open';

/** What an open phase shows of itself. */
export function openState(open: Open) {
  switch (open.is) {
    case 'ticking':
      return { state: 'current', is: 'ticking', items: itemStates(open) } as const;
    case 'looking':
      return { state: 'current', is: 'looking' } as const;
    case 'zeroing':
      return { state: 'current', is: 'zeroing', shown: open.shown?.value } as const;
    case 'unstarted':
      return { state: 'current', is: 'unstarted' } as const;
    case 'running':
    case 'ended': {
      const begun = { startAt: open.start.event.observedAt, dueAt: open.dueAt, start: open.start.event.value };
      if (open.spoiling.length > 0)
        return { state: 'current', is: 'spoilt', outcome: 'void', came: { of: 'hold', ...begun, data: {} } } as const;
      if (open.is === 'running') return { state: 'current', is: 'running', ...begun } as const;
      return {
        state: 'current',
        is: 'ended',
        ...begun,
        endAt: open.end.event.observedAt,
        end: open.end.event.value,
        owes: owedBy(open.phase, open.read, open.start, open.end),
        until: owesUntil(open),
      } as const;
    }
    case 'measuring':
      return { state: 'current', is: 'measuring', points: pointStates(open), startAt: readBetween(open)?.[0] } as const;
  }
}
