import { instrumentOf, quantityOf, unitOfHold } from '../planning/instruments';
import type { Plan } from '../planning/plan';
import {
  type CheckPhase,
  type Criterion,
  type HoldPhase,
  type MeasurePhase,
  type ObservePhase,
  type Phase,
  type TestVerdict,
  type When,
  whenHolds,
  type ZeroPhase,
} from '../procedures/phases';
import { absolute, compare, decimal, unitLabel } from '../quantities';
import { temperatureNote } from './criteria/warming';
import { type CheckState, dateText, type RunEvent } from './events';
import { type HoldResult, judgeHold } from './hold';
import { Log } from './log';
import { judgeMeasure, type MeasureResult } from './measure';
import { type NextStep, nextSteps } from './next-steps';
import { readingFault, valueText } from './readings';
import { type Finding, finding, isReason } from './reasons';
import { doubtsOfBoundaries, doubtsOfGauge, saidBeside } from './trust';

/** Version of the judge; sealed with every judgement, raised when any verdict could change. */
export const judgeVersion = '1';

export interface ItemState {
  readonly id: string;
  readonly state: CheckState;
  readonly text?: string;
}

export interface PhaseJudgement {
  readonly id: string;
  readonly state: 'waiting' | 'current' | 'done' | 'skipped';
  readonly round: number;
  readonly outcome?: string;
  /** The round proves nothing: restart it or end the test. */
  readonly spoilt?: boolean;
  readonly startAt?: number;
  readonly dueAt?: number;
  readonly endAt?: number;
  readonly start?: string;
  readonly end?: string;
  readonly fall?: string;
  /** The fall that temperature and barometer leave, where they were read. */
  readonly corrected?: string;
  /** Points of a measuring phase that are read whole. */
  readonly points?: MeasureResult['points'];
  readonly items?: readonly ItemState[];
  readonly working?: readonly string[];
}

export interface Judgement {
  readonly judge: string;
  readonly planHash: string;
  /** In progress until the closing steps are done. */
  readonly verdict: TestVerdict;
  /** What the verdict will be once the closing steps are done. */
  readonly provisional: TestVerdict;
  readonly reasons: readonly Finding[];
  readonly phases: readonly PhaseJudgement[];
  /** The phase that is open now; absent when all is done. */
  readonly current?: string;
  /** The phase before must run until then before the current one can start, ms. */
  readonly openFrom?: number;
  readonly next: readonly NextStep[];
  readonly simulated: boolean;
  /** Readings that were withdrawn in time and count for nothing. */
  readonly withdrawn: readonly string[];
  /** Device that holds the pen. */
  readonly pen?: string;
}

interface Verdict {
  readonly verdict: Exclude<TestVerdict, 'in progress'>;
  readonly reason: Finding;
}

export const isPass = (verdict: TestVerdict): boolean => verdict === 'pass' || verdict === 'pass with permitted drop';

/**
 * Judges a run. A pure function of plan and events: no clock, no I/O, the order in which the events are handed in does
 * not matter (DOMAIN 4.1).
 */
export function judge(plan: Plan, events: readonly RunEvent[]): Judgement {
  const log = new Log(events, plan);
  const found: Finding[] = [];
  const withdrawn = withdrawals(plan, log, found);
  const outcomes = new Map<string, string>();
  const holds = new Map<string, HoldResult>();
  const measured = new Map<string, Spoken>();
  const phases: PhaseJudgement[] = [];
  const smelt = log.of('smell').length > 0;
  const seen = log.of('leak-seen').find(({ where }) => where === 'system');
  const stop = log.of('stopped')[0];
  const ended = smelt || seen !== undefined || stop !== undefined;
  let current: string | undefined;
  let openFrom = Number.NEGATIVE_INFINITY;

  const holdsTrue = (when: When): boolean =>
    whenHolds(when, (condition) => {
      if ('signal' in condition) return smelt;
      if ('conclusion' in condition) return condition.conclusion === soFar();
      if ('begunBefore' in condition) return begunBefore(log, condition.phase);
      return condition.outcome.includes(outcomes.get(condition.phase) ?? '');
    });
  const gaugeDoubts = doubtsOfGauge(plan, log);
  // Doubts count here too: a supply is not restored on a hold that an untrusted gauge read.
  // Asked by each closing phase; only a new outcome can change the answer.
  let known: { readonly outcomes: number; readonly says: SoFar } | undefined;
  const soFar = (): SoFar => {
    if (known?.outcomes !== outcomes.size) {
      const doubts = [...found, ...gaugeDoubts, ...doubtsOfBoundaries(plan, phases)];
      known = {
        outcomes: outcomes.size,
        says: ended ? 'other' : saysSoFar(settle(conclude(plan, holdsTrue, holds, measured, found, outcomes), doubts).verdict),
      };
    }
    return known.says;
  };

  for (const phase of plan.phases) {
    const round = log.roundOf(phase.id);
    const shut = ended && phase.afterStop !== true;
    if (current !== undefined && !shut) {
      phases.push({ id: phase.id, state: 'waiting', round });
      continue;
    }
    if (!holdsTrue(phase.when)) {
      phases.push({ id: phase.id, state: 'skipped', round });
      continue;
    }
    const { findings, data, ...state } = judgePhase(phase, plan, log, withdrawn, openFrom, found, holds);
    const result = state;
    found.push(...findings);
    if (phase.kind === 'hold') holds.set(phase.id, { ...state, findings, ...(data === undefined ? {} : { data }) } as HoldResult);
    if (phase.kind === 'measure' && state.outcome !== undefined) measured.set(phase.id, { data: data ?? {}, working: state.working ?? [] });
    if (result.outcome !== undefined) outcomes.set(phase.id, result.outcome);
    const over = result.outcome !== undefined && result.spoilt !== true;
    if (over && phase.kind === 'hold') openFrom = phase.criterion.kind === 'wait' ? (result.dueAt ?? openFrom) : (result.endAt ?? openFrom);
    if (!over && !shut) current = phase.id;
    const status = over ? 'done' : shut ? 'skipped' : 'current';
    phases.push({ ...state, id: phase.id, state: status, round });
  }

  found.push(...gaugeDoubts, ...doubtsOfBoundaries(plan, phases), ...saidBeside(plan, log, outcomes.size > 0));
  if (smelt) found.push(finding('smell'));
  if (seen !== undefined) found.push(finding('leak-seen', { text: seen.text }));
  if (stop !== undefined) found.push(finding('stopped', { reason: stop.reason }));

  const closing = current === undefined || plan.phases.some((phase) => phase.id === current && phase.kind === 'check' && phase.closing);
  const concluded = settle(ended ? undefined : conclude(plan, holdsTrue, holds, measured, found, outcomes), found);
  const provisional: TestVerdict = closing || found.some(({ weight }) => weight === 'override') ? concluded.verdict : 'in progress';
  // First of its weight: what the test came to is said before what else stands in doubt.
  if (provisional !== 'in progress' && concluded.reason !== undefined) found.unshift(concluded.reason);
  const reasons = ordered(found);
  return {
    judge: judgeVersion,
    planHash: plan.hash,
    verdict: current === undefined ? provisional : 'in progress',
    provisional,
    reasons,
    phases,
    ...(current === undefined ? {} : { current }),
    ...(current !== undefined && Number.isFinite(openFrom) ? { openFrom } : {}),
    next: nextSteps(plan, phases, current, provisional, reasons),
    withdrawn: [...withdrawn],
    simulated: plan.gauge.simulated || log.of('reading').some(({ source }) => source === 'simulated gauge'),
    ...(log.of('pen').length === 0 ? {} : { pen: log.of('pen').at(-1)?.device }),
  };
}

type SoFar = 'pass' | 'restricted' | 'other';
/** What decides which closing list is due: a supply is put back after a pass, and with limits after a restricted one. */
export const saysSoFar = (verdict: TestVerdict): SoFar => (isPass(verdict) ? 'pass' : verdict === 'restricted' ? 'restricted' : 'other');

type PhaseResult = Omit<PhaseJudgement, 'id' | 'state' | 'round'> & {
  readonly findings: readonly Finding[];
  readonly data?: Readonly<Record<string, string>>;
};

/** What a measuring phase lets a conclusion say. */
interface Spoken {
  readonly data: Readonly<Record<string, string>>;
  readonly working: readonly string[];
}

function judgePhase(
  phase: Phase,
  plan: Plan,
  log: Log,
  withdrawn: ReadonlySet<string>,
  openFrom: number,
  found: readonly Finding[],
  holds: ReadonlyMap<string, HoldResult>,
): PhaseResult {
  switch (phase.kind) {
    case 'measure':
      return judgeMeasure(phase, plan, log, withdrawn, holds, openFrom);
    case 'check':
      return judgeChecks(phase, log);
    case 'zero':
      return judgeZero(phase, plan, log, withdrawn);
    case 'observe':
      return judgeObservation(phase, log);
    case 'hold': {
      const result = judgeHold({ phase, plan, log, withdrawn, openFrom });
      return {
        ...result,
        findings: [...result.findings, ...temperatureNote(phase, plan, log, result, withdrawn)].filter((one) => !found.includes(one)),
      };
    }
  }
}

const begunBefore = (log: Log, phase: string): boolean => {
  const round = log.roundOf(phase);
  return log.of('check').some((event) => event.phase === phase && event.round < round && event.state !== 'undone');
};

/** The last word on every item counts; an item that "does not apply" needs a reason, a written one its text. */
function judgeChecks(phase: CheckPhase, log: Log): PhaseResult {
  const states = new Map<string, ItemState>();
  for (const event of log.inRound('check', phase.id)) {
    const item = phase.items.find(({ id }) => id === event.item);
    if (item === undefined) continue;
    const text = event.text?.trim() ?? '';
    const lacking =
      (event.state === 'not-applicable' && (!item.mayNotApply || text === '')) ||
      (event.state === 'done' && item.write !== undefined && text === '');
    if (event.state === 'undone' || lacking) states.delete(item.id);
    else states.set(item.id, { id: item.id, state: event.state, ...(text === '' ? {} : { text }) });
  }
  const items = phase.items.flatMap(({ id }) => states.get(id) ?? []);
  return { items, findings: [], ...(items.length === phase.items.length ? { outcome: 'done' } : {}) };
}

function judgeZero(phase: ZeroPhase, plan: Plan, log: Log, withdrawn: ReadonlySet<string>): PhaseResult {
  const instrument = instrumentOf(plan, phase.instrument);
  const reads = quantityOf(instrument.unit);
  const zeros = log
    .inRound('reading', phase.id)
    .filter(({ id, role, quantity }) => role === 'zero' && quantity === reads && !withdrawn.has(id));
  const last = zeros.at(-1);
  if (last === undefined) return { findings: [] };
  const about = { ...valueText(last), title: phase.title };
  const why = readingFault(instrument, last.value, last.unit);
  if (why !== undefined) return { findings: [finding('reading-refused', { ...about, why }, phase.id)] };
  if (compare(absolute(decimal(last.value)), decimal(phase.below)) < 0) return { outcome: 'zeroed', end: last.value, findings: [] };
  // Only an error once readings were built on it, or the test was ended; until then it is a gauge still to be zeroed.
  const builtOn = log.of('reading').some(({ role }) => role === 'start' || role === 'end') || log.of('stopped').length > 0;
  return { outcome: 'shows-pressure', spoilt: true, end: last.value, findings: builtOn ? [finding('not-zeroed', about, phase.id)] : [] };
}

function judgeObservation(phase: ObservePhase, log: Log): PhaseResult {
  const last = log
    .inRound('observation', phase.id)
    .filter(({ option }) => phase.options.some(({ id }) => id === option))
    .at(-1);
  return { findings: [], ...(last === undefined ? {} : { outcome: last.option }) };
}

/** A reading may be withdrawn while its phase is open; later the withdrawal is shown and has no effect (DOMAIN 4.16). */
function withdrawals(plan: Plan, log: Log, found: Finding[]): ReadonlySet<string> {
  const withdrawn = new Set<string>();
  for (const event of log.of('withdrawn')) {
    const reading = log.of('reading').find(({ id }) => id === event.reading);
    if (reading === undefined || event.reason.trim() === '') continue;
    const before = new Log(log.events.slice(0, log.events.indexOf(event)), plan);
    const phase = plan.phases.find(({ id }) => id === reading.phase);
    const order = plan.phases.findIndex(({ id }) => id === reading.phase);
    const later = before.of('reading').some((other) => plan.phases.findIndex(({ id }) => id === other.phase) > order);
    const over =
      later ||
      (phase?.kind === 'hold' &&
        phase.criterion.kind !== 'wait' &&
        judgeHold({ phase, plan, log: before, withdrawn, openFrom: Number.NEGATIVE_INFINITY }).endAt !== undefined) ||
      (phase?.kind === 'measure' && measuredWhole(phase, plan, before, withdrawn));
    if (!over) withdrawn.add(reading.id);
    found.push(finding(over ? 'withdrawal-late' : 'reading-withdrawn', { ...valueText(reading), reason: event.reason }, reading.phase));
  }
  return withdrawn;
}

const measuredWhole = (phase: MeasurePhase, plan: Plan, log: Log, withdrawn: ReadonlySet<string>): boolean =>
  judgeMeasure(phase, plan, log, withdrawn, new Map(), Number.NEGATIVE_INFINITY).outcome !== undefined;

/** The first conclusion of the plan that holds; its sentence takes the numbers of the holds it speaks of. */
function conclude(
  plan: Plan,
  holdsTrue: (when: When) => boolean,
  holds: ReadonlyMap<string, HoldResult>,
  measured: ReadonlyMap<string, Spoken>,
  found: readonly Finding[],
  outcomes: ReadonlyMap<string, string>,
): Verdict {
  const match = plan.conclusions.find(({ when }) => holdsTrue(when));
  // A pressure that does not come up fails every test, whatever else its plan says (DOMAIN 4.14).
  if (match === undefined && [...outcomes.values()].includes('not-reached'))
    return { verdict: 'fail', reason: finding('pressure-not-reached') };
  if (match === undefined || !isReason(match.reason)) return { verdict: 'inconclusive', reason: finding('no-proof') };
  const judging = plan.phases.filter(
    (phase): phase is HoldPhase => phase.kind === 'hold' && deciding.has(phase.criterion.kind) && holds.get(phase.id)?.endAt !== undefined,
  );
  const working = (): readonly string[] => [
    ...judging.flatMap(({ id }) => holds.get(id)?.working ?? []),
    ...[...measured.values()].flatMap((one) => one.working),
    ...found.filter(({ code }) => code === 'interpolated').map(({ sentence }) => sentence),
  ];
  const told = match.about === undefined ? undefined : measured.get(match.about);
  if (told !== undefined) return { verdict: match.verdict, reason: finding(match.reason, told.data, match.about, working()) };
  // A conclusion may also speak of a hold that only lets others begin, where it names it.
  const named = plan.phases.find(
    (phase): phase is HoldPhase => phase.kind === 'hold' && phase.id === match.about && holds.get(phase.id)?.endAt !== undefined,
  );
  const spoken = named ?? judging.at(-1);
  if (spoken === undefined) return { verdict: match.verdict, reason: finding(match.reason) };
  const { criterion } = spoken;
  const hold = holds.get(spoken.id);
  const data = {
    // A plain fall says no more than it always did: sealed judgements are compared letter by letter.
    ...(criterion.kind === 'no-fall' && hold?.corrected === undefined ? {} : hold?.data),
    start: hold?.start ?? '',
    end: hold?.end ?? '',
    fall: hold?.corrected ?? hold?.fall ?? '',
    ...(hold?.corrected === undefined || hold.corrected === hold.fall ? {} : { how: ` when corrected (${hold.fall} as read)` }),
    unit: unitLabel(instrumentOf(plan, spoken.instrument).unit),
    time: `${spoken.seconds} s`,
    ...(criterion.kind === 'no-fall' ? { threshold: criterion.threshold, permitted: criterion.permitted ?? '0' } : {}),
    limitUnit: unitLabel(unitOfHold(plan, spoken)),
    ...(match.repairDays === undefined
      ? {}
      : { days: String(match.repairDays), by: dateText((hold?.endAt ?? 0) + match.repairDays * 86_400_000) }),
  };
  return { verdict: match.verdict, reason: finding(match.reason, data, spoken.id, working()) };
}

/** Criteria whose numbers a conclusion speaks of; a settling or a let-by only lets the next phase begin. */
const deciding: ReadonlySet<string> = new Set<Criterion['kind']>(['no-fall', 'at-most', 'keep', 'leak-rate', 'dial']);

/** Overrides beat all; an untrusted gauge beats what it said; a pass falls to any doubt (DOMAIN 4.2, 4.7, 4.12). */
function settle(
  concluded: Verdict | undefined,
  found: readonly Finding[],
): { verdict: Exclude<TestVerdict, 'in progress'>; reason?: Finding } {
  const has = (weight: Finding['weight']) => found.some((one) => one.weight === weight);
  if (has('override')) return { verdict: 'fail' };
  if (has('invalid'))
    return { verdict: 'invalid', ...(concluded !== undefined && !isPass(concluded.verdict) ? { reason: concluded.reason } : {}) };
  if (concluded === undefined) return { verdict: 'inconclusive' };
  if (saysSoFar(concluded.verdict) !== 'other' && has('inconclusive')) return { verdict: 'inconclusive' };
  if (concluded.reason.code === 'no-proof' && has('inconclusive')) return { verdict: 'inconclusive' };
  return concluded;
}

const weights: readonly Finding['weight'][] = ['override', 'invalid', 'fail', 'restricted', 'inconclusive', 'pass', 'note'];

function ordered(found: readonly Finding[]): readonly Finding[] {
  return [...found].sort((a, b) => weights.indexOf(a.weight) - weights.indexOf(b.weight));
}
