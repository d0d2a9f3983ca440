import { randomUUID } from 'node:crypto';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { Client } from 'pg';
import { dateText } from '@/core/judging';
import { simulateRun } from '@/core/simulation';
import { demoGauge, jobFor, planFor } from '@/core/simulation/examples.fixture';
import { closeConnections, withFirm } from '@/db/connection';
import { person } from '@/db/schema';
import { stopAnnouncing } from '@/server/announce';
import { now } from '@/server/clock';
import { judgementHash } from '@/server/drafts';
import { appendEvents } from '@/server/events';
import { readExport, writeExport } from '@/server/exchange';
import { addFirm } from '@/server/firms';
import { addCalibration } from '@/server/instruments';
import { rotateKey } from '@/server/keys';
import { sealTest } from '@/server/sealing';
import { addSignature } from '@/server/signatures';
import { rebuild } from '@/server/standing';
import { createRun, createTest, readTest } from '@/server/tests';
import { makeThing } from '@/server/things';
import { testDatabase } from '../ops/test-database';
import { benchFirm } from './firm';

/* All of a firm's data out and in again: bench.mjs exchange [tests] [papers]. Time, and memory at every tenth of the way. */

const [wanted = 10_000, papers = 200] = process.argv.slice(2).map(Number);
const faults = ['sound', 'let-by', 'small-leak', 'sound', 'sound'];
const own = 20;

const must = <T>(
  answer: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: { readonly message: string } },
): T => {
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
};
const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

const bench = await benchFirm('exchange', 1, 'supervisor');
const [actor] = bench.actors;
const day = 86_400_000;
const calibrated = { doneOn: dateText(now() - 100 * day), dueOn: dateText(now() + 265 * day) };
const { name, kind, unit, readability, rangeLow, rangeHigh, simulated } = demoGauge;
const gauge = must(
  await makeThing(actor, 'instrument', {
    name,
    kind,
    unit,
    readability,
    rangeLow,
    rangeHigh,
    simulated,
    serial: 'B-1',
    calibrationNeeded: true,
  }),
);
must(await addCalibration(actor, gauge.id, { ...calibrated, reference: 'C-1' }));
const plan = planFor({
  gauge: { ...demoGauge, id: gauge.id, serial: 'B-1', calibration: { needed: true, last: calibrated.doneOn, due: calibrated.dueOn } },
  on: dateText(now()),
});

async function oneTest(seed: number, fault = faults[seed % faults.length]): Promise<string> {
  const [testId, runId] = [randomUUID(), randomUUID()];
  must(
    await createTest(actor, {
      id: testId,
      systemId: bench.systemId,
      details: { jobOrigin: 'round', visualInspection: 'done', meterNumber: '', meterReading: '' },
    }),
  );
  must(await createRun(actor, { id: runId, testId, number: 1, plan }));
  const job = jobFor(plan, fault, seed, { author: actor.userId, run: runId });
  const over = simulateRun(job).at(-1)?.enteredAt ?? job.startAt;
  must(await appendEvents(actor, runId, simulateRun({ ...job, startAt: job.startAt + now() - 60_000 - over })));
  return testId;
}

async function seal(testId: string): Promise<void> {
  const hash = judgementHash(must(await readTest(actor, testId)));
  for (const role of ['technician', 'customer'] as const)
    must(
      await addSignature(actor, testId, {
        id: randomUUID(),
        role,
        name: 'Somebody',
        strokes: [[0, 0, 100, 100, 200, 50, 300, 80, 400, 20]],
        judgementHash: hash,
        signedAt: now(),
      }),
    );
  must(await sealTest(actor, testId));
}

console.log(`making ${papers} sealed tests, and of ${own} others ${wanted - papers} by copying`);
for (let index = 0; index < papers; index += 1) await seal(await oneTest(index, 'sound'));
const models: string[] = [];
for (let index = 0; index < own; index += 1) models.push(await oneTest(index));
const client = new Client({ connectionString: bench.database.ownerUrl });
await client.connect();
const { rows: room } = await client.query<{ bytes: string }>('select pg_database_size(current_database()) as bytes');
await client.query('create temp table copies (model uuid, test uuid, run uuid)');
await client.query(`insert into copies select m, gen_random_uuid(), gen_random_uuid() from unnest($1::uuid[]) m, generate_series(1, $2)`, [
  models,
  Math.max(0, Math.round((wanted - papers - own) / own)),
]);
await client.query(
  'alter table test disable row level security; alter table run disable row level security; alter table event disable row level security',
);
await client.query(
  'insert into test select c.test, t.firm_id, t.system_id, t.details, t.author, t.created_at from copies c join test t on t.id = c.model',
);
await client.query(
  'insert into run (id, firm_id, test_id, number, plan, unread, created_at) select c.run, r.firm_id, c.test, r.number, r.plan, r.unread, r.created_at from copies c join run r on r.test_id = c.model',
);
await client.query(
  `insert into event (run_id, id, firm_id, event, position, received_at, late)
   select c.run, x.id, e.firm_id, e.event || jsonb_build_object('run', c.run, 'id', x.id), e.position, e.received_at, e.late
   from copies c join run r on r.test_id = c.model join event e on e.run_id = r.id, lateral (select gen_random_uuid() as id, e.id as of) x`,
);
const { rows: made } = await client.query<{ tests: string; events: string; bytes: string }>(
  'select (select count(*) from test) as tests, (select count(*) from event) as events, pg_database_size(current_database()) as bytes',
);
await client.end();
console.log(
  `${made[0].tests} tests, ${made[0].events} events, database ${megabytes(Number(made[0].bytes) - Number(room[0].bytes))} MB more`,
);
await rebuild(bench.firmId);

const folder = await mkdtemp(join(tmpdir(), 'exchange-'));
const file = join(folder, 'firm.zip');

/** Runs it, and says its memory at every tenth. */
async function measured(
  name: string,
  work: (progress: (doing: string, done: number, total: number) => void) => Promise<unknown>,
): Promise<void> {
  const tenths = new Map<string, number>();
  let most = 0;
  let said = 0;
  const lag = monitorEventLoopDelay({ resolution: 10 });
  lag.enable();
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage.rss());
  }, 50);
  const before = process.memoryUsage.rss();
  const began = performance.now();
  await work((doing, done, total) => {
    said += 1;
    tenths.set(`${doing} ${Math.floor((10 * done) / Math.max(1, total))}`, process.memoryUsage.rss());
  });
  clearInterval(watch);
  lag.disable();
  console.log(`${name}: ${((performance.now() - began) / 1000).toFixed(1)} s, ${said} reports of progress`);
  console.log(
    `  memory before ${megabytes(before)} MB, at tenths ${[...tenths.values()].map(megabytes).join(' ')}, at most ${megabytes(most)} MB`,
  );
  // Whoever asks the server for something else meanwhile waits so long.
  console.log(`  others wait at most ${(lag.max / 1e6).toFixed(0)} ms, 99 of 100 under ${(lag.percentile(99) / 1e6).toFixed(0)} ms`);
}

await measured('export, records only', (progress) => writeExport(bench.firmId, file, false, progress));
console.log(`  ${megabytes((await stat(file)).size)} MB`);
stopAnnouncing();
await closeConnections();
const into = await testDatabase('empty', 'exchange-into');
process.env.VAST_DATABASE_URL = into.appUrl;
const firmId = randomUUID();
await addFirm(firmId, 'Empty', '0');
await rotateKey(firmId);
await withFirm(firmId, (tx) => tx.insert(person).values({ firmId, id: randomUUID(), name: 'New', role: 'supervisor' }));
await measured('import', async (progress) => {
  for (const line of await readExport(firmId, file, progress)) console.log(`  ${line.slice(0, 160)}`);
});
stopAnnouncing();
await closeConnections();
await rm(folder, { recursive: true });
await bench.database.drop();
await into.drop();
