import { type Estimate, estimateHold, type Point } from '@/core/judging/estimate';
import type { EventOf, ReadingRole, RunEvent } from '@/core/judging/events';
import type { Judgement, PhaseJudgement } from '@/core/judging/judge';
import type { Plan } from '@/core/planning/plan';
import type { HoldPhase, Phase } from '@/core/procedures/phases';
import { decimal, toNumber } from '@/core/quantities';
import type { GasTrack } from '@/core/simulation/gas-plant';
import type { Traced } from './course-picture';

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

/** The readings and traces of each hold's round, in seconds since its start; live from the simulated plant while it holds. */
export function tracesOf(judgement: Judgement, events: readonly RunEvent[], gauge: GasTrack | undefined, time: number): readonly Traced[] {
  return judgement.phases.flatMap((state): Traced[] => {
    if (state.startAt === undefined) return [];
    const startAt = state.startAt;
    const points: Point[] = [];
    let recorded = false;
    for (const event of events) {
      if (!('phase' in event) || event.phase !== state.id || !('round' in event) || event.round !== state.round) continue;
      if (event.type === 'reading' && event.quantity === 'pressure')
        points.push({ seconds: (event.observedAt - startAt) / 1000, value: toNumber(decimal(event.value)) });
      if (event.type === 'trace') {
        recorded = true;
        for (const [index, digits] of event.values.entries())
          points.push({ seconds: (event.startAt + index * event.stepMs - startAt) / 1000, value: Number(digits) / 10 ** event.scale });
      }
    }
    const running =
      state.endAt === undefined &&
      (state.id === judgement.current || (judgement.openFrom !== undefined && state.dueAt === judgement.openFrom));
    if (gauge !== undefined && running && !recorded)
      points.push(
        ...sampled(gauge, startAt, Math.min(time, startAt + 3_600_000)).map(({ at, shown }) => ({
          seconds: (at - startAt) / 1000,
          value: Number(shown),
        })),
      );
    return [{ phase: state.id, points: points.filter(({ seconds }) => seconds >= 0).sort((a, b) => a.seconds - b.seconds) }];
  });
}

/** What the simulated gauge showed, once a second. */
export function sampled(gauge: GasTrack, from: number, to: number): readonly { readonly at: number; readonly shown: string }[] {
  const samples: { at: number; shown: string }[] = [];
  for (let at = from; at <= to; at += 1000) samples.push({ at, shown: gauge.shownAt(at) });
  return samples;
}

/** The live estimate against the limit of the open hold: its permitted drop, or what can be perceived. */
export function estimateOf(plan: Plan, phase: Phase | undefined, points: readonly Point[]): Estimate | undefined {
  if (phase?.kind !== 'hold' || phase.criterion.kind !== 'no-fall' || plan.gauge.unit !== plan.unit) return undefined;
  const limit = Number(phase.criterion.permitted ?? phase.criterion.threshold);
  return estimateHold(points, Number(plan.gauge.readability), limit, phase.seconds);
}

/** The estimate in words. A forecast never replaces the time. */
export function estimateWords(estimate: Estimate, unit: string): string {
  const figures = `Forecast fall ${estimate.forecast.toFixed(2)} ${unit} (${estimate.forecastLow.toFixed(2)} to ${estimate.forecastHigh.toFixed(2)}) when due`;
  if (estimate.status === 'below') return `${figures}: below the limit so far. The full time still counts.`;
  if (estimate.status === 'above') return `${figures}: above the limit. You may stop early.`;
  return `${figures}: cannot tell yet${estimate.secondsNeeded === undefined ? '' : `, about ${estimate.secondsNeeded} s more at this gauge`}.`;
}

/** Where a start figure lies, with the action. */
export function bandAdvice(phase: HoldPhase, value: string, unit: string, inBand: boolean): string | undefined {
  if (inBand) return undefined;
  const high = Number(value) > Number(phase.band.high);
  return `${value}: ${high ? 'bleed' : 'raise'} to ${phase.band.low}–${phase.band.high} ${unit}, then read again.`;
}
