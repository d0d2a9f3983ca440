import { storableFault, storableWords } from '@/core/exact';
import { type Body, compareEvents, type Envelope, type RunEvent } from '@/core/judging';
import { addressOf } from '@/core/permissions';
import type { Plan } from '@/core/planning';
import type { News, RemoteRun } from '@/server/field';
import { boot, mono, newId, now, offsetMinutes } from './clock';
import { type DeviceStore, deviceId, type LocalPerson, type LocalRun, type LocalTest, type Tables } from './store';

/** A moment on this device: when, by both clocks. */
export interface Moment {
  readonly at: number;
  readonly mono: number;
  /** Another clock than this device's program, such as a logging gauge's own. */
  readonly boot: string;
}

export const thisMoment = (): Moment => ({ at: now(), mono: mono(), boot });

export const thisDevice = (): string => deviceId(newId);

/** What every place keeps of a text that is typed here. */
const written = { text: 4000, depth: 12 } as const;

/** What was typed cannot be kept anywhere; it is said, and stays in its field. */
export class NotKept extends Error {}

/** Writes an event: into the store first, then to the outbox, in one transaction. Nothing waits for the network. */
export async function writeEvent(
  all: DeviceStore,
  person: LocalPerson,
  run: string,
  body: Body,
  moment: Moment = thisMoment(),
  picture?: Blob,
): Promise<RunEvent> {
  const fault = storableFault(body, written);
  if (fault !== undefined) throw new NotKept(storableWords[fault.why]);
  const device = thisDevice();
  return all.transaction('rw', ['events', 'outbox'], async (store) => {
    const known = await store.events.where('run').equals(run).toArray();
    const seq = known.reduce((count, event) => (event.device === device ? Math.max(count, event.seq) : count), 0) + 1;
    const envelope: Envelope = {
      schema: 1,
      run,
      id: newId(),
      device,
      seq,
      author: person.userId,
      observedAt: moment.at,
      enteredAt: now(),
      offsetMinutes: offsetMinutes(),
      boot: moment.boot,
      mono: moment.mono,
    };
    const event = { ...envelope, ...body } as RunEvent;
    await store.events.add(event);
    await store.outbox.add({ item: { kind: 'events', run, events: [event] } } as never);
    // The picture goes in with its event, or neither does: a photograph that is named but not kept would be a lie.
    if (picture !== undefined && event.type === 'photo')
      await store.outbox.add({ item: { kind: 'photo', run, takenAt: event.takenAt, hash: event.hash, picture } } as never);
    return event;
  });
}

/** A new test with its first attempt, kept here at once and sent when there is signal. */
export async function startTest(
  all: DeviceStore,
  person: LocalPerson,
  system: { readonly id: string; readonly name: string; readonly site: string },
  plan: Plan,
  details: unknown,
): Promise<string> {
  const fault = storableFault(details, { text: 200, depth: 3 });
  if (fault !== undefined) throw new NotKept(storableWords[fault.why]);
  const test: LocalTest = { id: newId(), systemId: system.id, system: system.name, site: system.site };
  await all.transaction('rw', ['tests', 'outbox'], async (store) => {
    await store.tests.add(test);
    await store.outbox.add({ item: { kind: 'test', id: test.id, systemId: system.id, details } } as never);
  });
  return startAttempt(all, person, test.id, 1, plan);
}

/** A new attempt of a test: a changed plan is one, never a silent change of the old. */
export async function startAttempt(all: DeviceStore, person: LocalPerson, testId: string, number: number, plan: Plan): Promise<string> {
  const run: LocalRun = { id: newId(), testId, number, plan };
  await all.transaction('rw', ['runs', 'outbox'], async (store) => {
    await store.runs.add(run);
    await store.outbox.add({ item: { kind: 'run', id: run.id, testId, number, plan } } as never);
  });
  await writeEvent(all, person, run.id, { type: 'pen' });
  return run.id;
}

/** What this device has of a run, so that only what is new is sent; nothing where it has none of it. */
async function has(store: Tables, runId: string): Promise<string> {
  const run = await store.runs.get(runId);
  const test = run === undefined ? undefined : await store.tests.get(run.testId);
  if (run === undefined || test === undefined) return '';
  const events = await store.events.where('run').equals(runId).toArray();
  // Without a gap up to its last place: else everything is asked for.
  const placed = events.flatMap(({ position }) => (position === undefined ? [] : [position]));
  const last = placed.reduce((most, one) => Math.max(most, one), 0);
  if (last !== placed.length) return '';
  const attempts = await store.runs.where('testId').equals(run.testId).count();
  return `?position=${last}&attempts=${attempts}${test.sealed === undefined ? '' : '&sealed=1'}`;
}

/** Brings in what other devices wrote. Answers false when there is no such run for this person. */
export async function fetchRun(all: DeviceStore, runId: string): Promise<'fetched' | 'absent' | 'no signal'> {
  // A run that only this device knows cannot have been written to elsewhere.
  if ((await all.outbox.filter(({ item }) => item.kind === 'run' && item.id === runId).count()) > 0) return 'no signal';
  let response: Response;
  try {
    response = await fetch(`${addressOf('GET /api/field/run/[id]', { id: runId })}${await has(all, runId)}`, {
      signal: AbortSignal.timeout(10_000),
    });
  } catch {
    return 'no signal';
  }
  if (response.status === 404) return 'absent';
  if (!response.ok) return 'no signal';
  let remote: RemoteRun | News;
  try {
    remote = (await response.json()) as RemoteRun | News;
  } catch {
    return 'no signal';
  }
  if ('unchanged' in remote) return 'fetched';
  if ('joined' in remote) {
    await all.events.bulkPut([...remote.joined]);
    return 'fetched';
  }
  const { test, runs } = remote;
  await all.transaction('rw', ['tests', 'runs', 'events'], async (store) => {
    await store.tests.put(test);
    await store.runs.bulkPut(runs.map(({ id, number, plan }) => ({ id, testId: test.id, number, plan })));
    for (const { id, events } of runs) {
      // What was written here is there already; what the server adds to it is its place in the log.
      const known = new Map((await store.events.where('run').equals(id).toArray()).map((event) => [event.id, event.position]));
      const fresh = events.filter((event) => !known.has(event.id) || known.get(event.id) !== event.position);
      if (fresh.length > 0) await store.events.bulkPut(fresh);
    }
  });
  return 'fetched';
}

export const eventsOf = async (store: Tables, run: string): Promise<readonly RunEvent[]> =>
  (await store.events.where('run').equals(run).toArray()).sort(compareEvents);
