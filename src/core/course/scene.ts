import { type LimitKind, type LimitLine, roomOfHold } from '../limits';
import type { Unit } from '../quantities';
import { quantityRead } from './instruments';
import type { HoldPhase, Phase } from './phases';
import type { PlanShape } from './plan-shape';

/** What stands above the blocks: pressure against time, or the picture of the phase that is looked at. */
export type Scene = 'trace' | 'level' | 'dial' | 'flow' | 'make-up' | 'air' | 'bands' | 'dye' | 'line map' | 'loops' | 'appliance round';

/** The scene of a phase. A list or a look without a picture of its own leaves the trace where it is. */
export function sceneOf(plan: Pick<PlanShape, 'gauge' | 'instruments'>, phase: Phase | undefined): Scene {
  if (phase?.picture !== undefined) return phase.picture;
  if (phase?.kind !== 'hold' && phase?.kind !== 'measure') return 'trace';
  const scene = scenes[phase.limit.kind];
  if (scene !== 'as read' || phase.kind !== 'hold') return scene === 'as read' ? 'trace' : scene;
  const reads = quantityRead(plan, phase);
  return reads === 'level' ? 'level' : reads === 'turns' ? 'dial' : 'trace';
}

/** Every kind of limit has its picture, or the one of what is read: the compiler misses none. */
const scenes = {
  wait: 'as read',
  'no-rise': 'as read',
  'no-fall': 'as read',
  'at-most': 'as read',
  keep: 'as read',
  'leak-rate': 'as read',
  dial: 'dial',
  recorded: 'trace',
  'in-bands': 'bands',
  'air-at-most': 'air',
  'flow-at-most': 'flow',
  'make-up-at-most': 'make-up',
} satisfies Record<LimitKind, Scene | 'as read'>;

/** A line that a hold must not reach, in the hold's unit. */
export interface PlacedLine {
  readonly at: number;
  readonly label: string;
  readonly decides: boolean;
  readonly side: 'above' | 'below';
}

const placed = ({ at, of, label, decides, side }: LimitLine, start: number | undefined): readonly PlacedLine[] => {
  if (of === 'start' && start === undefined) return [];
  const value = of === 'start' ? (start ?? 0) + at : at;
  // A fall larger than what stands there is no line that a gauge could reach.
  if (side === 'below' && value < 0 && (start ?? 0) >= 0) return [];
  return [{ at: value, label: `${label} ${Number(value.toFixed(3))}`, decides, side }];
};

/** Lines that a hold is judged by, from its start reading where it has one: those of its limit, and what is connected may see. */
export function limitLines({ limit, seconds, ceiling }: HoldPhase, start: number | undefined, unit: Unit): readonly PlacedLine[] {
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
