import Dexie, { type EntityTable, type Table } from 'dexie';
import type { RunEvent } from '@/core/judging';
import type { Role } from '@/core/permissions';
import type { Plan } from '@/core/planning';
import type { Kit, Outgoing } from '@/server/field';

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
  readonly item: Outgoing | { readonly kind: 'photo'; readonly run: string; readonly takenAt: number; readonly picture: Blob };
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

/** The field store: one per person and firm, so that a shared tablet never shows one person's work to another. */
export class FieldStore extends Dexie {
  readonly kit!: Table<{ readonly key: 'kit'; readonly kit: Kit; readonly takenAt: number }, string>;
  readonly tests!: Table<LocalTest, string>;
  readonly runs!: Table<LocalRun, string>;
  readonly events!: Table<RunEvent, [string, string]>;
  readonly signatures!: Table<LocalSignature, string>;
  readonly outbox!: EntityTable<Waiting, 'order'>;

  constructor(firmId: string, userId: string) {
    super(`vast-stone-${firmId}-${userId}`);
    this.version(1).stores({
      kit: 'key',
      tests: 'id',
      runs: 'id, testId',
      events: '[run+id], run',
      signatures: 'id, testId',
      outbox: '++order',
    });
  }
}

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

let open: { readonly key: string; readonly store: FieldStore } | undefined;

export function fieldStore(person: LocalPerson): FieldStore {
  const key = `${person.firmId}-${person.userId}`;
  if (open?.key !== key) {
    open?.store.close();
    open = { key, store: new FieldStore(person.firmId, person.userId) };
  }
  return open.store;
}
