import { eq } from 'drizzle-orm';
import { notify, withFirm } from '@/db/connection';
import { standing } from '@/db/schema';
import { changedChannel } from './announce';
import { appendEvents } from './events';
import { runningStream, streamCount, type Told } from './streams';
import { must, openTestFirm } from './test-firm.fixture';

/* Whoever looks at running holds is told the whole once, then what changes, and of their own firm alone. */

const firm = await openTestFirm('streams');
const { firmId, otherFirmId, iola, planned } = firm;
afterAll(() => firm.close());

const endings: AbortController[] = [];
afterEach(() => {
  for (const one of endings.splice(0)) one.abort();
});

/** Opens a stream and gathers what it tells. */
function looker(of: string) {
  const ending = new AbortController();
  endings.push(ending);
  const told: Told[] = [];
  const over = (async () => {
    let text = '';
    const words = new TextDecoder();
    for await (const piece of runningStream(of, ending.signal) as unknown as AsyncIterable<Uint8Array>) {
      text += words.decode(piece, { stream: true });
      const lines = text.split('\n\n');
      text = lines.pop() ?? '';
      for (const line of lines) told.push(JSON.parse(line.replace(/^(retry: \d+\n)?data: /, '')));
    }
  })();
  return { told, end: () => ending.abort(), over };
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function until(holds: () => boolean): Promise<void> {
  for (let look = 0; look < 800 && !holds(); look += 1) await pause(25);
  expect(holds()).toBe(true);
}

/** A run that stands in its hold. */
async function holding() {
  const plan = planned();
  const { runId } = await firm.begun(plan);
  const events = firm.events(plan, 'sound', 3, { run: runId });
  const end = events.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'end');
  expect(end).toBeGreaterThan(0);
  must(await appendEvents(iola, runId, events.slice(0, end)));
  return { runId, rest: events.slice(end) };
}

test('the whole first; a hold that begins, and one that is over, as they come; nothing of it to another firm', async () => {
  const [own, other] = [looker(firmId), looker(otherFirmId)];
  await until(() => own.told.length === 1 && other.told.length === 1);
  expect(own.told[0]).toEqual({ whole: true, changed: [], gone: [] });

  const { runId, rest } = await holding();
  await until(() => own.told.some(({ changed }) => changed.some(({ run }) => run === runId)));
  const late = looker(firmId);
  await until(() => late.told.length === 1);
  expect(late.told[0].whole).toBe(true);
  expect(late.told[0].changed.map(({ run }) => run)).toEqual([runId]);

  must(await appendEvents(iola, runId, rest));
  for (const one of [own, late]) await until(() => one.told.some(({ gone }) => gone.includes(runId)));
  expect(other.told).toHaveLength(1);
});

test('what another program has written is told as soon as it says so', async () => {
  const { runId, rest } = await holding();
  const own = looker(firmId);
  await until(() => own.told.length === 1);
  expect(own.told[0].changed.map(({ run }) => run)).toContain(runId);
  // Our own notice of the hold's beginning has passed by then.
  await pause(1000);
  const before = own.told.length;
  await withFirm(firmId, (tx) =>
    tx
      .update(standing)
      .set({ dueAt: new Date(0) })
      .where(eq(standing.runId, runId)),
  );
  await pause(600);
  expect(own.told).toHaveLength(before);
  await notify(changedChannel, firmId);
  await until(() => own.told.slice(before).some(({ changed }) => changed.some(({ run }) => run === runId)));
  must(await appendEvents(iola, runId, rest));
});

test('whoever comes while something begins is told the whole first, and misses nothing', async () => {
  const beginning = holding();
  const lookers: ReturnType<typeof looker>[] = [];
  for (let index = 0; index < 20; index += 1) {
    lookers.push(looker(firmId));
    await pause(20);
  }
  const { runId, rest } = await beginning;
  for (const { told } of lookers) {
    await until(() => told.some(({ changed }) => changed.some(({ run }) => run === runId)));
    expect(told.map(({ whole }) => whole === true)).toEqual(told.map((_, index) => index === 0));
  }
  must(await appendEvents(iola, runId, rest));
});

test('a stream that ended is forgotten', async () => {
  const before = streamCount();
  const own = looker(firmId);
  await until(() => streamCount() === before + 1);
  own.end();
  await own.over;
  expect(streamCount()).toBe(before);
});
