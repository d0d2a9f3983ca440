import type { Plan } from '../planning/plan';
import { compareEvents, type EventOf, type EventType, type RunEvent } from './events';

/** A run's events in the one order, each id once, sorted into kinds. */
export class Log {
  readonly events: readonly RunEvent[];
  private readonly kinds = new Map<EventType, RunEvent[]>();
  private readonly rounds = new Map<string, number>();

  constructor(
    events: readonly RunEvent[],
    private readonly plan: Plan,
  ) {
    const sorted = [...events].sort(compareEvents);
    const ids = new Set<string>();
    this.events = sorted.filter(({ id }) => !ids.has(id) && ids.add(id));
    for (const event of this.events) {
      const list = this.kinds.get(event.type);
      if (list === undefined) this.kinds.set(event.type, [event]);
      else list.push(event);
    }
    this.countRounds();
  }

  of<T extends EventType>(type: T): readonly EventOf<T>[] {
    return (this.kinds.get(type) ?? []) as unknown as readonly EventOf<T>[];
  }

  /** Round that counts for a phase: 1, and one more for every restart at or before it. */
  roundOf(phase: string): number {
    return this.rounds.get(phase) ?? 1;
  }

  /** Two devices restarting the same phase at once name the same new round, and the second changes nothing. */
  private countRounds(): void {
    const order = this.plan.phases.map(({ id }) => id);
    for (const restart of this.of('restart')) {
      const from = order.indexOf(restart.phase);
      if (from < 0 || restart.round !== this.roundOf(restart.phase) + 1) continue;
      for (const id of order.slice(from)) this.rounds.set(id, this.roundOf(id) + 1);
    }
  }

  inRound<
    T extends
      | 'check'
      | 'stamp'
      | 'reading'
      | 'disturbance'
      | 'hold-stopped'
      | 'leak-seen'
      | 'clock-jump'
      | 'gap'
      | 'trace'
      | 'observation'
      | 'not-reached',
  >(type: T, phase: string): readonly EventOf<T>[] {
    const round = this.roundOf(phase);
    return this.of(type).filter((event) => {
      const at = event as { readonly phase: string; readonly round: number };
      return at.phase === phase && at.round === round;
    });
  }
}
