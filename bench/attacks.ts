import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { dateText } from '@/core/judging';
import { recordFormat, recordVersion } from '@/core/record';
import { eventsFor, planFor } from '@/core/simulation/examples.fixture';
import { createTest } from '@/server/tests';
import { giveWay } from '@/workers/yielding';
import { pdfWith } from './attack-files';
import { benchFirm, password } from './firm';
import { at, looksAtHealth } from './health-looks';
import { ask, startServer, wait } from './server';

/*
 * What stopped the service once, one kind after the other and then all at once, while health is asked: files made to be checked for
 * ever or to fill the memory, endless bodies, passwords guessed, seals on a held lock, devices that sync. Usage: ./test attacks [seconds]
 */

const seconds = Number(process.argv[2] ?? 60);
const { database, actors, systemId, letGo } = await benchFirm('attacks', 2, 'supervisor');
const testId = randomUUID();
const made = await createTest(actors[0], { id: testId, systemId, details: {} });
if (!made.ok) throw new Error(made.problem.message);
await letGo();

const plan = planFor({ on: dateText(Date.now()) });
const [note] = eventsFor(plan, 'sound');
const notes = Array.from({ length: 60_000 }, (_, index) => ({
  ...note,
  type: 'note',
  text: `note ${index}`,
  id: `00000000-0000-4000-8000-${String(index).padStart(12, '0')}`,
  seq: index + 1,
}));
const record = {
  format: recordFormat,
  version: recordVersion,
  tests: [{ attempts: [{ run: randomUUID(), number: 1, plan, events: notes }] }],
};
const files = await Promise.all([pdfWith(Buffer.from(JSON.stringify(record))), pdfWith(Buffer.alloc(300 * 1024 * 1024))]);

const { port, end } = await startServer({ VAST_PROXIES: '127.0.0.1' });
const owner = new Client({ connectionString: database.ownerUrl });
try {
  const { cookies } = await ask(port, 'POST', '/api/sign-in', JSON.stringify({ email: actors[0].email, password }), {});
  const address = `http://127.0.0.1:${port}`;
  let stranger = 0;
  const from = () => {
    stranger += 1;
    return { 'x-forwarded-for': `10.${(stranger >> 16) % 256}.${(stranger >> 8) % 256}.${stranger % 256}` };
  };
  const post = (path: string, body: BodyInit, headers: Record<string, string> = {}) =>
    fetch(`${address}${path}`, { method: 'POST', body, duplex: 'half', headers: { ...from(), ...headers } } as RequestInit).then(
      async (response) => {
        await response.arrayBuffer();
        return response.status;
      },
      // Cut off while it was still sending.
      () => 0,
    );
  const endless = () => new ReadableStream<Uint8Array>({ pull: (controller) => controller.enqueue(new Uint8Array(256 * 1024)) });
  const signing = () =>
    post(
      `/api/tests/${testId}/signature`,
      JSON.stringify({
        id: randomUUID(),
        role: 'customer',
        name: 'x',
        strokes: [[0, 0, 1, 1, 2, 2, 3, 3, 4, 4]],
        judgementHash: 'a'.repeat(64),
        signedAt: Date.now(),
      }),
      { cookie: cookies, 'content-type': 'application/json', 'command-id': randomUUID() },
    );
  const guess = () =>
    post('/api/sign-in', JSON.stringify({ email: actors[1].email, password: `wrong-${randomUUID()}` }), {
      'content-type': 'application/json',
    });
  const syncing = () =>
    post('/api/field/sync', JSON.stringify({ items: [{ kind: 'events', run: randomUUID(), events: [] }] }), {
      cookie: cookies,
      'content-type': 'application/json',
    });
  await owner.connect();
  await owner.query('begin; lock table signature in access exclusive mode');

  let turn = 0;
  /** So many at a time, and how long each waits before it begins again, ms. */
  const attacks = {
    'files to check': [
      4,
      200,
      () => {
        turn += 1;
        return post('/api/check', new Uint8Array(files[turn % files.length]));
      },
    ],
    'endless bodies': [2, 500, () => post('/api/check', endless())],
    guesses: [20, 200, guess],
    'seals on a held lock': [12, 100, signing],
    syncs: [5, 600, syncing],
  } as const;
  type Attack = keyof typeof attacks;

  /** Does these over and over until the time is over, and tells how health answered meanwhile. */
  async function under(name: string, kinds: readonly Attack[], forSeconds: number): Promise<void> {
    const ends = Date.now() + forSeconds * 1000;
    const answers = new Map<string, number>();
    const from = Date.now();
    await Promise.all(
      kinds.flatMap((kind) => {
        const [atOnce, pauseMs, work] = attacks[kind];
        return Array.from({ length: atOnce }, async () => {
          while (Date.now() < ends) {
            const said = `${kind} ${await work()}`;
            answers.set(said, (answers.get(said) ?? 0) + 1);
            await wait(pauseMs);
          }
        });
      }),
    );
    tried.push({ name, from, until: ends, answers });
  }

  const tried: { readonly name: string; readonly from: number; readonly until: number; readonly answers: Map<string, number> }[] = [];
  const health = looksAtHealth(port);
  // Attackers have machines of their own: their work here gives way. The server and whoever asks for health were begun before.
  giveWay();
  const kinds = Object.keys(attacks) as Attack[];
  for (const kind of kinds) {
    await under(kind, [kind], seconds / kinds.length);
    await wait(1000);
  }
  await under('all at once', kinds, seconds);
  await owner.query('rollback');
  const looks = await health.end();
  console.log('| attack | looks | health p50 / p95 / worst ms | not ready | answers |\n| --- | --- | --- | --- | --- |');
  for (const { name, from, until, answers } of tried) {
    const during = looks.filter((look) => look.at >= from && look.at < until);
    const times = during.map(({ ms }) => ms).sort((x, y) => x - y);
    const down = during.filter(({ status }) => status !== 200).length;
    const figures = [at(times, 0.5), at(times, 0.95), times.at(-1) ?? Number.NaN].map((ms) => ms.toFixed(0)).join(' / ');
    const told = [...answers]
      .sort()
      .map(([said, count]) => `${said}: ${count}`)
      .join(', ');
    console.log(`| ${name} | ${times.length} | ${figures} | ${down} | ${told} |`);
    if (down > 0 || times.length === 0) process.exitCode = 1;
  }
} finally {
  await owner.end();
  await end();
}
await database.drop();
