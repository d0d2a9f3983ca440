import type { RunEvent } from '@/core/judging';
import { items } from '@/core/permissions';
import type { Plan } from '@/core/planning';
import { callFirm, withFirm } from '@/db/connection';
import { DatabaseFault } from '@/db/fault';
import type { StandingForecast } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { unstorable } from './body';
import { once } from './command';
import { type Appended, appendEvents } from './events';
import type { SentAt } from './found-times';
import { addCalibration } from './instruments';
import { faultFacts, log } from './log';
import { addSignature } from './signatures';
import { type Listed, listStandings } from './standing';
import { createRun, createTest, eventsAfter, testOfRun } from './tests';
import { keepChange } from './things';

/** One thing in a device's outbox. */
export type Outgoing =
  | { readonly kind: 'test'; readonly id: string; readonly systemId: string; readonly details: unknown }
  | { readonly kind: 'run'; readonly id: string; readonly testId: string; readonly number: number; readonly plan: unknown }
  | { readonly kind: 'events'; readonly run: string; readonly events: readonly unknown[] }
  | { readonly kind: 'change'; readonly id: string; readonly change: unknown }
  | { readonly kind: 'calibration'; readonly id: string; readonly instrumentId: string; readonly calibration: unknown }
  | { readonly kind: 'signature'; readonly testId: string; readonly signature: unknown };

export type Receipt =
  | {
      readonly ok: true;
      readonly quarantined: readonly { readonly id: string; readonly why: string }[];
      /** Of events: the place of the first in the run's log, where all of them joined it in this order. */
      readonly from?: number;
    }
  | { readonly ok: false; readonly code: string; readonly message: string };

const most = 500;

/** Takes what a device sends, in its order. Everything is idempotent: the same sync twice changes nothing. */
export async function receive(
  actor: Actor,
  sending: readonly unknown[],
  sent?: SentAt,
): Promise<Answer<{ readonly receipts: readonly Receipt[] }>> {
  if (sending.length > most) return refuse(413, 'sync-too-large', `Send at most ${most} things at once.`);
  const receipts: Receipt[] = [];
  for (const item of sending) {
    const result = await taken(actor, item, sent);
    receipts.push(
      result.ok
        ? receiptOf(result.value as Partial<Appended> | string | null)
        : { ok: false, code: result.problem.code, message: result.problem.message },
    );
  }
  return answer({ receipts });
}

const receiptOf = (value: Partial<Appended> | string | null): Receipt => {
  const { quarantined = [], from } = typeof value === 'object' && value !== null ? value : {};
  return { ok: true, quarantined, ...(from === undefined ? {} : { from }) };
};

/** What a device may still deliver when its session is over. */
const delivered: readonly string[] = ['test', 'run', 'events'] satisfies readonly Outgoing['kind'][];

/** One thing by itself: whatever is wrong with it stops none of the others. */
async function taken(actor: Actor, item: unknown, sent: SentAt | undefined): Promise<Answer<unknown>> {
  const one = item as Outgoing | null | undefined;
  const fault = one?.kind === 'events' ? undefined : unstorable(item);
  if (actor.delivers !== undefined && !delivered.includes(one?.kind ?? ''))
    return refuse(403, 'delivers-only', 'You are signed out. Tests and their readings are taken; sign in to send anything else.');
  const refused = fault ?? (one?.kind !== undefined && Object.hasOwn(items, one.kind) ? refusedTo(actor, items[one.kind]) : undefined);
  if (refused !== undefined) return refused;
  try {
    return await receiveOne(actor, one, sent);
  } catch (error) {
    // A server that is busy is busy for all of them: what came before is kept, and the device sends again.
    if (error instanceof DatabaseFault && error.isBusy) throw error;
    log().error({ item: one?.kind, ...faultFacts(error) }, 'item');
    return refuse(400, 'fault', 'The server could not take this. It stays on this device; tell whoever runs the server.');
  }
}

function receiveOne(actor: Actor, item: Outgoing | null | undefined, sent: SentAt | undefined): Promise<Answer<unknown>> {
  switch (item?.kind) {
    case 'test':
      return createTest(actor, { id: String(item.id), systemId: String(item.systemId), details: item.details });
    case 'run':
      return createRun(actor, { id: String(item.id), testId: String(item.testId), number: Number(item.number), plan: item.plan });
    case 'events':
      return appendEvents(actor, String(item.run), Array.isArray(item.events) ? item.events : [], sent);
    case 'change':
      return isUuid(item.id)
        ? once(actor, item.id, { change: item.change as never }, () => keepChange(actor, item.change))
        : Promise.resolve(refuse(400, 'no-command-id', 'A change has an id of its own.'));
    case 'calibration':
      return addCalibration(actor, String(item.instrumentId), item.calibration, String(item.id));
    case 'signature':
      return addSignature(actor, String(item.testId), item.signature);
    default:
      return Promise.resolve(
        refuse(400, 'unknown-item', 'The device sent something that this server does not know. Update both and try again.'),
      );
  }
}

export interface RemoteRun {
  readonly test: {
    readonly id: string;
    readonly systemId: string;
    readonly system: string;
    readonly site: string;
    readonly sealed?: string;
  };
  readonly runs: readonly { readonly id: string; readonly number: number; readonly plan: Plan; readonly events: readonly RunEvent[] }[];
}

/** What a device has of a run already: the last place in its log, and how many attempts of its test. */
export interface Has {
  readonly position: number;
  readonly attempts: number;
  readonly sealed: boolean;
}

/** What is new of a run: nothing, or what joined its log. */
export type News = { readonly unchanged: true } | { readonly run: string; readonly joined: readonly RunEvent[] };

/** What a device asks every few seconds costs one look at an index as long as nothing is new. */
export async function readNews(actor: Actor, runId: string, has: Has): Promise<Answer<RemoteRun | News>> {
  if (!isUuid(runId)) return notFound;
  const [there] = await callFirm<{ last: number | null; attempts: number; sealed: boolean }>(actor.firmId, 'run_news', runId);
  if (there === undefined || there.attempts !== has.attempts || there.sealed !== has.sealed) return readRun(actor, runId);
  if ((there.last ?? 0) === has.position) return answer({ unchanged: true });
  return answer({ run: runId, joined: await withFirm(actor.firmId, (tx) => eventsAfter(tx, runId, has.position)) });
}

/** A run's whole test as other devices have written it. */
export async function readRun(actor: Actor, runId: string): Promise<Answer<RemoteRun>> {
  const found = await testOfRun(actor, runId);
  if (!found.ok) return found;
  const { test, system, site, attempts, certificates, watch } = found.value;
  return answer({
    test: {
      id: test.id,
      systemId: system.id,
      system: system.name,
      site: site.name,
      ...(certificates.length === 0 ? {} : { sealed: certificates[0].number }),
    },
    runs: attempts.map(({ id, number, plan, events }, index) => ({
      id,
      number,
      plan,
      events: index === attempts.length - 1 ? [...events, ...watch] : events,
    })),
  });
}

export interface Running {
  readonly run: string;
  readonly site: string;
  readonly system: string;
  readonly technician: string;
  readonly phase: string;
  readonly dueAt?: number;
  readonly simulated: boolean;
  /** Seconds into the open hold, and the gauge. */
  readonly points: readonly (readonly [number, number])[];
  readonly forecast?: StandingForecast;
}

const running = (one: Listed): Running => ({
  run: one.runId ?? '',
  site: one.site,
  system: one.system,
  technician: one.technician,
  phase: one.phase,
  simulated: one.simulated,
  ...(one.dueAt === null ? {} : { dueAt: one.dueAt.getTime() }),
  points: one.points,
  ...(one.forecast === null ? {} : { forecast: one.forecast }),
});

/** Tests in progress, whoever runs them. */
export const listRunning = async (firmId: string): Promise<readonly Running[]> =>
  (await listStandings(firmId, 100, { only: 'open' })).filter(({ runId }) => runId !== null).map(running);
