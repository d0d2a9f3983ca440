import { fieldsAt, inPlanUnit, instrumentOf, onGauge, type Phase, quantityOf, thresholdOf, unitOfHold, weatherWords } from '@/core/course';
import { type Estimate, type EventOf, heldSoFar, type Judgement, type PhaseJudgement, type Point, type RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { decimalsOf, toSi, unitLabel } from '@/core/quantities';
import { type Ask, openPhases, present } from '@/core/running';

export { type Ask, readingsOf as phaseReadings } from '@/core/running';

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

/**
 * What the core says is to be done, in the shape that the screen draws.
 * @param at the phase that is looked at, where several are open at once
 */
export function presentOf(plan: Plan, judgement: Judgement, events: readonly RunEvent[], time: number, at?: string): Now {
  const now = present(plan, judgement, events, time, at);
  const asked = 'phase' in now ? now.phase.id : judgement.current;
  const state = judgement.phases.find(({ id }) => id === asked);
  if (now.do === 'settle') {
    const settling = judgement.phases.find(({ id }) => id === now.settling.id);
    const held = heldSoFar(settling);
    const shown: PhaseJudgement | undefined =
      settling === undefined || held === undefined
        ? undefined
        : {
            id: settling.id,
            round: settling.round,
            state: 'current',
            is: 'running',
            startAt: held.startAt,
            dueAt: held.dueAt,
            start: held.start,
          };
    const phases = judgement.phases.map(
      (one): PhaseJudgement =>
        shown !== undefined && one.id === shown.id
          ? shown
          : one.id === judgement.current
            ? { id: one.id, round: one.round, state: 'waiting' }
            : one,
    );
    return {
      phase: now.settling,
      state: shown,
      view: { ...judgement, current: now.settling.id, phases },
      settlingUntil: now.until,
      holding: false,
      ask: now.ask,
    };
  }
  const phase = 'phase' in now ? now.phase : plan.phases.find(({ id }) => id === judgement.current);
  const ask = now.do === 'read' || now.do === 'hold' ? now.ask : undefined;
  return {
    phase,
    state,
    view: asked === judgement.current ? judgement : { ...judgement, current: asked },
    holding: state?.state === 'current' && state.is === 'running',
    ask,
  };
}

/** One of several phases that are open at once. */
export interface OpenPhase {
  readonly phase: Phase;
  readonly dueAt?: number;
  /** What is wanted of it, where no clock says so. */
  readonly wants: string;
}

/** Holds that are open at the same time, each on its gauge; nothing to choose from where it is one. */
export function openHolds(plan: Plan, judgement: Judgement): readonly OpenPhase[] {
  const open = openPhases(plan, judgement);
  if (open.length < 2) return [];
  return open.map((phase): OpenPhase => {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state?.state !== 'current') return { phase, wants: '' };
    if (state.is === 'running') return { phase, dueAt: state.dueAt, wants: '' };
    if (state.is === 'ended') return { phase, wants: `${state.owes.join(' and ')} to read` };
    return { phase, wants: state.is === 'spoilt' ? 'to be done again' : 'start not read' };
  });
}

/**
 * The phase that the screen shows of several: the one that was chosen, as long as nothing has happened in it since; else one
 * whose stamp waits for its figure; else whichever the core asks for.
 */
export function lookedAt(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  device: string,
  chosen: { readonly phase: string; readonly heard: number } | undefined,
): string | undefined {
  const open = openPhases(plan, judgement);
  const since = chosen === undefined ? [] : events.slice(chosen.heard);
  const moved = since.some((event) => event.type === 'reading' && event.phase === chosen?.phase && event.role !== 'between');
  if (chosen !== undefined && !moved && open.some(({ id }) => id === chosen.phase)) return chosen.phase;
  const stamped = open.find(
    (phase) => pendingStamp(events, phase, judgement.phases.find((one) => one.id === phase.id)?.round, device) !== undefined,
  );
  return stamped?.id;
}

/** A figure that is raised for: it may not come up. */
export const mayNotCome = (ask: Ask | undefined, phase: Phase | undefined): boolean =>
  ask !== undefined &&
  !(phase?.kind === 'hold' && (phase.purpose === 'let-by' || phase.lowered === true)) &&
  (ask.role === 'start' || ask.role === 'point') &&
  ask.quantity === 'pressure';

/** A hold whose fall is pumped back while it runs. */
export const isPumpedBack = (phase: Phase | undefined): boolean =>
  phase?.kind === 'hold' && phase.limit.kind === 'keep' && phase.limit.within !== undefined;

/** A stamp whose figure is still to be typed; at a point of several figures it stays until all that are read there are. */
export function pendingStamp(
  events: readonly RunEvent[],
  phase: Phase | undefined,
  round: number | undefined,
  device: string,
): EventOf<'stamp'> | undefined {
  const wanted = ({ point }: EventOf<'reading'>): number => {
    const at = phase?.kind === 'measure' ? phase.points.find(({ id }) => id === point) : undefined;
    return phase?.kind === 'measure' && at !== undefined ? fieldsAt(phase, at).length : 1;
  };
  const typed = new Map<string, number>();
  const used = new Set<string>();
  for (const event of events)
    if (event.type === 'reading' && event.stamp !== undefined) {
      const count = (typed.get(event.stamp) ?? 0) + 1;
      typed.set(event.stamp, count);
      if (count >= wanted(event)) used.add(event.stamp);
    }
  const discarded = new Set(events.flatMap((event) => (event.type === 'withdrawn' ? [event.reading] : [])));
  return events.findLast(
    (event): event is EventOf<'stamp'> =>
      event.type === 'stamp' &&
      event.device === device &&
      event.phase === phase?.id &&
      event.round === round &&
      !used.has(event.id) &&
      !discarded.has(event.id),
  );
}

/** The estimate in words. A forecast never replaces the time. */
export function estimateWords(estimate: Estimate, unit: string, phase?: Phase): string {
  const { forecast, forecastLow, forecastHigh } = estimate;
  // Nothing is below nothing only by its rounding.
  const [fall, low, high] = [forecast, forecastLow, forecastHigh].map((value) => value.toFixed(2).replace(/^-(0\.00)$/, '$1'));
  const figures = `Forecast fall ${fall} ${unit} (${low} to ${high}) when due`;
  if (estimate.status === 'below') {
    const criterion = phase?.kind === 'hold' && phase.limit.kind === 'no-fall' ? phase.limit : undefined;
    return criterion?.permitted !== undefined && estimate.forecast >= Number(criterion.threshold)
      ? `${figures}: within the permitted ${criterion.permitted} so far, but perceptible: the pipework alone will have to show none. The full time still counts.`
      : `${figures}: below the limit so far. The full time still counts.`;
  }
  if (estimate.status === 'above') return `${figures}: above the limit. You may stop early.`;
  if (estimate.status === 'bends') return `${figures}: cannot tell yet: it still bends${neededWords(estimate)}.`;
  return `${figures}: cannot tell yet${neededWords(estimate)}.`;
}

/** How much longer this gauge must be watched: one figure where it is known so well, else between two. */
function neededWords({ needed }: Estimate): string {
  if (needed === undefined) return '';
  const { least, most, about } = needed;
  const time = (seconds: number) => (seconds < 120 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`);
  if (about !== undefined) return `, about ${time(about)} more at this gauge`;
  return least * 1.2 >= most ? `, about ${time(most)} more at this gauge` : `, ${time(least)} to ${time(most)} more at this gauge`;
}

/** How far the gauge has moved in the open hold, and what would count: where no forecast is made yet, or none can be. */
export function soFarWords(plan: Plan, phase: Phase | undefined, start: string | undefined, points: readonly Point[]): string | undefined {
  const last = points.at(-1);
  const perceptible = phase?.kind === 'hold' ? thresholdOf(phase.limit) : undefined;
  if (phase?.kind !== 'hold' || perceptible === undefined || start === undefined || last === undefined || points.length < 2)
    return undefined;
  const asked = unitOfHold(plan, phase);
  const unit = unitLabel(asked);
  const fall = inPlanUnit(plan, Number(start), phase) - last.value;
  const { unit: shown, readability } = instrumentOf(plan, phase.instrument);
  const size = Math.abs(fall).toFixed(shown === asked ? decimalsOf(readability) : 2);
  const weather = Number(size) === 0 ? undefined : weatherWords(plan, phase, toSi(-fall, asked), toSi(Number(start), shown));
  const explained = weather === undefined ? '' : ` ${weather.charAt(0).toUpperCase()}${weather.slice(1)}.`;
  const moved = Number(size) === 0 ? 'It has not moved' : `${fall > 0 ? 'Fallen' : 'Risen'} ${size} ${unit}`;
  const threshold = `${perceptible} ${unit}`;
  if (phase.limit.kind === 'no-rise')
    return fall > 0 && Number(size) > 0
      ? `${moved} so far: noted, and the test goes on. A rise of ${threshold} would count.${explained}`
      : `${moved} so far; a rise of ${threshold} would count.${explained}`;
  return `${moved} so far; a movement of ${threshold} would be perceptible.${explained}`;
}

/** The one sentence that says what to do now. */
export function sentence(
  kind: string,
  say: string,
  now: {
    readonly settling: boolean;
    readonly holding: boolean;
    readonly left?: number;
    readonly spoilt: boolean;
    /** What may be done while it stands. */
    readonly meanwhile?: string;
    /** What still belongs to an end that is read. */
    readonly owes?: readonly string[];
  },
): string {
  if (now.owes !== undefined && now.owes.length > 0)
    return `The end is in. Read the ${now.owes.join(' and the ')} now: it belongs to this hold.`;
  if (now.spoilt && kind === 'hold') return 'This round does not count. Read why, then repeat it or end the test.';
  if (now.settling)
    return (now.left ?? 0) <= 10_000
      ? 'Eyes on the gauge: the hold starts next.'
      : 'Let it settle. Nothing may be touched; re-adjust only if it drifts out of the band.';
  if (!now.holding || now.left === undefined) return say;
  if (now.left <= 0) return 'Due. Stamp the end reading now.';
  if (now.left <= 10_000) return 'Eyes on the gauge.';
  return now.meanwhile === undefined
    ? 'Touch nothing. The clock runs.'
    : `Touch nothing that is held. Meanwhile: ${now.meanwhile.charAt(0).toLowerCase()}${now.meanwhile.slice(1)}.`;
}

/** A literal figure above it must be missing its point: twice the plan's highest on its gauge, else the instrument's range. */
export function plausible(plan: Plan, { instrument }: Pick<Ask, 'instrument'>): string {
  if (instrument.id !== plan.gauge.id || quantityOf(instrument.unit) !== 'pressure') return instrument.rangeHigh;
  const highest = Number(onGauge(plan, plan.highest));
  return highest > 0 ? String(highest * 2) : '1000000';
}
