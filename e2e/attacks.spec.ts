import { createHash, randomUUID } from 'node:crypto';
import type { Browser } from '@playwright/test';
import { Client } from 'pg';
import { anySignature, attackFiles, recordOf } from '../bench/attack-files';
import { envelopeOf } from '../src/core/judging';
import { eventsFor, planFor } from '../src/core/simulation/examples.fixture';
import { type App, asPage, expect, registerOf, signIn, test } from './app';

/* What stopped the service once, done again: others are served all the while, and health answers at once. */

/** How long health took to answer, asked ten times a second until the work is done. */
async function healthDuring<T>(app: App, work: Promise<T>): Promise<{ readonly value: T; readonly p95: number; readonly worst: number }> {
  const times: number[] = [];
  let going = true;
  const asking = (async () => {
    while (going) {
      const began = performance.now();
      const { status } = await fetch(`${app.url}/api/health`);
      times.push(performance.now() - began);
      expect(status).toBe(200);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  })();
  const value = await work.finally(() => {
    going = false;
  });
  await asking;
  times.sort((a, b) => a - b);
  return { value, p95: times[Math.floor(times.length * 0.95)] ?? 0, worst: times.at(-1) ?? 0 };
}

const check = (app: App, body: BodyInit) => fetch(`${app.url}/api/check`, { method: 'POST', body, duplex: 'half' } as RequestInit);

test('files that are made to be checked for ever, or to fill the memory, are let go; a real question is answered', async ({ app }) => {
  test.setTimeout(120_000);
  const plan = planFor({});
  const [crowded, bomb] = await attackFiles(plan);
  expect(crowded.length).toBeLessThan(4_000_000);
  expect(bomb.length).toBeLessThan(2_000_000);

  const { value, p95, worst } = await healthDuring(
    app,
    (async () => {
      const attacks = [crowded, bomb, crowded, bomb].map((file) => check(app, new Uint8Array(file)));
      const answers = await Promise.all(attacks);
      return answers.map(({ status }) => status);
    })(),
  );
  for (const status of value) expect([400, 413, 503]).toContain(status);
  expect([p95 < 150, worst < 1000, p95, worst]).toEqual([true, true, p95, worst]);

  // A body without an end is refused at its twentieth megabyte.
  let sent = 0;
  const endless = new ReadableStream<Uint8Array>({
    pull: (controller) => {
      sent += 1;
      if (sent > 400) controller.close();
      else controller.enqueue(new Uint8Array(1024 * 1024));
    },
  });
  const refused = await check(app, endless).then(
    ({ status }) => status,
    () => 413,
  );
  expect(refused).toBe(413);
  expect(sent).toBeLessThan(60);

  const small = await check(app, recordOf(plan, eventsFor(plan, 'sound').slice(0, 5)));
  expect([small.status, (await small.json()).state]).toEqual([200, 'not sealed']);
});

/** A run that somebody who is signed in has begun, and nothing read in it. */
async function begunRun(app: App, browser: Browser) {
  const context = await app.context(browser);
  await signIn(context, 'wren');
  const register = await registerOf(app, context);
  const [testId, run] = [randomUUID(), randomUUID()];
  const plan = planFor({});
  const send = async (items: readonly unknown[]) => {
    const answer = await (await context.request.post('/api/field/sync', asPage(app, { items }))).json();
    expect(answer.receipts.map(({ ok }: { ok: boolean }) => ok)).toEqual(items.map(() => true));
  };
  await send([
    { kind: 'test', id: testId, systemId: register.systems[0].id, details: {} },
    { kind: 'run', id: run, testId, number: 1, plan },
  ]);
  return { context, testId, run, plan, person: register.person.userId as string, send };
}

test('a picture without its time is refused, and was not taken in 1970', async ({ app, browser }) => {
  const { context, run } = await begunRun(app, browser);
  const sent = Buffer.alloc(10);
  const hash = createHash('sha256').update(sent).digest('hex');
  for (const [time, code] of [
    ['', 'photo-time'],
    ['&takenAt=', 'photo-time'],
    ['&takenAt=soon', 'photo-time'],
    ['&takenAt=0', 'photo-time'],
    [`&takenAt=${Date.now()}`, 'photo-unreadable'],
  ] as const) {
    const address = `/api/field/photo?run=${run}&hash=${hash}&size=10&at=0${time}`;
    const answer = await context.request.post(address, { data: sent, headers: { origin: app.url } });
    expect([answer.status(), (await answer.json()).problem.code]).toEqual([400, code]);
  }
});

test('the draft of a test with thousands of long notes is typeset beside the service', async ({ app, browser }) => {
  test.setTimeout(120_000);
  const { context, testId, run, plan, person, send } = await begunRun(app, browser);
  const [first] = eventsFor(plan, 'sound');
  const notes = Array.from({ length: 3000 }, (_, index) => ({
    ...envelopeOf(first),
    type: 'note',
    text: `${index} ${'long words '.repeat(60)}`,
    id: randomUUID(),
    run,
    author: person,
    seq: index + 1,
  }));
  for (let from = 0; from < notes.length; from += 500) await send([{ kind: 'events', run, events: notes.slice(from, from + 500) }]);
  const { value, p95, worst } = await healthDuring(app, context.request.get(`/api/tests/${testId}/draft`, { timeout: 100_000 }));
  expect([200, 413]).toContain(value.status());
  expect([p95 < 150, worst < 1000, p95, worst]).toEqual([true, true, p95, worst]);
});

test('a held lock keeps waiting only those who need it: they are told to come back, and everybody else goes on', async ({
  app,
  browser,
}) => {
  test.setTimeout(90_000);
  const context = await app.context(browser);
  await signIn(context, 'wren');
  const register = await registerOf(app, context);
  const testId = register.histories[0].test;
  const owner = new Client({ connectionString: app.database.ownerUrl });
  await owner.connect();
  try {
    await owner.query('begin; lock table signature in access exclusive mode');
    const sign = () => context.request.post(`/api/tests/${testId}/signature`, asPage(app, anySignature()));
    const { value, p95, worst } = await healthDuring(
      app,
      (async () => {
        const held = Promise.all(Array.from({ length: 12 }, sign));
        const others: number[] = [];
        for (let turn = 0; turn < 10; turn += 1) {
          const began = performance.now();
          expect((await context.request.get('/api/field/search?words=Cannery')).status()).toBe(200);
          const synced = await context.request.post(
            '/api/field/sync',
            asPage(app, { items: [{ kind: 'events', run: randomUUID(), events: [] }] }),
          );
          expect(synced.status()).toBe(200);
          others.push(performance.now() - began);
        }
        return { others: Math.max(...others), statuses: (await held).map((response) => response.status()) };
      })(),
    );
    expect(new Set(value.statuses)).toEqual(new Set([503]));
    expect([value.others < 2000, p95 < 150, worst < 1000, value.others, p95, worst]).toEqual([true, true, true, value.others, p95, worst]);
    await owner.query('rollback');
    expect([200, 409]).toContain((await sign()).status());
  } finally {
    await owner.end();
  }
});
