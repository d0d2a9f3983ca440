import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { simulateRun } from '@/core/simulation';
import { jobFor, planFor } from '@/core/simulation/examples.fixture';
import { closeConnections } from '@/db/connection';
import { appendEvents } from '@/server/events';
import { createRun, createTest } from '@/server/tests';
import { benchFirm } from './firm';
import { paired, type Say } from './measures';

/** One reading through the server's command (checks, policies, lock and all) against the bare insert of the same row. */
export async function appendAgainstInsert(say: Say): Promise<void> {
  if (!process.env.VAST_TEST_ADMIN_URL) {
    say('Append a reading through the server', 'not measured: run ./test bench', '', 'at most 3 ×');
    return;
  }
  const { database, firmId, actors, systemId } = await benchFirm('bench', 1, 'technician');
  const [actor] = actors;
  try {
    const plan = planFor({});
    const [testId, runId] = [randomUUID(), randomUUID()];
    await createTest(actor, { id: testId, systemId, details: {} });
    await createRun(actor, { id: runId, testId, number: 1, plan });
    const [reading] = simulateRun(jobFor(plan, 'sound', 3, { run: runId })).filter(({ type }) => type === 'reading');
    const client = new Client({ connectionString: database.appUrl });
    await client.connect();
    await client.query(`select set_config('app.firm_id', '${firmId}', false)`);
    let place = 0;
    const insert = () => {
      const id = randomUUID();
      // Below all places that the server gives.
      place -= 1;
      return client.query('insert into event (run_id, id, firm_id, event, position, received_at) values ($1, $2, $3, $4, $5, now())', [
        runId,
        id,
        firmId,
        JSON.stringify({ ...reading, id }),
        place,
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
