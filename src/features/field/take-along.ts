import type { Kit } from '@/server/field';
import { now } from './clock';
import { fieldStore, rememberPerson } from './store';

/** Stores the person's sites, gauges and rules on this device; undefined where there is no signal or nobody signed in. */
export async function takeAlong(): Promise<Kit | undefined> {
  try {
    const response = await fetch('/api/field/kit', { signal: AbortSignal.timeout(6000) });
    if (!response.ok) return undefined;
    const kit = (await response.json()) as Kit;
    rememberPerson(kit.person);
    await fieldStore(kit.person).kit.put({ key: 'kit', kit, takenAt: now() });
    return kit;
  } catch {
    return undefined;
  }
}
