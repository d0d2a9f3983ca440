import { aimOf, instrumentOf, type MeasurePhase, middleOf, onGauge, type Phase, quantityRead, unitOfHold } from '@/core/course';
import { type EventOf, heldSoFar, type PhaseJudgement, type RunEvent } from '@/core/judging';
import { inBand, makeUpPoints } from '@/core/limits';
import type { Plan } from '@/core/planning';
import { decimal, fromSi, toSi, unitLabel } from '@/core/quantities';
import type { Ask } from './run-model';

/** Something that can be done to a simulated plant, with the key that does it. */
export interface PlantMove {
  readonly action: EventOf<'plant'>['action'];
  readonly value: string;
  readonly label: string;
  readonly key: 'Z' | 'U';
}

/**
 * What hands would do to the plant before the next figure is read: zero, raise, feed, pump back.
 * @param shown what the open hold's gauge shows now
 */
export function plantMoves(
  plan: Plan,
  phase: Phase,
  state: PhaseJudgement | undefined,
  events: readonly RunEvent[],
  ask: Ask | undefined,
  shown?: string,
): readonly PlantMove[] {
  const feed: PlantMove = { action: 'feed', value: '1', label: 'Open the supply', key: 'U' };
  switch (phase.kind) {
    case 'zero':
      return [{ action: 'zero', value: '0', label: 'Zero it', key: 'Z' }];
    case 'hold': {
      // A level is filled by the step before; it cannot be raised from the gauge.
      if (heldSoFar(state) !== undefined || quantityRead(plan, phase) !== 'pressure')
        return phase.fed === true && heldSoFar(state) === undefined ? [feed] : [];
      if (phase.fed === true) return [feed];
      const { unit } = instrumentOf(plan, phase.instrument);
      const figure = unit === unitOfHold(plan, phase) ? middleOf(phase) : onGauge(plan, middleOf(phase), phase);
      // A hold that goes on where the last one ended starts as it stands: pipe that was let down again would only creep back.
      const goesOn = phase.purpose !== 'let-by' && phase.limit.kind !== 'wait';
      if (shown !== undefined && goesOn && inBand(decimal(shown), unit, phase.band.low, phase.band.high, unitOfHold(plan, phase)))
        return [];
      const way = Number(shown) > Number(figure) ? 'Lower' : 'Raise';
      return [{ action: 'raise', value: aimOf(plan, phase), label: `${way} to ${figure} ${unitLabel(unit)}`, key: 'U' }];
    }
    case 'measure':
      return measureMoves(plan, phase, events, ask, feed);
    default:
      return [];
  }
}

function measureMoves(
  plan: Plan,
  phase: MeasurePhase,
  events: readonly RunEvent[],
  ask: Ask | undefined,
  feed: PlantMove,
): readonly PlantMove[] {
  if (phase.fed === true) return [feed];
  const aim = ask?.point?.aim;
  // Pumped once for each pressure: the water is counted after it.
  if (phase.limit.kind === 'air-at-most' && aim !== undefined && ask?.quantity === 'pressure')
    return [{ action: 'raise', value: aim, label: `Pump to ${aim} ${unitLabel(plan.unit)}`, key: 'U' }];
  if (phase.limit.kind === 'make-up-at-most') {
    const { hold } = phase.limit;
    const read = events.filter(
      (event): event is EventOf<'reading'> => event.type === 'reading' && event.phase === hold && event.quantity === 'pressure',
    );
    const start = read.findLast(({ role }) => role === 'start');
    if (start === undefined) return [];
    const lowest = read.reduce(
      (least, one) => (toSi(Number(one.value), one.unit) < toSi(Number(least.value), least.unit) ? one : least),
      start,
    );
    const back = ask?.point?.id !== makeUpPoints.drawn;
    const to = back ? start : lowest;
    return [
      {
        action: 'raise',
        value: String(fromSi(toSi(Number(to.value), to.unit), plan.unit)),
        label: `${back ? 'Pump back' : 'Draw down'} to ${to.value} ${unitLabel(to.unit)}`,
        key: 'U',
      },
    ];
  }
  return [];
}
