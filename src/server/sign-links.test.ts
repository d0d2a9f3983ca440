import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { at, now } from './clock';
import { readDraft } from './drafts';
import { appendEvents } from './events';
import { addPhoto } from './photos';
import { sealTest } from './sealing';
import { linkWords, makeSignLink, openLinks, pictureOfLink, readLink, signByLink } from './sign-links';
import { must, openTestFirm, stroke } from './test-firm.fixture';

/* The private link: once, for what it was made for, for a week, and for nobody else. */

const bench = await openTestFirm('sign-links');
const { iola, stranger, finishedTest, sign } = bench;
process.env.VAST_ADDRESS = 'https://tests.example';
afterAll(() => bench.close());

const by = { name: 'Sefa Dunmore', strokes: stroke };
const tokenOf = (address: string): string => address.slice(address.lastIndexOf('/') + 1);
const made = async (testId: string, also: readonly string[] = []) =>
  tokenOf(must(await makeSignLink(iola, testId, { name: 'Sefa Dunmore', also })).address);
const state = async (token: string) => must(await readLink(token)).state;

test('it shows the paper as it is to be sealed, takes one signature, and never a second', async () => {
  const { testId } = await finishedTest('sound', 3);
  const token = await made(testId);
  expect(must(await readLink(token))).toMatchObject({ state: 'open', name: 'Sefa Dunmore', firm: 'Test firm' });
  expect(must(await openLinks(iola, testId).then((value) => ({ ok: true as const, value })))).toHaveLength(1);
  expect(await signByLink(token, { name: 'Sefa', strokes: [] })).toMatchObject({ ok: false, problem: { code: 'signature-empty' } });
  expect(await signByLink(token, { strokes: stroke })).toMatchObject({ ok: false, problem: { field: 'name' } });
  const [one, other] = await Promise.all([signByLink(token, by), signByLink(token, by)]);
  expect([one, other].filter(({ ok }) => ok)).toHaveLength(1);
  expect([one, other].find(({ ok }) => !ok)).toMatchObject({ problem: { code: 'link-used' } });
  expect(must(await readDraft(iola, testId)).record.signatures).toEqual([
    expect.objectContaining({ role: 'customer', name: 'Sefa Dunmore', remote: true }),
  ]);
  expect(await state(token)).toBe('used');
  expect(await openLinks(iola, testId)).toEqual([]);
});

test('a refusal by the link is one, with its reason', async () => {
  const { testId } = await finishedTest('sound', 4);
  must(await signByLink(await made(testId), { name: 'Sefa', refused: true, absent: 'wants to see it first', strokes: [] }));
  expect(must(await readDraft(iola, testId)).record.signatures).toEqual([
    expect.objectContaining({ refused: true, absent: 'wants to see it first', remote: true }),
  ]);
});

test('for a week and no longer', async () => {
  const { testId } = await finishedTest('sound', 5);
  const token = await made(testId);
  await at(now() + 8 * 86_400_000, async () => {
    expect(await state(token)).toBe('expired');
    expect(await signByLink(token, by)).toMatchObject({ ok: false, problem: { code: 'link-expired', message: linkWords('expired') } });
  });
});

test('what was written after it was made is not what was asked to be signed', async () => {
  const { testId, runId } = await finishedTest('sound', 6);
  const token = await made(testId);
  const smell = {
    schema: 1,
    run: runId,
    id: randomUUID(),
    device: 'd9',
    seq: 1,
    author: iola.userId,
    observedAt: now(),
    enteredAt: now(),
    offsetMinutes: 0,
    boot: 'b',
    mono: 0,
    type: 'smell',
    text: 'after all',
  } as const;
  must(await appendEvents(iola, runId, [smell]));
  expect(await state(token)).toBe('changed');
  expect(await signByLink(token, by)).toMatchObject({ ok: false, problem: { code: 'link-changed' } });
});

test('not once it is sealed, not for a test that goes on, and not for another firm’s', async () => {
  const { testId } = await finishedTest('sound', 7);
  const token = await made(testId);
  expect(await makeSignLink(stranger, testId, { name: 'X' })).toMatchObject({ ok: false, status: 404 });
  await sign(testId);
  must(await sealTest(iola, testId));
  expect(await state(token)).toBe('sealed');
  expect(await signByLink(token, by)).toMatchObject({ ok: false, problem: { code: 'link-sealed' } });
  expect(await makeSignLink(iola, testId, { name: 'X' })).toMatchObject({ ok: false, problem: { code: 'already-sealed' } });
  const { testId: open } = await bench.begun(bench.planned({}));
  expect(await makeSignLink(iola, open, { name: 'X' })).toMatchObject({ ok: false, problem: { code: 'not-finished' } });
});

test('one hand for all tests of a visit', async () => {
  const [one, other] = [await finishedTest('sound', 8), await finishedTest('small-leak', 9)];
  must(await signByLink(await made(one.testId, [other.testId]), by));
  expect(must(await readDraft(iola, one.testId, [other.testId])).signed).toEqual(['customer']);
});

test('a token that was never made opens nothing, and shows no picture; a real one shows only those of its paper', async () => {
  for (const token of ['', 'x', 'x'.repeat(32), "' or 1=1 --", '../../etc'])
    expect(await readLink(token)).toMatchObject({ ok: false, status: 404 });
  const { testId, runId } = await finishedTest('sound', 10);
  const picture = await sharp({ create: { width: 50, height: 50, channels: 3, background: '#225577' } })
    .jpeg()
    .toBuffer();
  const { hash } = must(await addPhoto(iola, runId, now(), picture));
  const token = await made(testId);
  // It is there, and no event of this test names it.
  expect(await pictureOfLink(token, hash)).toMatchObject({ ok: false, status: 404 });
  expect(await pictureOfLink('x'.repeat(32), hash)).toMatchObject({ ok: false, status: 404 });
});
