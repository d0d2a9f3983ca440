import { dateText, storableFault, storableWords } from '@/core/exact';
import { addressOf } from '@/core/permissions';
import type { Problem } from '@/core/quantities';
import {
  type Along,
  type AlongAsked,
  type Calibration,
  type Change,
  calibrationFault,
  type KnownInstrument,
  type Said,
  shapes,
  type Thing,
  type ThingKind,
  take,
} from '@/core/register';
import { neverCalibrated } from '@/core/sizing';
import { newId, now, offsetMinutes } from './clock';
import {
  type DeviceStore,
  deviceStore,
  type Facts,
  keepHistories,
  localPerson,
  neverTested,
  rememberPerson,
  type Tables,
  takenMark,
} from './store';
import type { Rows } from './tables';

/*
 * The register on this device: what the server told of the sites that it takes along, and on top of it what was changed here and has
 * not been sent. A change is kept and shown at once, and sent when there is signal.
 */

const tableOf = <K extends ThingKind>(store: Tables, kind: K): Rows<Thing<K>, string> => {
  const tables = {
    site: store.sites,
    system: store.systems,
    component: store.components,
    instrument: store.instruments,
    equipment: store.equipment,
    visit: store.visits,
  } as const;
  return tables[kind] as unknown as Rows<Thing<K>, string>;
};

const saidOf = <K extends ThingKind>(kind: K, thing: Thing<K>): Said<K> =>
  Object.fromEntries(
    Object.keys(shapes[kind].properties as object).map((field) => [field, (thing as unknown as Record<string, unknown>)[field]]),
  ) as unknown as Said<K>;

/** An instrument as plans want it, from what is said of it; its calibrations are its own. */
const instrumentOf = (said: Said<'instrument'>, id: string, before: KnownInstrument | undefined): KnownInstrument => {
  const { calibrationNeeded, kind, unit, ...rest } = said;
  const calibrations = before?.calibrations ?? [];
  return {
    ...rest,
    kind,
    unit: unit as KnownInstrument['unit'],
    id,
    version: before?.version ?? 0,
    rigCheck: before?.rigCheck,
    calibrationNeeded,
    calibrations,
    calibration: calibrationNeeded
      ? { needed: true, last: calibrations[0]?.doneOn ?? neverCalibrated, due: calibrations[0]?.dueOn ?? neverCalibrated }
      : { needed: false },
  };
};

const rowOf = <K extends ThingKind>(kind: K, of: string, said: Said<K>, before: Thing<K> | undefined): Thing<K> =>
  kind === 'instrument'
    ? (instrumentOf(said as Said<'instrument'>, of, before as unknown as KnownInstrument | undefined) as unknown as Thing<K>)
    : ({ ...said, id: of, version: before?.version ?? 0 } as Thing<K>);

/** What was changed here and has not been sent, in its order. */
const unsentChanges = async (store: Tables): Promise<readonly Change[]> =>
  (await store.outbox.orderBy('order').toArray()).flatMap(({ item, refused }) =>
    item.kind === 'change' && refused === undefined ? [item.change as Change] : [],
  );

/** Puts a change to what this device has. Answers what is wrong with it, and then nothing is changed. */
async function applied(store: Tables, change: Change): Promise<Problem | undefined> {
  const table = tableOf(store, change.thing);
  const before = await table.get(change.of);
  const taken = take(change, before === undefined ? undefined : saidOf(change.thing, before));
  if (taken.is === 'refused') return taken.problem;
  if (taken.is === 'unknown')
    return { code: 'not-here', message: 'This is not on this device any more. Open it once with signal, and change it then.' };
  await table.put(rowOf(change.thing, change.of, taken.said, before));
  if (change.thing === 'system' && before === undefined) await neverTested(store, [change.of]);
  return undefined;
}

/**
 * Keeps changes here, all of them or none, and sends them when there is signal.
 * @returns the first that is wrong, with the field that it stands at
 */
export async function keepChanges(all: DeviceStore, changes: readonly Change[]): Promise<Problem | undefined> {
  const fault = storableFault(changes, { text: 20_000, depth: 12 });
  if (fault !== undefined) return { code: 'form', message: storableWords[fault.why] };
  class Wrong extends Error {
    constructor(readonly problem: Problem) {
      super(problem.message);
    }
  }
  try {
    await all.transaction('rw', [...registerTables, 'outbox'], async (store) => {
      for (const change of changes) {
        const problem = await applied(store, change);
        if (problem !== undefined) throw new Wrong(problem);
        await store.outbox.add({ item: { kind: 'change', id: newId(), change } } as never);
      }
    });
    return undefined;
  } catch (error) {
    if (error instanceof Wrong) return error.problem;
    throw error;
  }
}

/** A calibration, as its certificate says. */
export async function keepCalibration(all: DeviceStore, instrumentId: string, said: Calibration): Promise<Problem | undefined> {
  const problem = calibrationFault(said, dateText(now() + offsetMinutes() * 60_000));
  if (problem !== undefined) return problem;
  const id = newId();
  await all.transaction('rw', ['instruments', 'outbox'], async (store) => {
    await store.outbox.add({ item: { kind: 'calibration', id, instrumentId, calibration: said } } as never);
    const before = await store.instruments.get(instrumentId);
    if (before !== undefined) await store.instruments.put(withCalibration(before, { ...said, id }));
  });
  return undefined;
}

function withCalibration(before: KnownInstrument, one: KnownInstrument['calibrations'][number]): KnownInstrument {
  if (before.calibrations.some(({ id }) => id === one.id)) return before;
  const calibrations = [one, ...before.calibrations].sort((a, b) => (a.doneOn < b.doneOn ? 1 : -1));
  const said = saidOf('instrument', before as unknown as Thing<'instrument'>);
  return instrumentOf(said, before.id, { ...before, calibrations });
}

const registerTables = ['sites', 'systems', 'lasts', 'components', 'instruments', 'equipment', 'visits'] as const;

/** What this device has, as it says it when it asks for differences. */
async function askedOf(store: Tables): Promise<AlongAsked> {
  const facts = await store.facts.get('facts');
  const pinned = await store.pins.toArray();
  const opened = pinned.filter(({ by }) => by === 'opened').sort((a, b) => b.at - a.at);
  return {
    epoch: facts?.epoch ?? '',
    since: facts?.since ?? '0',
    have: facts?.scope ?? [],
    // Those kept by hand all of them, of those that were only opened the last.
    pinned: [...pinned.filter(({ by }) => by === 'hand'), ...opened.slice(0, mostOpened)].map(({ siteId }) => siteId),
  };
}

const mostOpened = 60;

async function ask(asked: AlongAsked): Promise<Along | undefined> {
  try {
    const response = await fetch(addressOf('POST /api/field/along'), {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(asked),
      signal: AbortSignal.timeout(10_000),
    });
    return response.ok ? ((await response.json()) as Along) : undefined;
  } catch {
    return undefined;
  }
}

const nothing: AlongAsked = { epoch: '', since: '0', have: [], pinned: [] };

/**
 * Brings this device's register up to date; undefined where there is no signal or nobody is signed in.
 *
 * An answer that was on its way while the server took a change from here may be older than that change, which waits in no outbox any
 * more: put into the store, it would undo what was pressed. It is asked for again.
 */
export async function takeAlong(): Promise<Facts | undefined> {
  let person = localPerson();
  for (let turn = 0; turn < mostTurns; turn += 1) {
    const before = person === undefined ? undefined : deviceStore(person);
    const mark = before === undefined ? undefined : await takenMark(before);
    const along = await ask(before === undefined ? nothing : await askedOf(before));
    if (along === undefined) return undefined;
    const { userId, firmId } = along.person;
    rememberPerson(along.person as never);
    // Somebody else has signed in since: theirs is another store, which has its own.
    const isOther = person !== undefined && (person.userId !== userId || person.firmId !== firmId);
    person = along.person as never;
    if (isOther) continue;
    const facts = await putAlong(deviceStore(along.person as never), along, mark);
    if (facts !== undefined) return facts;
  }
  return undefined;
}

/** So often is it asked again; with more to do there is another look in a moment. */
const mostTurns = 4;

/**
 * Puts a difference into the store: new and changed rows with what was changed here on top, and what is no longer taken along goes.
 * @param mark of the changes that the server had taken when it was asked
 * @returns undefined, with nothing put, where it has taken more since
 */
export async function putAlong(all: DeviceStore, along: Along, mark?: string): Promise<Facts | undefined> {
  const facts: Facts = {
    key: 'facts',
    epoch: along.epoch,
    since: along.since,
    asOf: along.asOf,
    person: along.person,
    delivery: along.delivery,
    firm: along.firm,
    people: along.people,
    followUps: along.followUps,
    houseRules: along.houseRules,
    ownProcedures: along.ownProcedures,
    scope: along.scope,
    takenAt: now(),
  };
  return all.transaction('rw', [...registerTables, 'outbox', 'facts', 'histories', 'clashes', 'tests', 'marks'], async (store) => {
    if ((await takenMark(store)) !== mark) return undefined;
    const before = await store.facts.get('facts');
    // Another register: of what it says nothing of, nothing is known.
    if (before !== undefined && before.epoch !== along.epoch) await Promise.all([store.clashes.clear(), store.instruments.clear()]);
    await store.sites.bulkPut([...along.sites]);
    await store.systems.bulkPut([...along.systems]);
    await neverTested(
      store,
      along.systems.map(({ id }) => id),
    );
    await store.components.bulkPut([...along.components]);
    await store.visits.bulkPut([...along.visits]);
    await store.equipment.bulkPut([...along.equipment]);
    await store.instruments.bulkPut([...along.instruments]);
    await keepHistories(store, along.histories);
    await store.clashes.bulkPut([...along.clashes]);
    await store.clashes.bulkDelete([...along.settled]);
    const unsent = await unsentChanges(store);
    for (const change of unsent) await applied(store, change);
    for (const { item } of await store.outbox.toArray())
      if (item.kind === 'calibration') {
        const kept = await store.instruments.get(item.instrumentId);
        if (kept !== undefined) await store.instruments.put(withCalibration(kept, { ...(item.calibration as Calibration), id: item.id }));
      }
    await removeBeyond(store, along.scope, unsent);
    await store.facts.put(facts);
    return facts;
  });
}

/** Takes sites away that are no longer taken along, but for those that were made here and not sent, or have work that is not over. */
async function removeBeyond(store: Tables, scope: readonly string[], unsent: readonly Change[]): Promise<void> {
  const kept = new Set(scope);
  for (const { thing, of } of unsent) if (thing === 'site') kept.add(of);
  for (const { fields } of unsent) if (typeof fields.siteId?.is === 'string') kept.add(fields.siteId.is);
  const atWork = new Set((await store.tests.filter(({ sealed }) => sealed === undefined).toArray()).map(({ systemId }) => systemId));
  const ofWork = (await store.systems.bulkGet([...atWork])).flatMap((system) => (system === undefined ? [] : [system.siteId]));
  for (const id of ofWork) kept.add(id);
  const gone = (await store.sites.primaryKeys()).filter((id) => !kept.has(id));
  if (gone.length === 0) return;
  const systems = await store.systems.where('siteId').anyOf(gone).primaryKeys();
  await store.components.where('systemId').anyOf(systems).delete();
  await store.histories.where('systemId').anyOf(systems).delete();
  await store.lasts.bulkDelete(systems);
  await store.visits.where('siteId').anyOf(gone).delete();
  await store.systems.bulkDelete(systems);
  await store.sites.bulkDelete(gone);
}

/** Keeps a site on this device from now on, or no longer. */
export const pin = (store: Tables, siteId: string, by: 'hand' | 'opened' | undefined): Promise<unknown> =>
  by === undefined ? store.pins.delete(siteId) : store.pins.put({ siteId, by, at: now() });
