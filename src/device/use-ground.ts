'use client';

import { dateText } from '@/core/exact';
import type { SystemKind } from '@/core/procedures';
import { now, offsetMinutes } from './clock';
import { type Ground, groundOf } from './ground';
import { useDevice } from './provider';
import type { Tables } from './store';
import { useLive } from './use-live';

/** Local date of this device. */
export const today = (): string => dateText(now() + offsetMinutes() * 60_000);

/** A plan can start from those of so many systems. */
const mostToCopy = 150;

const ofKind = (store: Tables, kind: SystemKind) =>
  store.systems
    .filter((system) => system.kind === kind && !system.putAway)
    .limit(mostToCopy)
    .toArray();

async function ofSystem(store: Tables, systemId: string): Promise<Ground | 'absent' | undefined> {
  const own = await store.systems.get(systemId);
  if (own === undefined) return 'absent';
  const alike = (await ofKind(store, own.kind)).filter(({ id }) => id !== own.id);
  return groundOf(store, [own, ...alike], today());
}

/** What a plan of this system is made on, and those of its kind that it could copy from; 'absent' where the device has no such system. */
export function useGround(systemId: string): Ground | 'absent' | undefined {
  const { store } = useDevice();
  return useLive(store, (read) => ofSystem(read, systemId), [systemId]);
}

/** The same for all systems of a site. */
export function useSiteGround(siteId: string): Ground | undefined {
  const { store } = useDevice();
  return useLive(
    store,
    async (read) =>
      groundOf(
        read,
        (await read.systems.where('siteId').equals(siteId).toArray()).filter(({ putAway }) => !putAway),
        today(),
      ),
    [siteId],
  );
}
