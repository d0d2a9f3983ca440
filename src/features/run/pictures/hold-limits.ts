import type { HoldPhase } from '@/core/course';
import { type LimitLine as RoomLine, roomOfHold } from '@/core/limits';
import type { Unit } from '@/core/quantities';

/** A line that a hold must not reach, in the hold's unit. */
export interface LimitLine {
  readonly at: number;
  readonly label: string;
  readonly decides: boolean;
  readonly side: 'above' | 'below';
}

const placed = ({ at, of, label, decides, side }: RoomLine, start: number | undefined): readonly LimitLine[] => {
  if (of === 'start' && start === undefined) return [];
  const value = of === 'start' ? (start ?? 0) + at : at;
  // A fall larger than what stands there is no line that a gauge could reach.
  if (side === 'below' && value < 0 && (start ?? 0) >= 0) return [];
  return [{ at: value, label: `${label} ${side === 'below' ? value.toFixed(2) : Number(value.toFixed(3))}`, decides, side }];
};

/** Lines that a hold is judged by, from its start reading where it has one: those of its limit, and what is connected may see. */
export function limitLines({ limit, seconds, ceiling }: HoldPhase, start: number | undefined, unit: Unit): readonly LimitLine[] {
  const lines = roomOfHold(limit)
    .lines(limit, { seconds, unit })
    .flatMap((line) => placed(line, start));
  return ceiling === undefined
    ? lines
    : [...lines, ...placed({ at: Number(ceiling), of: 'zero', label: 'ceiling', decides: true, side: 'above' }, start)];
}

/** How far the axis reaches about a start while its hold is watched, so that a movement at the threshold can be seen. */
export const closeUp = ({ limit, seconds }: HoldPhase, start: number | undefined, unit: Unit): readonly [number, number] | undefined =>
  start === undefined ? undefined : roomOfHold(limit).reach?.(limit, { seconds, unit }, start);
