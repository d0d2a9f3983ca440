import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { simulateRun } from '@/core/simulation';
import { jobFor, planFor } from '@/core/simulation/examples.fixture';
import { closeConnections } from '@/db/connection';
import { addPerson } from '@/server/auth';
import { appendEvents } from '@/server/events';
import { addFirm } from '@/server/firms';
import { addSite, addSystem } from '@/server/sites';
import { createRun, createTest } from '@/server/tests';
import { testDatabase } from '../ops/test-database';
import { paired, type Say } from './measures';

/** One reading through the server's command (checks, policies, lock and all) against the bare insert of the same row. */
export async function appendAgainstInsert(say: Say): Promise<void> {
  if (!process.env.VAST_TEST_ADMIN_URL) {
    say('Append a reading through the server', 'not measured: run ./test bench', '', 'at most 3 ×');
    return;
  }
  const database = await testDatabase('empty', 'bench');
  process.env.VAST_DATABASE_URL = database.appUrl;
  process.env.VAST_AUTH_DATABASE_URL = database.authUrl;
  try {
    const firmId = randomUUID();
    await addFirm(firmId, 'Bench', '0');
    const actor = await addPerson({
      firmId,
      name: 'Test technician',
      email: 'bench@test.invalid',
      password: 'long-enough-1',
      role: 'technician',
    });
    const site = await addSite(actor, { name: 'S', address: 'A' });
    if (!site.ok) throw new Error(site.problem.message);
    const system = await addSystem(actor, site.value.id, { name: 'G', pipes: '22cu 12\n15cu 9' });
    if (!system.ok) throw new Error(system.problem.message);
    const plan = planFor({});
    const [testId, runId] = [randomUUID(), randomUUID()];
    await createTest(actor, { id: testId, systemId: system.value.id, details: {} });
    await createRun(actor, { id: runId, testId, number: 1, plan });
    const [reading] = simulateRun(jobFor(plan, 'sound', 3, { run: runId })).filter(({ type }) => type === 'reading');
    const client = new Client({ connectionString: database.appUrl });
    await client.connect();
    await client.query(`select set_config('app.firm_id', '${firmId}', false)`);
    const insert = () => {
      const id = randomUUID();
      return client.query('insert into event (run_id, id, firm_id, event, received_at) values ($1, $2, $3, $4, now())', [
        runId,
        id,
        firmId,
        JSON.stringify({ ...reading, id }),
      ]);
    };
    const append = () => appendEvents(actor, runId, [{ ...reading, id: randomUUID() }]);
    const { reference, measured, ratio } = await paired(200, insert, append);
    await client.end();
    say(
      'Append a reading through the server',
      `${measured.toFixed(2)} ms, ${ratio.toFixed(1)} ×`,
      `bare insert of the row, ${reference.toFixed(2)} ms`,
      'at most 3 ×',
    );
  } finally {
    await closeConnections();
    await database.drop();
  }
}
