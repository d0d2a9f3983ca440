import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { setPriority } from 'node:os';
import { Client } from 'pg';
import { dateText } from '@/core/judging';
import { planFor } from '@/core/simulation/examples.fixture';
import { commandHeader } from '@/server/command';
import { createTest } from '@/server/tests';
import { anySignature, attackFiles } from './attack-files';
import { benchFirm, password } from './firm';
import { at, looksAtHealth } from './health-looks';
import { ask, startServer, wait } from './server';

/*
 * What stopped the service once, one kind after the other and then all at once, while health is asked: files made to be checked for
 * ever or to fill the memory, bodies without an end as fast as they are taken, passwords guessed, signatures on a held lock, devices
 * that sync. An answer that none of them should get fails. Usage: ./test attacks [seconds]
 */

const seconds = Number(process.argv[2] ?? 60);
/** The connection ended while it was still sending. */
const cutOff = 0;
const { database, actors, systemId, letGo } = await benchFirm('attacks', 2, 'supervisor');
const testId = randomUUID();
const made = await createTest(actors[0], { id: testId, systemId, details: {} });
if (!made.ok) throw new Error(made.problem.message);
await letGo();

const plan = planFor({ on: dateText(Date.now()) });
const files = await attackFiles(plan);

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
  /** A file, or a body without an end. */
  const check = (body: BodyInit) =>
    fetch(`${address}/api/check`, { method: 'POST', body, duplex: 'half', headers: from() } as RequestInit).then(
      async (response) => {
        await response.arrayBuffer();
        return response.status;
      },
      () => cutOff,
    );
  const post = async (path: string, body: unknown, headers: Record<string, string> = {}) =>
    (await ask(port, 'POST', path, JSON.stringify(body), { ...from(), ...headers })).status;
  const endless = () => new ReadableStream<Uint8Array>({ pull: (controller) => controller.enqueue(new Uint8Array(256 * 1024)) });
  const signing = () => post(`/api/tests/${testId}/signature`, anySignature(), { cookie: cookies, [commandHeader]: randomUUID() });
  const guess = () => post('/api/sign-in', { email: actors[1].email, password: `wrong-${randomUUID()}` });
  const syncing = () => post('/api/field/sync', { items: [{ kind: 'events', run: randomUUID(), events: [] }] }, { cookie: cookies });
  await owner.connect();
  await owner.query('begin; lock table signature in access exclusive mode');

  let turn = 0;
  const attacks = {
    'files to check': {
      atOnce: 4,
      pauseMs: 200,
      expected: [400, 413, 503],
      work: () => {
        turn += 1;
        return check(new Uint8Array(files[turn % files.length]));
      },
    },
    'endless bodies': { atOnce: 2, pauseMs: 500, expected: [413, 503, cutOff], work: () => check(endless()) },
    guesses: { atOnce: 20, pauseMs: 200, expected: [403, 429], work: guess },
    'signatures on a held lock': { atOnce: 12, pauseMs: 100, expected: [503], work: signing },
    syncs: { atOnce: 5, pauseMs: 600, expected: [200], work: syncing },
  };
  type Attack = keyof typeof attacks;

  /** Does these over and over until the time is over, and tells how health answered meanwhile. */
  async function under(name: string, kinds: readonly Attack[], forSeconds: number): Promise<void> {
    const ends = Date.now() + forSeconds * 1000;
    const answers = new Map<string, number>();
    const unexpected = new Set<string>();
    const from = Date.now();
    await Promise.all(
      kinds.flatMap((kind) => {
        const { atOnce, pauseMs, expected, work } = attacks[kind];
        return Array.from({ length: atOnce }, async () => {
          while (Date.now() < ends) {
            const status = await work();
            const said = `${kind} ${status === cutOff ? 'cut off' : status}`;
            answers.set(said, (answers.get(said) ?? 0) + 1);
            if (!expected.includes(status)) unexpected.add(said);
            await wait(pauseMs);
          }
        });
      }),
    );
    tried.push({ name, from, until: ends, answers, unexpected });
  }

  const tried: {
    readonly name: string;
    readonly from: number;
    readonly until: number;
    readonly answers: ReadonlyMap<string, number>;
    readonly unexpected: ReadonlySet<string>;
  }[] = [];
  // Attackers have machines of their own: their work here gives way, with all the threads that it has. Whoever asks for health does not.
  const threads = readdirSync('/proc/self/task').map(Number);
  const health = looksAtHealth(port);
  for (const thread of threads) setPriority(thread, 10);
  const kinds = Object.keys(attacks) as Attack[];
  for (const kind of kinds) {
    await under(kind, [kind], seconds / kinds.length);
    await wait(1000);
  }
  await under('all at once', kinds, seconds);
  await owner.query('rollback');
  const looks = await health.end();
  console.log('| attack | looks | health p50 / p95 / worst ms | not ready | answers |\n| --- | --- | --- | --- | --- |');
  for (const { name, from, until, answers, unexpected } of tried) {
    const during = looks.filter((look) => look.at >= from && look.at < until);
    const times = during.map(({ ms }) => ms).sort((x, y) => x - y);
    const down = during.filter(({ status }) => status !== 200).length;
    const figures = [at(times, 0.5), at(times, 0.95), times.at(-1) ?? Number.NaN].map((ms) => ms.toFixed(0)).join(' / ');
    const told = [...answers]
      .sort()
      .map(([said, count]) => `${said}: ${count}`)
      .join(', ');
    console.log(`| ${name} | ${times.length} | ${figures} | ${down} | ${told} |`);
    for (const said of unexpected) console.log(`not expected: ${said}`);
    if (down > 0 || times.length === 0 || unexpected.size > 0) process.exitCode = 1;
  }
} finally {
  await owner.end();
  await end();
}
await database.drop();
