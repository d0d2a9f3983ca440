import { type CheckPhase, fieldsAt, type HoldPhase, type MeasurePhase, type ObservePhase, type ZeroPhase } from '../course/phases';
import { degreesText, kelvinThatMoves } from '../course/weather';
import { type Data, driftsOf, type Effect, type Finding, type HoldFacts, judgeHeld } from '../limits';
import type { Plan } from '../planning/plan';
import { absolute, compare, decimal, type ReadQuantity, subtract, toNumber, toSi, toText, unitLabel } from '../quantities';
import type { EventOf } from './events';
import { conditionWindowMs, holdFacts, type Read } from './facts';
import type { Taken } from './readings';
import { find } from './sayings';
import type { Came, ItemState, PointState } from './state';

/* A phase that is open, as a union of states, and what it comes to when it closes. */

/** A phase that is over: nothing that comes later changes it. */
export interface Closed {
  readonly phase: string;
  readonly title: string;
  readonly round: number;
  readonly outcome: string;
  readonly effect: Effect;
  readonly came: Came;
  readonly data: Data;
  readonly findings: readonly Finding[];
  /** What a hold's limit judged, for those that look back on it; absent where no end was read. */
  readonly facts?: HoldFacts;
  /** Start and end as they were written, whose clocks are compared. */
  readonly ends?: { readonly start: Taken; readonly end: Taken };
  /** Water or gas was drawn: its fall is nobody's leak. */
  readonly drawn: boolean;
}

/** Something that spoils the open phase; one that may be set aside is, by a waiver that names it. */
export interface Spoiling {
  readonly id: string;
  readonly finding: Finding;
  readonly waivable: boolean;
  readonly drawn: boolean;
}

interface In<P> {
  readonly phase: P;
  readonly round: number;
  /** Said of the phase whatever it comes to. */
  readonly notes: Finding[];
  readonly spoiling: Spoiling[];
}

export type Open =
  | ({ readonly is: 'ticking'; readonly items: Map<string, ItemState> } & In<CheckPhase>)
  | ({ readonly is: 'looking' } & In<ObservePhase>)
  | ({ readonly is: 'zeroing'; shown?: EventOf<'reading'> } & In<ZeroPhase>)
  | ({ readonly is: 'unstarted'; readonly openFrom: number; readonly read: Read } & In<HoldPhase>)
  | ({ readonly is: 'running'; readonly start: Taken; readonly dueAt: number; readonly read: Read } & In<HoldPhase>)
  | ({
      readonly is: 'ended';
      readonly start: Taken;
      readonly dueAt: number;
      readonly read: Read;
      readonly end: Taken;
      readonly stopped?: string;
    } & In<HoldPhase>)
  | ({
      readonly is: 'measuring';
      readonly openFrom: number;
      readonly values: Map<string, Map<ReadQuantity, EventOf<'reading'>>>;
    } & In<MeasurePhase>);

export type OpenAs<S extends Open['is']> = Extract<Open, { is: S }>;

/** What a handler may know beside its phase: the plan, and what earlier phases came to. */
export interface Around {
  readonly plan: Plan;
  readonly closed: (phase: string) => Closed | undefined;
  /** What was read under an id so far. */
  readonly reading: (id: string) => EventOf<'reading'> | undefined;
  /** Where in the log the event stands that is being heard. */
  readonly place: () => number;
}

export type Step = { readonly open: Open } | { readonly closed: Closed };

export const says = (data: object): Data => data as Data;

/** A phase that is over with what it came to; whatever spoilt it counts first. */
export const closing = (
  open: Open,
  came: Came,
  outcome: string,
  effect: Effect,
  more: Partial<Closed> = {},
): { readonly closed: Closed } => {
  const spoilt = open.spoiling[0];
  const base = {
    phase: open.phase.id,
    title: open.phase.title,
    round: open.round,
    came,
    data: says({ title: open.phase.title }),
    drawn: open.spoiling.some(({ drawn }) => drawn),
    ...more,
  };
  return spoilt === undefined
    ? { closed: { ...base, outcome, effect, findings: [...open.notes, ...(more.findings ?? [])] } }
    : { closed: { ...base, outcome: 'void', effect: 'spoils', findings: [...open.notes, spoilt.finding] } };
};

/** Closes a hold that has its end, whatever is still unread. */
export function closeHold(open: OpenAs<'ended'>, around: Around): Closed {
  const { phase, start, end, dueAt } = open;
  const { plan } = around;
  const facts = holdFacts(around, open);
  const verdict = judgeHeld(phase.limit, facts);
  const stoppedNote =
    open.stopped === undefined
      ? []
      : [
          find(
            verdict.effect === 'fails' ? 'stopped-fall' : 'stopped-hold',
            {
              title: phase.title,
              reason: open.stopped,
              fall: toText(subtract(start.value, end.value)),
              unit: unitLabel(facts.unit),
            },
            phase.id,
          ),
        ];
  return closing(
    open,
    {
      of: 'hold',
      startAt: start.event.observedAt,
      dueAt,
      start: start.event.value,
      endAt: end.event.observedAt,
      end: end.event.value,
      fall: verdict.data.fall,
      corrected: verdict.corrected,
      drifts: driftsOf(facts),
      data: verdict.data,
    },
    verdict.outcome,
    verdict.effect,
    {
      data: verdict.data,
      findings: [...stoppedNote, ...verdict.findings.map((one) => ({ ...one, phase: phase.id })), ...explained(plan, phase, facts)],
      facts,
      ends: { start, end },
    },
  ).closed;
}

/** By how much the pipe would have to warm or cool to move the gauge so, where it moved by a step or more (DOMAIN 3.2, 3.7). */
function explained(plan: Plan, phase: HoldPhase, { start, end, unit, step }: HoldFacts): readonly Finding[] {
  const moved = subtract(end.value, start.value);
  if (phase.limit.kind === 'wait' || phase.limit.kind === 'keep' || phase.fed === true || compare(absolute(moved), step) < 0) return [];
  const kelvin = kelvinThatMoves(plan, phase, toSi(toNumber(moved), unit), toSi(toNumber(start.value), unit));
  if (kelvin === undefined) return [];
  const fell = compare(moved, decimal('0')) < 0;
  return [
    find(
      'explained-by',
      {
        title: phase.title,
        way: fell ? 'fall' : 'rise',
        moved: toText(absolute(moved)),
        unit: unitLabel(unit),
        turn: kelvin < 0 ? 'cools' : 'warms',
        degrees: degreesText(kelvin, unit),
      },
      phase.id,
    ),
  ];
}

/** A round that is left before its end was read. */
export function abandoned(open: Open): Closed | undefined {
  if (open.is !== 'running' && open.is !== 'ended') return undefined;
  const { start, dueAt, phase } = open;
  return closing(
    open,
    { of: 'hold', startAt: start.event.observedAt, dueAt, start: start.event.value, data: says({ title: phase.title }) },
    'left',
    'spoils',
  ).closed;
}

/** Points of a measuring phase that are read whole. */
export const wholePoints = ({ phase, values }: OpenAs<'measuring'>) =>
  phase.points.filter((point) => (values.get(point.id)?.size ?? 0) === fieldsAt(phase, point).length);

/** What stands at them. */
export const pointStates = (open: OpenAs<'measuring'>): readonly PointState[] =>
  wholePoints(open).map(({ id }) => ({
    id,
    values: Object.fromEntries([...(open.values.get(id) ?? [])].map(([quantity, { value }]) => [quantity, value])),
  }));

/** When the figures of a measuring phase were read. */
export function readBetween({ values }: OpenAs<'measuring'>): readonly [from: number, to: number] | undefined {
  const times = [...values.values()].flatMap((there) => [...there.values()].map(({ observedAt }) => observedAt));
  return times.length === 0 ? undefined : [Math.min(...times), Math.max(...times)];
}

/** Whether a list has every answer. */
export const isTicked = ({ phase, items }: OpenAs<'ticking'>): boolean => phase.items.every(({ id }) => items.has(id));

export const itemStates = ({ phase, items }: OpenAs<'ticking'>): readonly ItemState[] =>
  phase.items.flatMap(({ id }) => items.get(id) ?? []);

export const closeList = (open: OpenAs<'ticking'>): Closed =>
  closing(open, { of: 'check', items: itemStates(open) }, 'done', 'leads on').closed;

/** The end of an ended hold's time for what belongs to it, ms. */
export const owesUntil = ({ phase, end }: OpenAs<'ended'>): number => end.event.observedAt + conditionWindowMs(phase.seconds);
