import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { exampleFor, examplePlan } from '@/core/simulation/examples.fixture';
import type { Instrument } from '@/core/sizing';
import { together, withFirm } from '@/db/connection';
import { standing } from '@/db/schema';
import { appendEvents } from './events';
import { listRunning } from './field';
import { correctCertificate, sealTest } from './sealing';
import { listNext, listStandings, rebuild, type Standing, standingOf } from './standing';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createRun, createTest, loadTest } from './tests';

/* The rows that lists read say what judging everything afresh would say, after whatever has happened. */

const firm = await openTestFirm('standing');
const { firmId, iola, wren, systemId, planned, sign } = firm;
afterAll(() => firm.close());

const rowOf = async (testId: string): Promise<Standing | undefined> =>
  withFirm(firmId, async (tx) => {
    const rows = await tx.select().from(standing);
    const found = rows.find((one) => one.testId === testId);
    if (found === undefined) return undefined;
    const { changed: _, changedIn: __, ...row } = found;
    return row;
  });

/** As it is kept: what a column leaves out is nothing. */
const plain = (row: unknown) => JSON.parse(JSON.stringify(row));

async function check(testId: string): Promise<Standing> {
  const kept = await rowOf(testId);
  const loaded = await withFirm(firmId, (tx) => loadTest(tx, testId));
  if (kept === undefined || loaded === undefined) throw new Error('there is no row');
  expect(plain(kept)).toEqual(plain(standingOf(loaded)));
  return kept;
}

async function begun(plan: Plan): Promise<{ readonly testId: string; readonly runId: string }> {
  const [testId, runId] = [randomUUID(), randomUUID()];
  must(await createTest(iola, { id: testId, systemId, details }));
  await check(testId);
  must(await createRun(iola, { id: runId, testId, number: 1, plan }));
  await check(testId);
  return { testId, runId };
}

test.each(['sound', 'gross-leak', 'small-leak'])('event by event, of a run that is %s', async (fault) => {
  const plan = planned();
  const { testId, runId } = await begun(plan);
  const seen = new Set<string>();
  for (const event of firm.events(plan, fault, 3, { run: runId })) {
    must(await appendEvents(iola, runId, [event]));
    const { verdict, phase, dueAt, points } = await check(testId);
    seen.add(`${verdict} ${phase} ${dueAt === null ? '' : 'due'} ${points.length > 0 ? 'read' : ''}`);
  }
  expect(seen.size).toBeGreaterThan(5);
});

test('in pieces of any size, twice over, and out of order', async () => {
  const plan = planned();
  const { testId, runId } = await begun(plan);
  const events = firm.events(plan, 'sound', 5, { run: runId });
  const piece = async (part: readonly RunEvent[]) => {
    must(await appendEvents(iola, runId, part));
    await check(testId);
  };
  await piece(events.slice(0, 7));
  await piece(events.slice(3, 20));
  await piece(events.slice(0, 20));
  await piece([...events.slice(20, 40)].reverse());
  await piece(events);
});

/** A run that stands in its hold, and the hold's start. */
async function holding() {
  const plan = planned();
  const { testId, runId } = await begun(plan);
  const events = firm.events(plan, 'sound', 5, { run: runId });
  const begins = events.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'start');
  const start = events[begins];
  if (start?.type !== 'reading') throw new Error('the hold did not begin');
  must(await appendEvents(iola, runId, events.slice(0, begins + 1)));
  await check(testId);
  return { testId, runId, start };
}

/** Figures typed in a hold that runs, a second apart or at chance, with whatever else may come between. */
test('read by the hundred in a hold, in pieces of any size, with what is out of order, withdrawn, warm, or of another kind', async () => {
  const { testId, runId, start } = await holding();
  // Chance that is the same each time.
  let state = 12345;
  const chance = (most: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * most);
  };
  let [seq, second, withdrawn, shown] = [5000, 0, 0, new Set<number>()];
  const one = (more: Partial<RunEvent> & object): RunEvent => {
    seq += 1;
    const observedAt = start.observedAt + second * 1000;
    return { ...start, id: randomUUID(), seq, observedAt, enteredAt: observedAt, mono: start.mono + second * 1000, ...more } as RunEvent;
  };
  const reading = () => one({ role: 'between', source: 'keypad', value: (Number(start.value) - chance(4) / 100).toFixed(2) });
  for (let piece = 0; piece < 60; piece += 1) {
    const part: RunEvent[] = [];
    for (let index = chance(6); index >= 0; index -= 1) {
      second += piece % 3 === 0 ? 1 : chance(9);
      part.push(reading());
    }
    const kind = chance(12);
    if (kind === 0) part.push(one({ role: 'between', observedAt: start.observedAt + chance(second) * 1000 }));
    if (kind === 1) part.push(one({ type: 'withdrawn', reading: part[0].id, reason: 'mistyped' }));
    if (kind === 2) part.push(one({ role: 'between', quantity: 'temperature', value: String(12 + chance(5)), unit: 'C' }));
    if (kind === 3) part.push(one({ role: 'between', value: '999.00' }));
    if (kind === 4) part.push(one({ type: 'note', text: 'a note' }));
    if (kind === 1) withdrawn += 1;
    must(await appendEvents(iola, runId, part));
    shown.add((await check(testId)).points.length);
  }
  expect(second).toBeGreaterThan(200);
  expect(Math.min(withdrawn, shown.size)).toBeGreaterThan(3);
});

test('a reading that lists do not show leaves the row alone', async () => {
  const { testId, runId, start } = await holding();
  const changed = () => withFirm(firmId, async (tx) => (await tx.select().from(standing)).find((row) => row.testId === testId)?.changed);
  const changes: unknown[] = [await changed()];
  for (let second = 1; second <= 21; second += 1) {
    const at = {
      observedAt: start.observedAt + second * 1000,
      enteredAt: start.enteredAt + second * 1000,
      mono: start.mono + second * 1000,
    };
    must(await appendEvents(iola, runId, [{ ...start, ...at, id: randomUUID(), seq: 5000 + second, role: 'between' } as RunEvent]));
    await check(testId);
    changes.push(await changed());
  }
  expect(new Set(changes).size).toBe(1 + 4);
});

test('what was rolled back leaves nothing, in the row or in what is kept of the log', async () => {
  const plan = planned();
  const { testId, runId } = await begun(plan);
  const events = firm.events(plan, 'sound', 6, { run: runId });
  must(await appendEvents(iola, runId, events.slice(0, 10)));
  await expect(
    together(firmId, async () => {
      must(await appendEvents(iola, runId, events.slice(10, 14)));
      throw new Error('the connection broke');
    }),
  ).rejects.toThrow('broke');
  await check(testId);
  // As many others join in their place.
  const note = (index: number) => ({ ...events[10], id: randomUUID(), seq: 500 + index, type: 'note', text: `note ${index}` });
  await withFirm(firmId, (tx) =>
    tx.execute(sql`select * from append_events(${runId}, ${JSON.stringify([0, 1, 2, 3].map(note))}::jsonb, now(), 1000)`),
  );
  must(await appendEvents(iola, runId, events.slice(10)));
  await check(testId);
});

test('a second attempt, one that comes late, a seal, what comes after it, and a correction', async () => {
  const { testId, plan } = await firm.finishedTest('gross-leak', 3);
  expect(await check(testId)).toMatchObject({ verdict: 'fail', attempts: 1, certificate: null });
  const second = randomUUID();
  must(await createRun(iola, { id: second, testId, number: 2, plan }));
  await check(testId);
  const events = firm.events(plan, 'sound', 4, { run: second });
  must(await appendEvents(iola, second, events));
  expect(await check(testId)).toMatchObject({ verdict: 'pass', attempts: 2, runId: second });
  await sign(testId);
  const { id, number } = must(await sealTest(iola, testId));
  expect(await check(testId)).toMatchObject({ certificate: number });
  must(await appendEvents(iola, second, [{ ...events[0], id: randomUUID(), seq: 900, type: 'smell', text: 'afterwards' }]));
  expect(await check(testId)).toMatchObject({ verdict: 'pass' });
  const corrected = must(await correctCertificate(wren, id, { reason: 'the meter was misread', details: { meterReading: '101' } }));
  expect(await check(testId)).toMatchObject({ certificate: corrected.number });
});

test('an attempt that cannot be read is inconclusive', async () => {
  const { testId, plan } = await firm.finishedTest('sound', 3);
  must(await createRun(iola, { id: randomUUID(), testId, number: 2, plan: { ...plan, later: true } }));
  expect(await check(testId)).toMatchObject({ verdict: 'inconclusive' });
});

test('a guard gauge in alarm, a rig check, and an own start for the next plan', async () => {
  const owned = async (id: string): Promise<Plan> => {
    const { gauge, instruments = {} } = exampleFor(id);
    const beside: Record<string, Instrument> = {};
    for (const [role, one] of Object.entries(instruments)) beside[role] = await firm.register(one);
    return examplePlan(id, { gauge: await firm.register(gauge), instruments: beside });
  };
  const { testId, runId } = await firm.finishedTest('sound', 33, await owned('heating-hydraulic'));
  const left = (await withFirm(firmId, (tx) => loadTest(tx, testId)))?.attempts[0].events.find(({ type }) => type === 'guard');
  if (left?.type !== 'guard') throw new Error('the gauge was not left on');
  must(
    await appendEvents(iola, runId, [
      { ...left, id: randomUUID(), seq: 901, observedAt: left.observedAt + 1000, value: (Number(left.value) / 2).toFixed(2) },
    ]),
  );
  expect((await check(testId)).alarm).toContain('damage');
  const plan = await owned('rig-check');
  const rig = await firm.finishedTest('sound', 3, plan);
  const kept = await check(rig.testId);
  expect(kept.rig).toMatchObject({ instrument: plan.gauge.id });
  expect(kept.start).toMatchObject({ gauge: plan.gauge.id });
});

test('made again from nothing they are the same, and lists find them', async () => {
  const before = await withFirm(firmId, (tx) => tx.select().from(standing));
  expect(before.length).toBeGreaterThan(8);
  await firm.owner(async (client) => {
    await client.query('create policy test_all on standing to current_user using (true) with check (true)');
    await client.query('truncate standing');
    await client.query('drop policy test_all on standing');
  });
  expect(await rebuild(firmId)).toBe(before.length);
  const after = await withFirm(firmId, (tx) => tx.select().from(standing));
  const sorted = (rows: typeof before) =>
    rows.map(({ changed: _, changedIn: __, ...row }) => plain(row)).sort((a, b) => (a.testId < b.testId ? -1 : 1));
  expect(sorted(after)).toEqual(sorted(before));
  const all = await listStandings(firmId, 500);
  expect(all).toHaveLength(before.length);
  for (const [only, belongs] of [
    ['open', (one: Standing) => one.verdict === 'in progress' && one.certificate === null],
    ['unsealed', (one: Standing) => one.verdict !== 'in progress' && one.certificate === null],
    ['alarm', (one: Standing) => one.alarm !== null],
    ['over', (one: Standing) => one.verdict !== 'in progress'],
  ] as const)
    expect((await listStandings(firmId, 500, { only })).map(({ testId }) => testId)).toEqual(
      all.filter(belongs).map(({ testId }) => testId),
    );
  expect((await listNext(iola, 6)).map(({ id, last }) => [id, last instanceof Date])).toEqual([[systemId, true]]);
  expect(await listRunning(firm.otherFirmId)).toEqual([]);
});
