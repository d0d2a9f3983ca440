import type { Section } from '@/core/locating';
import { addressOf } from '@/core/permissions';
import type { Kit } from '@/server/field';
import { newId, now } from './clock';
import { type FieldStore, fieldStore, rememberPerson } from './store';

/** Stores the person's sites, gauges and rules on this device; undefined where there is no signal or nobody signed in. */
export async function takeAlong(): Promise<Kit | undefined> {
  try {
    const response = await fetch(addressOf('GET /api/field/kit'), { signal: AbortSignal.timeout(6000) });
    if (!response.ok) return undefined;
    const fresh = (await response.json()) as Kit;
    rememberPerson(fresh.person);
    const store = fieldStore(fresh.person);
    const kit = await withUnsent(store, fresh);
    await store.kit.put({ key: 'kit', kit, takenAt: now() });
    return kit;
  } catch {
    return undefined;
  }
}

/** A kit with the sections that were changed here and have not reached the server yet. */
async function withUnsent(store: FieldStore, kit: Kit): Promise<Kit> {
  const waiting = await store.outbox.toArray();
  return waiting.reduce(
    (last, { item, refused }) =>
      item.kind === 'sections' && refused === undefined ? withSections(last, item.systemId, item.sections as readonly Section[]) : last,
    kit,
  );
}

const withSections = (kit: Kit, systemId: string, sections: readonly Section[]): Kit => ({
  ...kit,
  systems: kit.systems.map((system) => (system.id === systemId ? { ...system, sections } : system)),
});

/** Changes a system's sections here at once, and at the server when there is signal; both or neither. */
export async function changeSections(store: FieldStore, kit: Kit, systemId: string, sections: readonly Section[]): Promise<Kit> {
  const changed = withSections(kit, systemId, sections);
  await store.transaction('rw', store.kit, store.outbox, async () => {
    await store.kit.put({ key: 'kit', kit: changed, takenAt: now() });
    await store.outbox.add({ item: { kind: 'sections', id: newId(), systemId, sections } } as never);
  });
  return changed;
}
