import { type HoldPhase, inPlanUnit, type Phase, quantityRead, unitOfHold } from '@/core/course';
import { heldSoFar, type Judgement, type PhaseJudgement } from '@/core/judging';
import type { LimitKind } from '@/core/limits';
import type { Plan } from '@/core/planning';
import { fromSi, isPressureUnit, toSi, type Unit } from '@/core/quantities';

/** Where a picture is drawn, px. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What stands above the blocks: pressure against time, or the picture of the phase that is looked at. */
export type Scene = 'trace' | 'level' | 'dial' | 'flow' | 'make-up' | 'air' | 'bands' | 'dye' | 'line map' | 'loops' | 'appliance round';

/** The scene of a phase. A list or a look without a picture of its own leaves the trace where it is. */
export function sceneOf(plan: Plan, phase: Phase | undefined): Scene {
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

/**
 * The phase that a picture is about: the open one where there is something to see in it; beside a list or a look, the
 * deciding one, once it is over or where no pressure is held at all.
 */
export function focusOf(plan: Plan, judgement: Judgement): Phase | undefined {
  const open = plan.phases.find(({ id }) => id === judgement.current);
  const deciding = plan.phases.find(({ id }) => id === plan.judgedBy);
  if (open === undefined) return deciding;
  if (open.kind === 'hold' || sceneOf(plan, open) !== 'trace') return open;
  const over = stateOf(judgement, plan.judgedBy)?.state === 'done';
  const holds = plan.phases.some((phase) => phase.kind === 'hold' && quantityRead(plan, phase) === 'pressure');
  return over || !holds ? deciding : open;
}

export const stateOf = (judgement: Judgement, id: string | undefined): PhaseJudgement | undefined =>
  judgement.phases.find((state) => state.id === id);

/** A figure of a hold in the unit that the axis has; none where the two are of different kinds, such as a level on a pressure axis. */
export function onAxis(plan: Plan, phase: HoldPhase, value: number, axis: Unit): number | undefined {
  const own = unitOfHold(plan, phase);
  if (own === axis) return value;
  return isPressureUnit(own) && isPressureUnit(axis) ? fromSi(toSi(value, own), axis) : undefined;
}

/** A phase's start reading in its own unit. */
export function startOf(plan: Plan, judgement: Judgement, phase: HoldPhase): number | undefined {
  const start = heldSoFar(stateOf(judgement, phase.id))?.start;
  return start === undefined ? undefined : inPlanUnit(plan, Number(start), phase);
}
