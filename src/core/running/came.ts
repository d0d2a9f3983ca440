import { instrumentOf, unitOfHold } from '../course/instruments';
import type { HoldPhase, Phase } from '../course/phases';
import type { EventOf, RunEvent } from '../judging/events';
import type { Judgement } from '../judging/judge';
import { heldSoFar, type PhaseJudgement } from '../judging/state';
import { compareAcross, roomOfHold, thresholdOf, timeText } from '../limits';
import type { Plan } from '../planning/plan';
import { absolute, type Decimal, decimal, type InstrumentUnit, subtract, toText, unitLabel } from '../quantities';
import { readingsOf } from './present';

/** A movement with its sign as people write it. */
const signed = (moved: Decimal): string =>
  moved.digits < 0n ? `−${toText(absolute(moved))}` : moved.digits > 0n ? `+${toText(moved)}` : toText(moved);

/** What an outcome means, in the words of what the hold was for; an outcome without words of its own is told by its effect. */
const words: Readonly<Record<string, string>> = {
  'let-by steady': 'the valve holds',
  'let-by rise': 'the valve lets by',
  'let-by fall': 'it fell, noted: the hold will tell',
  'tightness tight': 'nothing perceptible',
  'tightness permitted': 'within the permitted drop',
  'tightness slight': 'too little to tell from the weather',
};
const effects = { proves: 'as it should be', fails: 'over the limit', spoils: 'it does not count', 'leads on': 'noted' } as const;

/**
 * What a phase came to, in one line: `Let-by: −0.02 mbar in 60 s: the valve holds`. Nothing for lists, for what was skipped and for
 * what is not over.
 */
export function cameTo(plan: Plan, state: PhaseJudgement, judgement?: Judgement, events: readonly RunEvent[] = []): string | undefined {
  const phase = plan.phases.find(({ id }) => id === state.id);
  if (phase === undefined || state.state !== 'done') return undefined;
  const { came, outcome, effect } = state;
  switch (came.of) {
    case 'zero':
      return `${phase.title}: ${came.shown} ${unitLabel(instrumentOf(plan, phase.kind === 'zero' ? phase.instrument : undefined).unit)} off the hose`;
    case 'look':
      return phase.kind === 'observe'
        ? `${phase.title}: ${phase.options.find(({ id }) => id === outcome)?.label.toLowerCase() ?? outcome}`
        : undefined;
    case 'not-reached':
      return `${phase.title}: the pressure did not come up`;
    case 'hold': {
      if (phase.kind !== 'hold') return undefined;
      if (phase.purpose === 'settle' && came.end === undefined) {
        const last = readingsOf(events, judgement?.withdrawn ?? [], phase.id, state.round).findLast(({ role }) => role === 'between');
        return last === undefined ? undefined : `${phase.title}: ${settledWords(plan, phase, came, last)}`;
      }
      if (came.end === undefined || came.endAt === undefined) return undefined;
      const moved = signed(subtract(decimal(came.end), decimal(came.start)));
      const time = timeText(Math.round((came.endAt - came.startAt) / 1000));
      const said = phase.purpose === 'settle' ? 'settled' : (words[`${phase.purpose} ${outcome}`] ?? effects[effect]);
      return `${phase.title}: ${moved} ${unitLabel(instrumentOf(plan, phase.instrument).unit)} in ${time}: ${said}`;
    }
    default:
      return undefined;
  }
}

/** How a settling went, by its last reading: from how much on the hold would call it a movement, it has not settled. */
function settledWords(
  plan: Plan,
  phase: HoldPhase,
  { start, startAt }: { readonly start: string; readonly startAt: number },
  last: EventOf<'reading'>,
): string {
  const moved = subtract(decimal(last.value), decimal(start));
  const { unit } = instrumentOf(plan, phase.instrument);
  const next = plan.phases
    .slice(plan.phases.indexOf(phase) + 1)
    .find((one): one is HoldPhase => one.kind === 'hold' && one.purpose === 'tightness');
  const limit = next === undefined ? undefined : thresholdOf(next.limit);
  const moves =
    next !== undefined && limit !== undefined && compareAcross(absolute(moved), unit, decimal(limit), unitOfHold(plan, next)) >= 0;
  const time = timeText(Math.round((last.observedAt - startAt) / 1000));
  return `${signed(moved)} ${unitLabel(unit)} in ${time}${moves ? ': it still moves' : ''}`;
}

/** What the last phase that is read or looked at came to; nothing before the first. */
export function lastCame(plan: Plan, judgement: Judgement, events: readonly RunEvent[] = []): string | undefined {
  const { phases, current } = judgement;
  const order = plan.phases.map(({ id }) => id);
  const before = order.indexOf(current ?? '');
  const done = phases
    .filter(({ id, state }) => state === 'done' && (before < 0 || order.indexOf(id) < before))
    .sort((a, b) => order.indexOf(b.id) - order.indexOf(a.id));
  for (const state of done) {
    const line = cameTo(plan, state, judgement, events);
    if (line !== undefined) return line;
  }
  return undefined;
}

/** A fall that is over the limit while its hold still runs. */
export interface FallSoFar {
  readonly phase: string;
  readonly round: number;
  /** How far, in the gauge's unit, and in how long, s. */
  readonly fall: string;
  readonly unit: InstrumentUnit;
  readonly seconds: number;
  /** The limit that it is over, in the hold's unit; what is permitted where that is more. */
  readonly limit: string;
  readonly limitUnit: InstrumentUnit;
}

/** From how much a fall is over; a fall of exactly what is permitted is not. */
function limitOf({ limit }: HoldPhase): { readonly figure: string; readonly over: 0 | 1 } | undefined {
  if (limit.kind === 'no-fall' && limit.permitted !== undefined) return { figure: limit.permitted, over: 1 };
  const threshold = thresholdOf(limit);
  return threshold === undefined || limit.kind === 'no-rise' ? undefined : { figure: threshold, over: 0 };
}

/**
 * The first sign that a running hold fails: its last reading in between lies over the limit below its start (DOMAIN 4.27). It decides
 * nothing; it is said, with what can be done while the pressure stands.
 */
export function fallSoFar(plan: Plan, judgement: Judgement, events: readonly RunEvent[], phase: Phase): FallSoFar | undefined {
  if (phase.kind !== 'hold' || phase.purpose !== 'tightness' || phase.fed === true) return undefined;
  const state = judgement.phases.find(({ id }) => id === phase.id);
  const held = heldSoFar(state);
  const limit = limitOf(phase);
  if (state?.state !== 'current' || state.is !== 'running' || held === undefined || limit === undefined) return undefined;
  const last = readingsOf(events, judgement.withdrawn, phase.id, state.round).findLast(({ role }) => role === 'between');
  if (last === undefined) return undefined;
  const gauge = instrumentOf(plan, phase.instrument);
  if (last.unit !== gauge.unit) return undefined;
  const fall = subtract(decimal(held.start), decimal(last.value));
  const limitUnit = unitOfHold(plan, phase);
  if (compareAcross(fall, gauge.unit, decimal(limit.figure), limitUnit) < limit.over) return undefined;
  return {
    phase: phase.id,
    round: state.round,
    fall: toText(fall),
    unit: gauge.unit,
    seconds: Math.round((last.observedAt - held.startAt) / 1000),
    limit: limit.figure,
    limitUnit,
  };
}

/** The same in a sentence, by what was held. */
export function fallWords({ fall, unit, seconds, limit, limitUnit }: FallSoFar, phase: Phase): string {
  const permits = phase.kind === 'hold' && roomOfHold(phase.limit).outcomes(phase.limit).includes('permitted');
  return `Fallen ${fall} ${unitLabel(unit)} in ${timeText(seconds)}: ${permits ? `more than the permitted ${limit}` : `over the ${limit}`} ${unitLabel(limitUnit)}${permits ? '' : ' that counts'}.`;
}
