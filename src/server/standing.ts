import { and, asc, desc, eq, gt, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import {
  dateText,
  duesOf,
  estimateOf,
  guardLooks,
  type Judgement,
  localDate,
  type RunEvent,
  rigResult,
  tracesOf,
  warmthOf,
} from '@/core/judging';
import type { Plan } from '@/core/planning';
import { unitLabel } from '@/core/quantities';
import type { RigCheck } from '@/core/sizing';
import { type Transaction, whenCommitted, withFirm } from '@/db/connection';
import { person, type StandingForecast, type StandingStart, site, standing, system, test } from '@/db/schema';
import type { Actor } from './actor';
import { announce } from './announce';
import { type LoadedTest, loadTest } from './tests';

/* What lists show of a test: one row each, written where its events are written. */

type Row = typeof standing.$inferSelect;
/** All of a row that follows from plans, events and certificates. */
export type Standing = Omit<Row, 'changed'>;

const mostPoints = 60;

/** Every one of so many is worth a forecast of its own where they are this far apart, s; else they only add up. */
const eachUpTo = 8;
const apartS = 10;
const leastApartS = 5;

/**
 * How many of these readings the last forecast is worked out of: typed ones each at first, then as the time that was watched has grown
 * by two fifths. A row follows from its log alone, so this does too.
 */
function forecastAt(points: readonly { readonly seconds: number }[]): number {
  let last = 0;
  const since = (place: number, from: number) => points[place].seconds - points[from].seconds;
  for (let place = 1; place < points.length; place += 1) {
    const apart = since(place, last);
    const grown = apart >= leastApartS && since(place, 0) >= 1.4 * since(last, 0);
    if (grown || (place < eachUpTo && apart >= apartS)) last = place;
  }
  return last + 1;
}

/** What was worked out of these readings before: a run is written to far more often than its forecast changes. */
export interface Memory {
  key?: string;
  forecast?: StandingForecast | null;
}

/** What an open run shows; `judgement` is of these events. */
function ofRun(plan: Plan, events: readonly RunEvent[], judgement: Judgement, memory: Memory = {}) {
  const inProgress = judgement.verdict === 'in progress';
  const due = inProgress ? duesOf(plan, judgement).at(0) : undefined;
  const phase = due?.phase ?? plan.phases.find(({ id }) => id === judgement.current);
  const shown = {
    verdict: judgement.verdict,
    simulated: judgement.simulated,
    phase: phase?.title ?? '',
    dueAt: due === undefined ? null : new Date(due.at),
    rig: rigResult(plan, judgement, events) ?? null,
  };
  if (!inProgress || phase?.kind !== 'hold') return { ...shown, points: [], forecast: null };
  // What was read, and no simulated gauge: a row says what is on record.
  const open = { ...judgement, phases: judgement.phases.filter(({ id }) => id === phase.id) };
  const points = tracesOf(plan, open, events, undefined, 0)[0]?.points ?? [];
  const count = points.length === 0 ? 0 : forecastAt(points);
  const warmth = warmthOf(judgement, events, phase.id);
  const key = JSON.stringify([
    phase.id,
    count,
    points[0],
    points[count - 1],
    points.slice(0, count).reduce((sum, { value }) => sum + value, 0),
    warmth,
  ]);
  if (memory.key !== key) {
    const estimate = estimateOf(plan, phase, points.slice(0, count), warmth, false);
    memory.key = key;
    memory.forecast =
      estimate === undefined ? null : { fall: estimate.forecast.toFixed(2), unit: unitLabel(plan.unit), status: estimate.status };
  }
  const every = Math.max(1, Math.ceil(points.length / mostPoints));
  return {
    ...shown,
    points: points.filter((_, index) => index % every === 0).map(({ seconds, value }) => [seconds, value] as const),
    forecast: memory.forecast ?? null,
  };
}

const nothingRun = { verdict: 'in progress', simulated: false, phase: '', dueAt: null, rig: null, points: [], forecast: null } as const;

/** What the server wrote of a plan before anyone did anything is no beginning. */
const beganWith = (events: readonly RunEvent[]): RunEvent | undefined => events.find(({ device }) => device !== 'server');

function startOf(plan: Plan, events: readonly RunEvent[], createdAt: Date): StandingStart {
  const began = beganWith(events);
  return {
    on: began === undefined ? dateText(createdAt.getTime()) : localDate(began),
    ...(plan.procedure.variant === undefined ? {} : { variant: plan.procedure.variant.id }),
    answers: plan.answers,
    pipes: plan.pipes.join('\n'),
    statedVolume: plan.volume.typed,
    gauge: plan.gauge.id,
    instruments: Object.fromEntries(Object.entries(plan.instruments ?? {}).map(([role, { id }]) => [role, id])),
    ...(plan.weather?.thermometer === undefined ? {} : { thermometer: plan.weather.thermometer.id }),
    ...(plan.weather?.barometer === undefined ? {} : { barometer: plan.weather.barometer.id }),
  };
}

/** The row of a test, from all that is known of it. */
export function standingOf({ test: own, attempts, certificates, watch, unread }: LoadedTest): Standing {
  const last = attempts.at(-1);
  const guard = last === undefined ? undefined : guardLooks(last.plan, [...last.events, ...watch]).at(-1)?.state;
  // An attempt that cannot be read proves nothing, and hides none that came before it.
  const isUnread = unread.some(({ number }) => number > (last?.number ?? 0));
  return {
    firmId: own.firmId,
    testId: own.id,
    systemId: own.systemId,
    author: own.author,
    createdAt: own.createdAt,
    runId: last?.id ?? null,
    attempts: attempts.length,
    procedure: last?.plan.procedure.id ?? null,
    ...(last === undefined ? nothingRun : ofRun(last.plan, last.events, last.judgement)),
    ...(isUnread ? { verdict: 'inconclusive' as const, phase: '', dueAt: null, points: [], forecast: null } : {}),
    alarm: guard?.alarm === true ? guard.sentence : null,
    start: last === undefined ? null : startOf(last.plan, last.events, own.createdAt),
    certificate: certificates.at(-1)?.number ?? null,
  };
}

/** Writes a test's row afresh, inside the transaction that changed it. */
export async function stand(tx: Transaction, testId: string): Promise<void> {
  const found = await loadTest(tx, testId);
  if (found === undefined) return;
  const row = standingOf(found);
  await tx
    .insert(standing)
    .values(row)
    .onConflictDoUpdate({ target: [standing.firmId, standing.testId], set: { ...row, changed: sql`nextval('standing_changed')` } });
  whenCommitted(tx, () => announce(row.firmId));
}

/** A run whose log has grown; none of its events came after a seal. */
export interface Grown {
  readonly runId: string;
  readonly testId: string;
  readonly plan: Plan;
  readonly events: readonly RunEvent[];
  readonly judgement: Judgement;
  readonly memory: Memory;
}

/** Writes what grown logs change of their tests' rows, all in one statement; answers the tests whose rows show another run. */
export async function standAfter(tx: Transaction, firmId: string, grown: readonly Grown[]): Promise<readonly string[]> {
  if (grown.length === 0) return [];
  const rows = [];
  for (const [index, { runId, plan, events, judgement, memory }] of grown.entries()) {
    if (index % 8 === 7) await new Promise((resolve) => setImmediate(resolve));
    const guard = guardLooks(plan, events).at(-1)?.state;
    rows.push({
      run_id: runId,
      ...ofRun(plan, events, judgement, memory),
      alarm: guard?.alarm === true ? guard.sentence : null,
      start: beganWith(events) === undefined ? null : startOf(plan, events, new Date(0)),
    });
  }
  const { rows: changed } = await tx.execute<{ test_id: string }>(sql`
    update standing set verdict = x.verdict, simulated = x.simulated, phase = x.phase, due_at = x."dueAt", points = x.points,
      forecast = x.forecast, alarm = x.alarm, rig = x.rig, start = coalesce(x.start, standing.start), changed = nextval('standing_changed')
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as x(run_id uuid, verdict text, simulated boolean, phase text,
      "dueAt" timestamptz, points jsonb, forecast jsonb, alarm text, rig jsonb, start jsonb)
    where standing.firm_id = ${firmId} and standing.run_id = x.run_id and standing.certificate is null
    returning standing.test_id`);
  if (changed.length > 0) whenCommitted(tx, () => announce(firmId));
  return grown.filter(({ testId }) => !changed.some((one) => one.test_id === testId)).map(({ testId }) => testId);
}

/** Makes every row of a firm again; answers how many. */
export async function rebuild(firmId: string): Promise<number> {
  const tests = await withFirm(firmId, (tx) => tx.select({ id: test.id }).from(test).orderBy(asc(test.createdAt)));
  for (const { id } of tests) await withFirm(firmId, (tx) => stand(tx, id));
  return tests.length;
}

/** A row with the names that belong to it. */
export interface Listed extends Row {
  readonly system: string;
  readonly site: string;
  readonly siteId: string;
  readonly technician: string;
}

interface Wanted {
  readonly systemId?: string;
  /** In progress and not sealed; over and not sealed; with a guard gauge in alarm; over. */
  readonly only?: 'open' | 'unsealed' | 'alarm' | 'over';
  /** Changed after this, oldest change first. */
  readonly after?: number;
}

const conditions = {
  open: and(eq(standing.verdict, 'in progress'), isNull(standing.certificate)),
  unsealed: and(ne(standing.verdict, 'in progress'), isNull(standing.certificate)),
  alarm: isNotNull(standing.alarm),
  over: ne(standing.verdict, 'in progress'),
} as const;

/** Tests as lists show them, the newest first; at most 500. */
export const listStandings = (firmId: string, limit: number, wanted: Wanted = {}): Promise<readonly Listed[]> =>
  withFirm(firmId, async (tx) => {
    const rows = await tx
      .select({ standing, system: system.name, site: site.name, siteId: site.id, technician: person.name })
      .from(standing)
      .innerJoin(system, eq(system.id, standing.systemId))
      .innerJoin(site, eq(site.id, system.siteId))
      .innerJoin(person, eq(person.id, standing.author))
      .where(
        and(
          wanted.systemId === undefined ? undefined : eq(standing.systemId, wanted.systemId),
          wanted.only === undefined ? undefined : conditions[wanted.only],
          wanted.after === undefined ? undefined : gt(standing.changed, wanted.after),
        ),
      )
      .orderBy(wanted.after === undefined ? desc(standing.createdAt) : asc(standing.changed))
      .limit(Math.min(limit, 500));
    return rows.map(({ standing: row, ...names }) => ({ ...row, ...names }));
  });

/** When each system was last tested; those never tested first, then those tested longest ago. */
export const listNext = (actor: Actor, limit: number) =>
  withFirm(actor.firmId, async (tx) => {
    const last = sql<
      string | null
    >`(select max(${standing.createdAt}) from ${standing} where ${standing.firmId} = ${system.firmId} and ${standing.systemId} = ${system.id})`;
    const rows = await tx
      .select({ id: system.id, name: system.name, site: site.name, last })
      .from(system)
      .innerJoin(site, eq(site.id, system.siteId))
      .orderBy(sql`${last} asc nulls first`, asc(system.name))
      .limit(Math.min(limit, 100));
    return rows.map((row) => ({ ...row, last: row.last === null ? undefined : new Date(row.last) }));
  });

/** What the last check of each instrument's rig came to. */
export async function rigChecks(tx: Transaction): Promise<ReadonlyMap<string, RigCheck>> {
  const rows = await tx.select({ rig: standing.rig }).from(standing).where(isNotNull(standing.rig)).orderBy(asc(standing.createdAt));
  return new Map(rows.flatMap(({ rig }) => (rig === null ? [] : [[rig.instrument, rig.found] as const])));
}
