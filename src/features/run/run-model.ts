import type { Estimate, Point } from '@/core/judging/estimate';
import type { EventOf, ReadingRole, RunEvent } from '@/core/judging/events';
import type { Judgement, PhaseJudgement } from '@/core/judging/judge';
import { bandOnGauge, inPlanUnit, onGauge } from '@/core/planning/gauge-scale';
import type { Plan } from '@/core/planning/plan';
import { type HoldPhase, type Phase, thresholdOf } from '@/core/procedures/phases';
import { decimalsOf, unitLabel } from '@/core/quantities';

/** What the run screen shows now, derived from plan, judgement and the time; stores nothing. */
export interface Now {
  readonly phase?: Phase;
  readonly state?: PhaseJudgement;
  /** The judgement as the picture shows it: while a settling time runs, that phase is the open one. */
  readonly view: Judgement;
  /** Settling until then; the next start reading is not accepted earlier. */
  readonly settlingUntil?: number;
  /** The open hold has its start reading and is not over. */
  readonly holding: boolean;
  /** What the large button stamps now. */
  readonly role?: ReadingRole;
}

export function presentOf(plan: Plan, judgement: Judgement, time: number): Now {
  const phase = plan.phases.find(({ id }) => id === judgement.current);
  const state = judgement.phases.find(({ id }) => id === judgement.current);
  const settlingUntil =
    phase?.kind === 'hold' && state?.startAt === undefined && judgement.openFrom !== undefined && time < judgement.openFrom
      ? judgement.openFrom
      : undefined;
  if (settlingUntil !== undefined) {
    const settling = judgement.phases.findLast(({ dueAt }) => dueAt === settlingUntil);
    const view = {
      ...judgement,
      ...(settling === undefined ? {} : { current: settling.id }),
      phases: judgement.phases.map((one) =>
        one.id === settling?.id
          ? { ...one, state: 'current' as const }
          : one.id === judgement.current
            ? { ...one, state: 'waiting' as const }
            : one,
      ),
    };
    return {
      phase: plan.phases.find(({ id }) => id === settling?.id) ?? phase,
      ...(settling === undefined ? {} : { state: settling }),
      view,
      settlingUntil,
      holding: false,
    };
  }
  const holding = phase?.kind === 'hold' && state?.startAt !== undefined && state.spoilt !== true;
  return {
    ...(phase === undefined ? {} : { phase }),
    ...(state === undefined ? {} : { state }),
    view: judgement,
    holding,
    ...(phase === undefined || (state?.spoilt === true && phase.kind !== 'zero') ? {} : roleOf(phase, state, time)),
  };
}

function roleOf(phase: Phase, state: PhaseJudgement | undefined, time: number): { role?: ReadingRole } {
  if (phase.kind === 'zero') return { role: 'zero' };
  if (phase.kind !== 'hold') return {};
  if (state?.startAt === undefined) return { role: 'start' };
  return { role: time >= (state.dueAt ?? 0) ? 'end' : 'between' };
}

/** A stamp whose figure is still to be typed. */
export function pendingStamp(
  events: readonly RunEvent[],
  phase: string | undefined,
  round: number | undefined,
  device: string,
): EventOf<'stamp'> | undefined {
  const used = new Set(events.flatMap((event) => (event.type === 'reading' && event.stamp !== undefined ? [event.stamp] : [])));
  const discarded = new Set(events.flatMap((event) => (event.type === 'withdrawn' ? [event.reading] : [])));
  return events.findLast(
    (event): event is EventOf<'stamp'> =>
      event.type === 'stamp' &&
      event.device === device &&
      event.phase === phase &&
      event.round === round &&
      !used.has(event.id) &&
      !discarded.has(event.id),
  );
}

/** Pressure readings of a phase's round that still stand, in the order in which they were taken. */
export const openReadings = (
  events: readonly RunEvent[],
  withdrawn: readonly string[],
  phase: string,
  round: number,
): readonly EventOf<'reading'>[] =>
  events
    .filter(
      (event): event is EventOf<'reading'> =>
        event.type === 'reading' &&
        event.quantity === 'pressure' &&
        event.phase === phase &&
        event.round === round &&
        !withdrawn.includes(event.id),
    )
    .sort((a, b) => a.observedAt - b.observedAt);

/** The estimate in words. A forecast never replaces the time. */
export function estimateWords(estimate: Estimate, unit: string, phase?: Phase): string {
  const figures = `Forecast fall ${estimate.forecast.toFixed(2)} ${unit} (${estimate.forecastLow.toFixed(2)} to ${estimate.forecastHigh.toFixed(2)}) when due`;
  if (estimate.status === 'below') {
    const criterion = phase?.kind === 'hold' && phase.criterion.kind === 'no-fall' ? phase.criterion : undefined;
    return criterion?.permitted !== undefined && estimate.forecast >= Number(criterion.threshold)
      ? `${figures}: within the permitted ${criterion.permitted} so far, but perceptible: the pipework alone will have to show none. The full time still counts.`
      : `${figures}: below the limit so far. The full time still counts.`;
  }
  if (estimate.status === 'above') return `${figures}: above the limit. You may stop early.`;
  return `${figures}: cannot tell yet${estimate.secondsNeeded === undefined ? '' : `, about ${estimate.secondsNeeded} s more at this gauge`}.`;
}

/** How far the gauge has moved in the open hold, and what would count: where no forecast is made yet, or none can be. */
export function soFarWords(plan: Plan, phase: Phase | undefined, start: string | undefined, points: readonly Point[]): string | undefined {
  const last = points.at(-1);
  const perceptible = phase?.kind === 'hold' ? thresholdOf(phase.criterion) : undefined;
  if (phase?.kind !== 'hold' || perceptible === undefined || start === undefined || last === undefined || points.length < 2)
    return undefined;
  const unit = unitLabel(plan.unit);
  const fall = inPlanUnit(plan, Number(start), phase) - last.value;
  const size = Math.abs(fall).toFixed(plan.gauge.unit === plan.unit ? decimalsOf(plan.gauge.readability) : 2);
  const moved = Number(size) === 0 ? 'It has not moved' : `${fall > 0 ? 'Fallen' : 'Risen'} ${size} ${unit}`;
  const threshold = `${perceptible} ${unit}`;
  if (phase.criterion.kind === 'no-rise')
    return fall > 0 && Number(size) > 0
      ? `${moved} so far: noted, and the test goes on. A rise of ${threshold} would count.`
      : `${moved} so far; a rise of ${threshold} would count.`;
  return `${moved} so far; a movement of ${threshold} would be perceptible.`;
}

/** Where a start figure lies, with the action, in the words of the gauge that is looked at. */
export function bandAdvice(plan: Plan, phase: HoldPhase, value: string, isIn: boolean): string | undefined {
  if (isIn) return undefined;
  const { low, high } = bandOnGauge(plan, phase.band, phase);
  return `${value}: ${Number(value) > Number(high) ? 'bleed' : 'raise'} to ${low}–${high} ${unitLabel(plan.gauge.unit)}, then read again.`;
}

/** The one sentence that says what to do now. */
export function sentence(
  kind: string,
  say: string,
  now: { readonly settling: boolean; readonly holding: boolean; readonly left?: number; readonly spoilt: boolean },
): string {
  if (now.spoilt && kind === 'hold') return 'This round does not count. Read why, then repeat it or end the test.';
  if (now.settling)
    return (now.left ?? 0) <= 10_000
      ? 'Eyes on the gauge: the hold starts next.'
      : 'Let it settle. Nothing may be touched; re-adjust only if it drifts out of the band.';
  if (!now.holding || now.left === undefined) return say;
  if (now.left <= 0) return 'Due. Stamp the end reading now.';
  return now.left <= 10_000 ? 'Eyes on the gauge.' : 'Touch nothing. The clock runs.';
}

/** Twice the highest pressure of the plan on its gauge: a literal figure above it must be missing its point. */
export const plausible = (plan: Plan): string => {
  const highest = Number(onGauge(plan, plan.highest));
  return highest > 0 ? String(highest * 2) : '1000000';
};
