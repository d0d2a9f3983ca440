import { randomUUID } from 'node:crypto';
import type { Role } from '@/core/permissions';
import { closeConnections } from '@/db/connection';
import type { Actor } from '@/server/actor';
import { stopAnnouncing } from '@/server/announce';
import { addPerson } from '@/server/auth';
import { addFirm } from '@/server/firms';
import { rotateKey } from '@/server/keys';
import { makeThing } from '@/server/things';
import { type TestDatabase, testDatabase } from '../ops/test-database';

export const password = 'long-enough-1';

/** A firm to measure with, on a database of its own: so many people, a key, a gas system. */
export async function benchFirm(label: string, people: number, role: Role) {
  const database: TestDatabase = await testDatabase('empty', label);
  process.env.VAST_DATABASE_URL = database.appUrl;
  process.env.VAST_AUTH_DATABASE_URL = database.authUrl;
  const firmId = randomUUID();
  await addFirm(firmId, label, '0000');
  await rotateKey(firmId);
  const actors: (Actor & { readonly email: string })[] = [];
  for (let index = 0; index < people; index += 1) {
    const email = `${role}${index}@${label}.invalid`;
    actors.push({ ...(await addPerson({ firmId, name: `Person ${index}`, email, password, role })), email });
  }
  const site = await makeThing(actors[0], 'site', { name: 'Site', address: '1 Quay Road' });
  if (!site.ok) throw new Error(site.problem.message);
  const system = await makeThing(actors[0], 'system', { siteId: site.value.id, name: 'Gas', pipes: '22cu 12\n15cu 9' });
  if (!system.ok) throw new Error(system.problem.message);
  return {
    database,
    firmId,
    actors,
    systemId: system.value.id,
    /** Lets go of the database, for a server of its own to use it. */
    async letGo(): Promise<void> {
      stopAnnouncing();
      await closeConnections();
    },
  };
}
