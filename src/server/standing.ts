import { and, asc, desc, eq, gt, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import type { Phase } from '@/core/course';
import {
  dateText,
  duesOf,
  estimateOf,
  guardLooks,
  type Judgement,
  localDate,
  type Point,
  type RunEvent,
  rigResult,
  tracesOf,
  type Warmth,
  warmthOf,
} from '@/core/judging';
import type { Plan } from '@/core/planning';
import { unitLabel } from '@/core/quantities';
import type { RigCheck } from '@/core/sizing';
import { type Transaction, whenCommitted, withFirm } from '@/db/connection';
import { person, type StandingForecast, type StandingStart, site, standing, system, test } from '@/db/schema';
import type { Actor } from './actor';
import { announce } from './announce';
import { type LoadedTest, loadTest, loadTests } from './tests';

/* What lists show of a test: one row each, written where its events are written. */

type Row = typeof standing.$inferSelect;
/** All of a row that follows from plans, events and certificates. */
export type Standing = Omit<Row, 'changed' | 'changedIn'>;

const mostPoints = 60;

/** A reading on the way is kept for the lists where so long has passed since the last that was, s: a row changes no more often. */
const keptApartS = 5;
/** Every one of so many is worth a forecast of its own where they are this far apart, s; else they only add up. */
const eachUpTo = 8;
const apartS = 10;

/**
 * The course of the open hold as lists show it, and what is forecast from it. It follows from the readings alone, whether they came
 * one by one or all at once.
 */
export class Course {
  private readonly points: Point[] = [];
  /** When the last of all was read, seconds into the hold. */
  lastRead = 0;
  /** How many of them are worth a forecast. */
  private used = 0;
  private forecast: StandingForecast | null = null;
  /** The points that the forecast is of. */
  private forecastOf = 0;

  /** @param points all that was read of the hold so far, in order of time */
  constructor(
    private readonly plan: Plan,
    readonly phase: Phase,
    points: readonly Point[],
    private readonly warmth: readonly Warmth[],
  ) {
    for (const point of points) this.add(point);
  }

  get size(): number {
    return this.points.length;
  }

  /** Takes one that was read no earlier than those before; answers whether it is kept: the rest lie closer than lists show. */
  add(point: Point): boolean {
    const { points } = this;
    this.lastRead = point.seconds;
    if (point.seconds < (points.at(-1)?.seconds ?? Number.NEGATIVE_INFINITY) + keptApartS) return false;
    points.push(point);
    if (this.isWorthAForecast()) this.used = points.length;
    return true;
  }

  /** Typed ones each at first, then as the time that was watched has grown by two fifths. */
  private isWorthAForecast(): boolean {
    const { points, used } = this;
    const place = points.length - 1;
    if (used === 0) return true;
    const [since, all] = [points[place].seconds - points[used - 1].seconds, points[place].seconds - points[0].seconds];
    return all >= 1.4 * (points[used - 1].seconds - points[0].seconds) || (place < eachUpTo && since >= apartS);
  }

  row(): { readonly points: readonly (readonly [number, number])[]; readonly forecast: StandingForecast | null } {
    const { plan, phase, points } = this;
    if (this.forecastOf !== this.used) {
      this.forecastOf = this.used;
      const estimate = estimateOf(plan, phase, points.slice(0, this.used), this.warmth, false);
      this.forecast =
        estimate === undefined ? null : { fall: estimate.forecast.toFixed(2), unit: unitLabel(plan.unit), status: estimate.status };
    }
    const every = Math.max(1, Math.ceil(points.length / mostPoints));
    return {
      points: points.filter((_, index) => index % every === 0).map(({ seconds, value }) => [seconds, value] as const),
      forecast: this.forecast,
    };
  }
}

/** What an open run shows beside the course of its hold, and that course; `judgement` is of these events. */
function ofRun(plan: Plan, events: readonly RunEvent[], judgement: Judgement) {
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
  if (!inProgress || phase?.kind !== 'hold') return { shown };
  // What was read, and no simulated gauge: a row says what is on record.
  const open = { ...judgement, phases: judgement.phases.filter(({ id }) => id === phase.id) };
  const points = tracesOf(plan, open, events, undefined, 0)[0]?.points ?? [];
  return { shown, course: new Course(plan, phase, points, warmthOf(judgement, events, phase.id)) };
}

const noCourse = { points: [], forecast: null } as const;

const nothingRun = { verdict: 'in progress', simulated: false, phase: '', dueAt: null, rig: null, ...noCourse } as const;

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
  const run = last === undefined ? undefined : ofRun(last.plan, last.events, last.judgement);
  return {
    firmId: own.firmId,
    testId: own.id,
    systemId: own.systemId,
    author: own.author,
    createdAt: own.createdAt,
    runId: last?.id ?? null,
    attempts: attempts.length,
    procedure: last?.plan.procedure.id ?? null,
    ...(run === undefined ? nothingRun : { ...run.shown, ...(run.course?.row() ?? noCourse) }),
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

/** The rows of tests that have none yet; answers them. */
export async function standAll(tx: Transaction, ids: readonly string[]): Promise<readonly Standing[]> {
  const rows = (await loadTests(tx, ids)).map(standingOf);
  if (rows.length > 0) await tx.insert(standing).values(rows);
  return rows;
}

/** What a run shows in its test's row, of its own log alone. */
export interface RunRow {
  readonly runId: string;
  readonly testId: string;
  readonly shown: ReturnType<typeof ofRun>['shown'] & { readonly alarm: string | null; readonly start: StandingStart | null };
  readonly course?: Course;
}

/** @param judgement of these events, none of which came after a seal */
export function runRow(runId: string, testId: string, plan: Plan, events: readonly RunEvent[], judgement: Judgement): RunRow {
  const guard = guardLooks(plan, events).at(-1)?.state;
  const { shown, course } = ofRun(plan, events, judgement);
  return {
    runId,
    testId,
    shown: {
      ...shown,
      alarm: guard?.alarm === true ? guard.sentence : null,
      start: beganWith(events) === undefined ? null : startOf(plan, events, new Date(0)),
    },
    course,
  };
}

/** Writes what grown logs change of their tests' rows, all in one statement; answers the tests whose rows show another run. */
export async function standAfter(tx: Transaction, firmId: string, grown: readonly RunRow[]): Promise<readonly string[]> {
  if (grown.length === 0) return [];
  const rows = [];
  for (const [index, { runId, shown, course }] of grown.entries()) {
    if (index % 8 === 7) await new Promise((resolve) => setImmediate(resolve));
    rows.push({ run_id: runId, ...shown, ...(course?.row() ?? noCourse) });
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
