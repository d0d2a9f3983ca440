import type { Plan } from '../planning/plan';
import { isPressureUnit } from '../quantities';
import { type GuardState, guardState } from '../sizing/guard-gauge';
import type { EventOf, RunEvent } from './events';

/** A look at the guard gauge, and what it says against how it was left. */
export interface GuardLook {
  readonly event: EventOf<'guard'>;
  readonly state?: GuardState;
}

/** The guard gauge from its leaving on: the first reading is how it was left, each later one is held against it. */
export function guardLooks(plan: Plan, events: readonly RunEvent[]): readonly GuardLook[] {
  const { guard } = plan;
  const read = events.filter((event): event is EventOf<'guard'> => event.type === 'guard').sort((a, b) => a.observedAt - b.observedAt);
  const [left] = read;
  if (guard === undefined || left === undefined) return [];
  return read.map((event, index) => {
    const { unit } = event;
    if (index === 0 || !isPressureUnit(unit) || unit !== left.unit) return { event };
    const warmth = (one: EventOf<'guard'>) => (one.celsius === undefined ? {} : { celsius: Number(one.celsius) });
    const state = guardState({
      pipe: guard.pipe,
      unit,
      left: { pressure: Number(left.value), ...warmth(left) },
      now: { pressure: Number(event.value), ...warmth(event) },
      relaxingShare: Number(guard.relaxingShare),
      alarmShare: Number(guard.alarmShare),
    });
    return state.ok ? { event, state: state.value } : { event };
  });
}
