import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { envelopeOf, type RunEvent } from '@/core/judging';
import { simulateRun } from '@/core/simulation';
import { jobFor, planFor } from '@/core/simulation/examples.fixture';
import { closeConnections } from '@/db/connection';
import { appendEvents } from '@/server/events';
import { createRun, createTest } from '@/server/tests';
import { benchFirm } from './firm';
import { paired, type Say } from './measures';

/**
 * One reading through the server's command (checks, policies, lock and all) against the bare insert of the same row: on a hold's way,
 * where most are read, and an entry that has the run judged.
 */
export async function appendAgainstInsert(say: Say): Promise<void> {
  if (!process.env.VAST_TEST_ADMIN_URL) {
    say('Append a reading through the server', 'not measured: run ./test bench', '', 'at most 3 ×');
    return;
  }
  const { database, firmId, actors, systemId } = await benchFirm('bench', 1, 'technician');
  const [actor] = actors;
  try {
    const plan = planFor({});
    const [testId, runId, asideRun] = [randomUUID(), randomUUID(), randomUUID()];
    await createTest(actor, { id: testId, systemId, details: {} });
    await createRun(actor, { id: runId, testId, number: 1, plan });
    const whole = simulateRun(jobFor(plan, 'sound', 3, { run: runId })).map((event) => ({ ...event, author: actor.userId }));
    const holds = whole.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'start');
    const start = whole[holds];
    if (start === undefined) throw new Error('nothing was read');
    const client = new Client({ connectionString: database.appUrl });
    await client.connect();
    await client.query(`select set_config('app.firm_id', '${firmId}', false)`);
    let place = 0;
    const aside = randomUUID();
    await createTest(actor, { id: aside, systemId, details: {} });
    await createRun(actor, { id: asideRun, testId: aside, number: 1, plan });
    const insert = () => {
      const id = randomUUID();
      // In a run of its own, below all places that the server gives.
      place -= 1;
      return client.query('insert into event (run_id, id, firm_id, event, position, received_at) values ($1, $2, $3, $4, $5, now())', [
        asideRun,
        id,
        firmId,
        JSON.stringify({ ...start, id }),
        place,
      ]);
    };
    // The hold began just now, so that nothing is to be said of its times.
    const shift = Date.now() - start.observedAt;
    const moment = (at: number) => ({ observedAt: at, enteredAt: at, mono: at - shift - start.observedAt + start.mono });
    let seq = 10_000;
    const append = async (reading: RunEvent) => {
      seq += 1;
      const done = await appendEvents(actor, runId, [{ ...reading, ...moment(Date.now()), id: randomUUID(), seq }]);
      if (!done.ok || done.value.stored !== 1) throw new Error('it was not taken');
    };
    const compare = async (what: string, reading: RunEvent) => {
      const { reference, measured, ratio } = await paired(200, insert, () => append(reading));
      say(what, `${measured.toFixed(2)} ms, ${ratio.toFixed(1)} ×`, `bare insert of the row, ${reference.toFixed(2)} ms`, 'at most 3 ×');
    };
    await appendEvents(
      actor,
      runId,
      whole.slice(0, holds + 1).map((event) => ({ ...event, ...moment(event.observedAt + shift) })),
    );
    await compare('Append a reading on a hold’s way', { ...start, role: 'between' } as RunEvent);
    await compare('Append a note, which is judged', { ...envelopeOf(start), type: 'note', text: 'a note' });
    await client.end();
  } finally {
    await closeConnections();
    await database.drop();
  }
}
