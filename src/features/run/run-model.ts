import type { Estimate, Point } from '@/core/judging/estimate';
import type { EventOf, ReadingRole, RunEvent } from '@/core/judging/events';
import type { Judgement, PhaseJudgement } from '@/core/judging/judge';
import { readingFault } from '@/core/judging/readings';
import type { Instrument } from '@/core/planning/gauge';
import { bandOnGauge, inPlanUnit, onGauge } from '@/core/planning/gauge-scale';
import { instrumentOf, quantityOf, quantityRead, unitOfHold } from '@/core/planning/instruments';
import type { Plan } from '@/core/planning/plan';
import { type HoldPhase, type MeasurePhase, type MeasurePoint, type Phase, type ReadQuantity, thresholdOf } from '@/core/procedures/phases';
import { decimalsOf, unitLabel } from '@/core/quantities';

/** A figure that is to be read next. */
export interface Ask {
  readonly role: ReadingRole;
  readonly quantity: ReadQuantity;
  readonly instrument: Instrument;
  /** Role of that instrument; the plan's gauge where there is none. */
  readonly of?: string;
  /** Of a measuring phase. */
  readonly point?: MeasurePoint;
  readonly label?: string;
}

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
  readonly ask?: Ask;
}

export function presentOf(plan: Plan, judgement: Judgement, events: readonly RunEvent[], time: number): Now {
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
    ...askOf(plan, phase, state, events, judgement.withdrawn, time),
  };
}

function askOf(
  plan: Plan,
  phase: Phase | undefined,
  state: PhaseJudgement | undefined,
  events: readonly RunEvent[],
  withdrawn: readonly string[],
  time: number,
): { readonly ask?: Ask } {
  if (phase === undefined || (state?.spoilt === true && phase.kind !== 'zero')) return {};
  if (phase.kind === 'measure') {
    const ask = nextFigure(plan, phase, state?.round ?? 1, events, withdrawn);
    return ask === undefined ? {} : { ask };
  }
  if (phase.kind !== 'zero' && phase.kind !== 'hold') return {};
  const role = phase.kind === 'zero' ? 'zero' : state?.startAt === undefined ? 'start' : time >= (state.dueAt ?? 0) ? 'end' : 'between';
  return {
    ask: {
      role,
      quantity: quantityRead(plan, phase),
      instrument: instrumentOf(plan, phase.instrument),
      ...(phase.instrument === undefined ? {} : { of: phase.instrument }),
    },
  };
}

/** The first figure of a measuring phase that nobody has read yet, point by point; none when all are read. */
function nextFigure(
  plan: Plan,
  phase: MeasurePhase,
  round: number,
  events: readonly RunEvent[],
  withdrawn: readonly string[],
): Ask | undefined {
  const read = phaseReadings(events, withdrawn, phase.id, round);
  for (const point of phase.points)
    for (const { quantity, label, instrument: of } of phase.fields) {
      const instrument = instrumentOf(plan, of);
      const there = read.some(
        (event) =>
          event.quantity === quantity &&
          (event.point ?? phase.points[0].id) === point.id &&
          (event.qualifier === 'below range' || readingFault(instrument, event.value, event.unit) === undefined),
      );
      if (!there) return { role: 'point', quantity, instrument, point, label, ...(of === undefined ? {} : { of }) };
    }
  return undefined;
}

/** A figure that is raised for: it may not come up. */
export const mayNotCome = (ask: Ask | undefined): boolean =>
  ask !== undefined && (ask.role === 'start' || ask.role === 'point') && ask.quantity === 'pressure';

/** A hold whose fall is pumped back while it runs. */
export const isPumpedBack = (phase: Phase | undefined): boolean =>
  phase?.kind === 'hold' && phase.criterion.kind === 'keep' && phase.criterion.within !== undefined;

/** A stamp whose figure is still to be typed; at a point of several figures it stays until all of them are. */
export function pendingStamp(
  events: readonly RunEvent[],
  phase: string | undefined,
  round: number | undefined,
  device: string,
  figures = 1,
): EventOf<'stamp'> | undefined {
  const typed = new Map<string, number>();
  for (const event of events)
    if (event.type === 'reading' && event.stamp !== undefined) typed.set(event.stamp, (typed.get(event.stamp) ?? 0) + 1);
  const used = new Set([...typed].flatMap(([stamp, count]) => (count >= figures ? [stamp] : [])));
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

/** Readings of a phase's round that still stand, in the order in which they were taken. */
export const phaseReadings = (
  events: readonly RunEvent[],
  withdrawn: readonly string[],
  phase: string,
  round: number,
): readonly EventOf<'reading'>[] =>
  events
    .filter(
      (event): event is EventOf<'reading'> =>
        event.type === 'reading' && event.phase === phase && event.round === round && !withdrawn.includes(event.id),
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
  return `${figures}: cannot tell yet${estimate.secondsNeeded === undefined ? '' : `, about ${estimate.secondsNeeded < 120 ? `${estimate.secondsNeeded} s` : `${Math.ceil(estimate.secondsNeeded / 60)} min`} more at this gauge`}.`;
}

/** How far the gauge has moved in the open hold, and what would count: where no forecast is made yet, or none can be. */
export function soFarWords(plan: Plan, phase: Phase | undefined, start: string | undefined, points: readonly Point[]): string | undefined {
  const last = points.at(-1);
  const perceptible = phase?.kind === 'hold' ? thresholdOf(phase.criterion) : undefined;
  if (phase?.kind !== 'hold' || perceptible === undefined || start === undefined || last === undefined || points.length < 2)
    return undefined;
  const asked = unitOfHold(plan, phase);
  const unit = unitLabel(asked);
  const fall = inPlanUnit(plan, Number(start), phase) - last.value;
  const { unit: shown, readability } = instrumentOf(plan, phase.instrument);
  const size = Math.abs(fall).toFixed(shown === asked ? decimalsOf(readability) : 2);
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
  const unit = unitLabel(instrumentOf(plan, phase.instrument).unit);
  return phase.fed === true
    ? `${value}: outside ${low}–${high} ${unit}. Look at the supply and its regulator, then read again.`
    : `${value}: ${Number(value) > Number(high) ? 'bleed' : 'raise'} to ${low}–${high} ${unit}, then read again.`;
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

/** A literal figure above it must be missing its point: twice the plan's highest on its gauge, else the instrument's range. */
export function plausible(plan: Plan, { instrument }: Pick<Ask, 'instrument'>): string {
  if (instrument.id !== plan.gauge.id || quantityOf(instrument.unit) !== 'pressure') return instrument.rangeHigh;
  const highest = Number(onGauge(plan, plan.highest));
  return highest > 0 ? String(highest * 2) : '1000000';
}
