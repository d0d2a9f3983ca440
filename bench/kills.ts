import { randomUUID } from 'node:crypto';
import { dateText } from '@/core/judging';
import { planFor } from '@/core/simulation/examples.fixture';
import { closeConnections } from '@/db/connection';
import { stopAnnouncing } from '@/server/announce';
import { addPerson } from '@/server/auth';
import { addFirm } from '@/server/firms';
import { rotateKey } from '@/server/keys';
import { addSite, addSystem } from '@/server/sites';
import { testDatabase } from '../ops/test-database';
import { killCycles } from './kill-cycles';

/* Usage: ./test kills [cycles] */

const database = await testDatabase('empty', 'kills');
process.env.VAST_DATABASE_URL = database.appUrl;
process.env.VAST_AUTH_DATABASE_URL = database.authUrl;
const firmId = randomUUID();
await addFirm(firmId, 'Kills', '0000');
await rotateKey(firmId);
const account = { email: 'kills@kills.invalid', password: 'long-enough-1' };
const actor = await addPerson({ firmId, name: 'Supervisor', ...account, role: 'supervisor' });
const site = await addSite(actor, { name: 'First', address: '1 Quay Road' });
if (!site.ok) throw new Error(site.problem.message);
const system = await addSystem(actor, site.value.id, { name: 'Gas', pipes: '22cu 6' });
if (!system.ok) throw new Error(system.problem.message);
stopAnnouncing();
await closeConnections();

const killed = await killCycles(
  Number(process.argv[2] ?? 64),
  {
    appUrl: database.appUrl,
    firmId,
    ...account,
    author: actor.userId,
    system: system.value.id,
    plan: planFor({ on: dateText(Date.now()) }),
    environment: {},
  },
  (line) => console.log(line),
);
console.log(
  `${killed.cycles} cycles, ${killed.acknowledged} events and ${killed.commands} commands acknowledged: ${killed.faults.length === 0 ? 'nothing lost, nothing doubled' : killed.faults.join('; ')}`,
);
await database.drop();
process.exit(killed.faults.length === 0 && killed.acknowledged > 0 ? 0 : 1);
