import { randomUUID } from 'node:crypto';
import type { Actor } from './actor';
import { at } from './clock';
import { appendEvents } from './events';
import { listRunning, type Outgoing, readRun, receive } from './field';
import { sealTest } from './sealing';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createRun, createTest, listQuarantine } from './tests';

/* What a device takes along, sends, and sees of the tests that run. */

const firm = await openTestFirm('field');
const { iola, wren, stranger, systemId, finishedTest, sign } = firm;
afterAll(() => firm.close());

describe('what a device sends', () => {
  test('something unknown is answered in its place and stops nothing', async () => {
    const testId = randomUUID();
    const items = [
      { kind: 'hologram' },
      null,
      { kind: 'test', id: testId, systemId, details },
      { kind: 'events', run: 'no run', events: [] },
    ];
    const { receipts } = must(await receive(iola, items as unknown as Outgoing[]));
    expect(receipts.map((receipt) => (receipt.ok ? 'ok' : receipt.code))).toEqual(['unknown-item', 'unknown-item', 'ok', 'not-found']);
  });

  test('too much at once is refused whole', async () => {
    const many = Array.from({ length: 501 }, () => ({ kind: 'events', run: randomUUID(), events: [] }) as const);
    expect(await receive(iola, many)).toMatchObject({ ok: false, status: 413 });
  });

  test('an attempt with an odd number takes the next, and the hundred-and-first is refused', async () => {
    const { testId, plan } = await finishedTest('sound', 91);
    for (const number of [Number.NaN, 0, 101, ...Array.from({ length: 96 }, () => 1)])
      must(await createRun(iola, { id: randomUUID(), testId, number, plan }));
    expect(await createRun(iola, { id: randomUUID(), testId, number: 1, plan })).toMatchObject({
      ok: false,
      problem: { code: 'attempts-full' },
    });
  });

  test('two devices that both call theirs the second get the second and the third; sent again, each is itself', async () => {
    const { testId, plan } = await finishedTest('sound', 92);
    const [one, other] = [randomUUID(), randomUUID()];
    for (const id of [one, other, one]) must(await createRun(iola, { id, testId, number: 2, plan }));
    const { runs } = must(await readRun(iola, other));
    expect(runs.map(({ id, number }) => [id, number])).toEqual([
      [expect.any(String), 1],
      [one, 2],
      [other, 3],
    ]);
    const changed = firm.planned({ answers: { work: 'new' } });
    expect(await createRun(iola, { id: one, testId, number: 2, plan: changed })).toMatchObject({ ok: false, status: 409 });
  });

  test('what could not be read is listed for the own firm only', async () => {
    const { runId } = await finishedTest('sound', 93);
    must(await appendEvents(iola, runId, [{ odd: true }]));
    expect((await listQuarantine(wren))[0]).toMatchObject({ why: expect.stringContaining('This is no event') });
    expect(await listQuarantine(stranger)).toEqual([]);
  });
});

describe('a run as other devices see it', () => {
  test('says that its test is sealed, and is nobody else’s', async () => {
    const { testId, runId } = await finishedTest('sound', 94);
    expect(must(await readRun(iola, runId)).test.sealed).toBeUndefined();
    await sign(testId);
    const { number } = must(await sealTest(iola, testId));
    expect(must(await readRun(iola, runId)).test.sealed).toBe(number);
    expect(await readRun(stranger, runId)).toMatchObject({ ok: false, status: 404 });
    expect(await readRun(iola, 'nonsense')).toMatchObject({ ok: false, status: 404 });
  });
});

describe('what runs now', () => {
  /** A run of a simulated job up to and including the event that `last` picks. */
  async function runningTo(actor: Actor, last: (role: string, phase: string) => boolean) {
    const plan = firm.planned({});
    const [testId, runId] = [randomUUID(), randomUUID()];
    const events = firm.events(plan, 'small-leak', 5, { run: runId, author: actor.userId });
    const index = events.findIndex((event) => event.type === 'reading' && last(event.role, event.phase));
    must(await createTest(actor, { id: testId, systemId, details }));
    must(await createRun(actor, { id: runId, testId, number: 1, plan }));
    must(await appendEvents(actor, runId, events.slice(0, index + 1)));
    return { runId, startAt: events[index].observedAt };
  }

  test('an open hold with its due time; a checklist has none; a finished test is not there', async () => {
    const holding = await runningTo(iola, (role, phase) => role === 'start' && phase === 'hold');
    const listing = await runningTo(iola, (role, phase) => role === 'end' && phase === 'hold');
    const { runId: finished } = await finishedTest('sound', 95);
    const running = await at(holding.startAt + 30_000, () => listRunning(wren.firmId));
    expect(running.find(({ run }) => run === holding.runId)).toMatchObject({
      phase: 'Hold',
      system: 'Gas',
      technician: iola.name,
      dueAt: holding.startAt + 120_000,
      simulated: true,
    });
    const list = running.find(({ run }) => run === listing.runId);
    expect(list).toMatchObject({ phase: 'Isolate the appliances' });
    expect(list?.dueAt).toBeUndefined();
    expect(running.some(({ run }) => run === finished)).toBe(false);
    expect(await listRunning(stranger.firmId)).toEqual([]);
  });
});
