import { randomUUID } from 'node:crypto';
import { addPerson, endOf, putAway } from './auth';
import { at } from './clock';
import { delivererOf, deliveryHeader, deliveryKey } from './delivery';
import { appendEvents } from './events';
import { type Outgoing, receive } from './field';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createRun, createTest } from './tests';

/* What somebody worked on before they were put away is taken under their name, and nothing else is. */

const firm = await openTestFirm('delivery');
const { iola, systemId } = firm;
const tomasz = await addPerson({
  firmId: iola.firmId,
  name: 'Tomasz Test',
  email: `tomasz-${randomUUID()}@firm.example`,
  password: 'a long password 1',
  role: 'technician',
});
afterAll(() => firm.close());

const by = (key: string) => delivererOf(new Headers({ [deliveryHeader]: key }));
const note = (run: string, author: string, enteredAt: number, text: string) => ({
  schema: 1,
  run,
  id: randomUUID(),
  device: 'tablet',
  seq: enteredAt % 100_000,
  author,
  observedAt: enteredAt,
  enteredAt,
  offsetMinutes: 0,
  boot: 'b',
  mono: 0,
  type: 'note',
  text,
});

test('a key of ours names its person; one that was altered, is too old or is another’s opens nothing', async () => {
  const key = deliveryKey(iola, undefined);
  expect(await by(key)).toMatchObject({ userId: iola.userId, firmId: iola.firmId, delivers: { until: Number.POSITIVE_INFINITY } });
  const [firmId, , device, day, seal] = key.split('.');
  expect(await by([firmId, tomasz.userId, device, day, seal].join('.'))).toBeUndefined();
  expect(await by(`${key}x`)).toBeUndefined();
  expect(await by('nonsense')).toBeUndefined();
  expect(await delivererOf(new Headers())).toBeUndefined();
  await at(Date.now() + 200 * 86_400_000, async () => expect(await by(key)).toBeUndefined());
});

test('put away, what was written before is taken as theirs; what came after, a change or another’s words are not', async () => {
  const key = deliveryKey(tomasz, undefined);
  const [testId, runId] = [randomUUID(), randomUUID()];
  const before = Date.now() - 60_000;
  await putAway({ id: tomasz.userId, firmId: tomasz.firmId } as never);
  const actor = await by(key);
  if (actor === undefined) throw new Error('no deliverer');
  expect(actor.delivers?.until).toBeLessThanOrEqual(Date.now());
  const sending = [
    { kind: 'test', id: testId, systemId, details },
    { kind: 'run', id: runId, testId, number: 1, plan: firm.planned() },
    { kind: 'events', run: runId, events: [note(runId, tomasz.userId, before, 'before')] },
    { kind: 'events', run: runId, events: [note(runId, tomasz.userId, Date.now() + 60_000, 'after')] },
    { kind: 'events', run: runId, events: [note(runId, iola.userId, before, 'another’s')] },
    { kind: 'change', id: randomUUID(), change: { thing: 'site', of: randomUUID(), fields: {} } },
    { kind: 'signature', testId, signature: {} },
  ] as unknown as Outgoing[];
  const { receipts } = must(await receive(actor, sending));
  expect(receipts.map((one) => (one.ok ? one.quarantined.map(({ why }) => why) : one.code))).toEqual([
    [],
    [],
    [],
    ['It was written after its author was put away, or the device revoked.'],
    ['Somebody else wrote it; only they can send it.'],
    'delivers-only',
    'delivers-only',
  ]);
});

test('a session that still stands needs no key, and takes as before', async () => {
  const [testId, runId] = [randomUUID(), randomUUID()];
  must(await createTest(iola, { id: testId, systemId, details }));
  must(await createRun(iola, { id: runId, testId, number: 1, plan: firm.planned() }));
  expect(must(await appendEvents(iola, runId, [note(runId, iola.userId, Date.now(), 'now')])).stored).toBe(1);
  expect(await endOf(iola.firmId, randomUUID(), '')).toBeUndefined();
});
