import type { RunEvent } from '@/core/judging';
import type { Role } from '@/core/permissions';
import type { Plan } from '@/core/planning';
import type { Along, History, KeptClash, KnownInstrument, Thing } from '@/core/register';
import type { Outgoing } from '@/server/field';
import { type Rows, type Stored, stored } from './tables';

/** A test as this device knows it. */
export interface LocalTest {
  readonly id: string;
  readonly systemId: string;
  readonly system: string;
  readonly site: string;
  readonly sealed?: string;
}

export interface LocalRun {
  readonly id: string;
  readonly testId: string;
  readonly number: number;
  readonly plan: Plan;
}

/** What waits to be sent, in its order. A photo's bytes travel by themselves. */
export interface Waiting {
  readonly order: number;
  readonly item:
    | Outgoing
    | { readonly kind: 'photo'; readonly run: string; readonly takenAt: number; readonly hash: string; readonly picture: Blob };
  /** How often the server failed on it. */
  readonly failures?: number;
  /** Why the server would not take it; it stays here, visibly, and stops nothing else. */
  readonly refused?: string;
}

export interface LocalSignature {
  readonly id: string;
  readonly testId: string;
  readonly role: 'technician' | 'customer';
  readonly name: string;
  readonly judgementHash: string;
}

/** What belongs to no site: the firm, its rules and people, and up to which place of the register this device has it. */
export type Facts = Pick<
  Along,
  'epoch' | 'since' | 'asOf' | 'person' | 'delivery' | 'firm' | 'people' | 'followUps' | 'houseRules' | 'ownProcedures' | 'scope'
> & {
  readonly key: 'facts';
  /** By this device's clock. */
  readonly takenAt: number;
};

/** A history with what it still owes, so that Today finds it among thousands. */
export type KeptHistory = History & { readonly owes: readonly ('seal' | 'look')[] };

/** When a system was last begun to be tested, 0 for never: what Today sorts by. Every system has one. */
export interface LastTest {
  readonly systemId: string;
  readonly at: number;
}

/** Systems that are new here have not been tested yet, as far as is known. Within a transaction of the register's tables. */
export async function neverTested(store: Tables, ids: readonly string[]): Promise<void> {
  const there = await store.lasts.bulkGet([...ids]);
  await store.lasts.bulkPut(ids.filter((_, index) => there[index] === undefined).map((systemId) => ({ systemId, at: 0 })));
}

/** Keeps histories, and when the last of each system was. Within a transaction of both tables. */
export async function keepHistories(store: Tables, histories: readonly History[]): Promise<void> {
  await store.histories.bulkPut(histories.map(keptHistory));
  const newest = new Map<string, number>();
  for (const { systemId, at } of histories) newest.set(systemId, Math.max(at, newest.get(systemId) ?? 0));
  const ids = [...newest.keys()];
  const before = await store.lasts.bulkGet(ids);
  await store.lasts.bulkPut(ids.map((systemId, index) => ({ systemId, at: Math.max(newest.get(systemId) ?? 0, before[index]?.at ?? 0) })));
}

const keptHistory = (history: History): KeptHistory => ({
  ...history,
  owes: [
    ...(history.verdict !== 'in progress' && history.certificate === undefined && history.run !== undefined ? (['seal'] as const) : []),
    ...(history.alarm === undefined ? [] : (['look'] as const)),
  ],
});

/** A site that somebody asked to keep on this device, or has opened here. */
export interface Pin {
  readonly siteId: string;
  readonly by: 'hand' | 'opened';
  readonly at: number;
}

/** What a device keeps. */
export interface Tables {
  readonly facts: Rows<Facts, string>;
  readonly sites: Rows<Thing<'site'>, string>;
  readonly systems: Rows<Thing<'system'>, string>;
  readonly components: Rows<Thing<'component'>, string>;
  readonly instruments: Rows<KnownInstrument, string>;
  readonly equipment: Rows<Thing<'equipment'>, string>;
  readonly visits: Rows<Thing<'visit'>, string>;
  readonly histories: Rows<KeptHistory, string>;
  readonly lasts: Rows<LastTest, string>;
  readonly clashes: Rows<KeptClash, string>;
  readonly pins: Rows<Pin, string>;
  readonly tests: Rows<LocalTest, string>;
  readonly runs: Rows<LocalRun, string>;
  readonly events: Rows<RunEvent, [string, string]>;
  readonly signatures: Rows<LocalSignature, string>;
  readonly outbox: Rows<Waiting, number, Omit<Waiting, 'order'>>;
  /** The store's own mark, see `lossOf`; and another one whenever the server has taken a change of the register. */
  readonly marks: Rows<{ readonly key: 'own' | 'taken'; readonly id: string }, string>;
}

/** The device's store: one per person and firm, so that a shared tablet never shows one person's work to another. */
export type DeviceStore = Tables & Stored<Tables>;

/** Counted up whenever a table or an index is added. */
const version = 20;

export const storeOf = (firmId: string, userId: string): DeviceStore =>
  stored<Tables>(`vast-stone-${firmId}-${userId}`, version, {
    facts: { key: 'key' },
    sites: { key: 'id' },
    systems: { key: 'id', by: ['siteId', 'name'] },
    components: { key: 'id', by: ['systemId'] },
    instruments: { key: 'id' },
    equipment: { key: 'id' },
    visits: { key: 'id', by: ['siteId', 'on'] },
    histories: { key: 'test', by: ['systemId', 'at'], byEach: ['owes'] },
    lasts: { key: 'systemId', by: ['at'] },
    clashes: { key: 'id', by: ['of'] },
    pins: { key: 'siteId' },
    tests: { key: 'id', by: ['systemId'] },
    runs: { key: 'id', by: ['testId'] },
    events: { key: ['run', 'id'], by: ['run'] },
    signatures: { key: 'id', by: ['testId'] },
    outbox: { key: 'order', counted: true, by: ['refused'] },
    marks: { key: 'key' },
  });

/** What this device knows of a store beside the store itself, so that its loss is noticed. */
interface Mark {
  readonly id: string;
  /** How much was not sent yet when that was last looked at. */
  readonly unsent: number;
}

const markKey = ({ name }: DeviceStore): string => `${name}-mark`;

function markOf(store: DeviceStore): Mark | undefined {
  try {
    return JSON.parse(localStorage.getItem(markKey(store)) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}

const keepMark = (store: DeviceStore, mark: Mark): void => localStorage.setItem(markKey(store), JSON.stringify(mark));

/**
 * Asks the browser to keep the store whatever room it needs elsewhere, and looks whether it is still the one that was there. Answers
 * how much that was not sent went with a store that is gone; undefined where none is.
 */
export async function lossOf(store: DeviceStore, make: () => string): Promise<number | undefined> {
  // Not every browser is asked, and it may say no; then this is all the more needed.
  void globalThis.navigator?.storage?.persist?.().catch(() => false);
  const before = markOf(store);
  const own = await store.marks.get('own');
  if (own !== undefined) {
    keepMark(store, { id: own.id, unsent: before?.unsent ?? 0 });
    return undefined;
  }
  const id = make();
  await store.marks.put({ key: 'own', id });
  keepMark(store, { id, unsent: 0 });
  return before === undefined || before.unsent === 0 ? undefined : before.unsent;
}

export function noteUnsent(store: DeviceStore, unsent: number): void {
  const mark = markOf(store);
  if (mark !== undefined && mark.unsent !== unsent) keepMark(store, { ...mark, unsent });
}

/** Changes as the server took them last; another mark means that it has taken more since. */
export const takenMark = async (store: Tables): Promise<string | undefined> => (await store.marks.get('taken'))?.id;

const personKey = 'vast-stone-person';
const deviceKey = 'vast-stone-device';

export interface LocalPerson {
  readonly userId: string;
  readonly firmId: string;
  readonly name: string;
  readonly role: Role;
}

/** Who last signed in on this device; enough to open their own store with no signal. */
export function localPerson(): LocalPerson | undefined {
  try {
    return JSON.parse(localStorage.getItem(personKey) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}

export const rememberPerson = ({ userId, firmId, name, role }: LocalPerson): void =>
  localStorage.setItem(personKey, JSON.stringify({ userId, firmId, name, role }));
export const forgetPerson = (): void => localStorage.removeItem(personKey);

export function deviceId(make: () => string): string {
  const known = localStorage.getItem(deviceKey);
  if (known !== null) return known;
  const made = make();
  localStorage.setItem(deviceKey, made);
  return made;
}

/** Has the browser open the store of whoever worked here last, so that nobody waits for it afterwards. */
export function openEarly(): void {
  const person = localPerson();
  if (person !== undefined)
    deviceStore(person)
      .facts.count()
      .catch(() => undefined);
}

let open: { readonly key: string; readonly store: DeviceStore } | undefined;

export function deviceStore(person: LocalPerson): DeviceStore {
  const key = `${person.firmId}-${person.userId}`;
  if (open?.key !== key) {
    open?.store.close();
    open = { key, store: storeOf(person.firmId, person.userId) };
  }
  return open.store;
}
