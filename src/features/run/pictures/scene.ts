import { type HoldPhase, inPlanUnit, type Phase, quantityRead, sceneOf, unitOfHold } from '@/core/course';
import { heldSoFar, type Judgement, type PhaseJudgement } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { fromSi, isPressureUnit, toSi, type Unit } from '@/core/quantities';

/** Where a picture is drawn, px. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

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
