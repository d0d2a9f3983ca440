import { createServer } from 'node:net';
import { answer } from './answers';
import { at, now } from './clock';
import { listMessages, retryMessage, sendPaper } from './mail';
import { noticeAddress, takeNotice } from './mail-notices';
import { readStandIn, setStandIn, standInAddress } from './mail-stand-in';
import { sendDue, waits } from './mail-worker';
import { paperPdf } from './pdf';
import { correctCertificate, sealTest, withdrawCertificate } from './sealing';
import { must, openTestFirm } from './test-firm.fixture';

/* The outbox: every mail has one fate, and it is told. The mail server is the stand-in, over a real connection. */

const bench = await openTestFirm('mail');
const { iola, wren, stranger, finishedTest, sign } = bench;
process.env.VAST_ADDRESS = 'http://127.0.0.1:3999';
delete process.env.VAST_SMTP_URL;
afterAll(async () => {
  await setStandIn('is down');
  await bench.close();
});
beforeEach(() => setStandIn('takes'));

const make: Parameters<typeof sendDue>[0] = async (_, record) => answer(new Uint8Array(await paperPdf(record)));
const due = () => sendDue(make);

async function sealed(): Promise<string> {
  const { testId } = await finishedTest('sound', 3);
  await sign(testId);
  return must(await sealTest(iola, testId)).id;
}
const certificateId = await sealed();
const send = async (to: readonly string[], note = '') => must(await sendPaper(iola, certificateId, { to, note })).ids;
const row = async (id: string) => (await listMessages(iola)).find((one) => one.id === id);

test('a paper goes to each address once, with the PDF, the link and the note, and says that it is simulated', async () => {
  const ids = await send(['sefa@home.example', 'SEFA@home.example', 'desk@home.example'], 'As agreed on site.');
  expect(ids).toHaveLength(2);
  expect(await row(ids[0])).toMatchObject({ state: 'waiting', tries: 0 });
  await due();
  expect(await row(ids[0])).toMatchObject({ state: 'sent', tries: 1, said: expect.stringMatching(/^250/) });
  const got = readStandIn().got.filter(({ messageId }) => ids.some((id) => messageId.includes(id)));
  expect(got.map(({ to }) => to).sort()).toEqual(['SEFA@home.example', 'desk@home.example']);
  const [{ subject, text, attachments, from }] = got;
  expect(subject).toMatch(/^Certificate \d{4}-\d{5}: Gas$/);
  expect(text).toMatch(/As agreed on site\.[\s\S]*Pass\.[\s\S]*SIMULATED[\s\S]*http:\/\/127\.0\.0\.1:3999\/check\/[0-9a-f]{32}/);
  expect(attachments).toEqual([{ name: expect.stringMatching(/^certificate-.*\.pdf$/), bytes: expect.any(Number) }]);
  expect(attachments[0].bytes).toBeGreaterThan(20_000);
  expect(from).toMatch(/^notice\+/);
  // Looked at again, nothing is sent twice.
  await due();
  expect(readStandIn().got.filter(({ messageId }) => ids.some((id) => messageId.includes(id)))).toHaveLength(2);
});

test('an address that refuses at once is told in the server’s words, and can be tried again', async () => {
  await setStandIn('refuses');
  const [id] = await send(['nobody@home.example']);
  await due();
  expect(await row(id)).toMatchObject({ state: 'refused', tries: 1, said: expect.stringContaining('no such mailbox here') });
  await due();
  expect((await row(id))?.tries).toBe(1);
  await setStandIn('takes');
  must(await retryMessage(iola, id));
  await due();
  expect(await row(id)).toMatchObject({ state: 'sent' });
  expect(await retryMessage(iola, id)).toMatchObject({ ok: false, problem: { code: 'was-sent' } });
});

test('an address that refuses later by a notice: it came back, with why', async () => {
  await setStandIn('bounces later');
  const [id] = await send(['full@home.example']);
  await due();
  expect(await row(id)).toMatchObject({ state: 'bounced', said: expect.stringContaining('mailbox full') });
});

test('a server that is down for a day: tried less and less often, and sent when it is back; killed and begun again it loses nothing', async () => {
  await setStandIn('is down');
  const start = now();
  const [id] = await send(['later@home.example']);
  let time = start;
  let tries = 0;
  while (time < start + 86_400_000) {
    await at(time, due);
    const found = await row(id);
    if (found !== undefined && found.tries > tries) {
      tries = found.tries;
      expect(found).toMatchObject({ state: 'waiting', said: expect.stringMatching(/no mail server answers \(\w+\)/) });
      expect(found.nextAt.getTime() - time).toBe(waits[tries - 1]);
    }
    time += 5 * 60_000;
  }
  expect(tries).toBeGreaterThan(5);
  expect(tries).toBeLessThan(9);
  await setStandIn('takes');
  await at(start + 2 * 86_400_000, due);
  expect(await row(id)).toMatchObject({ state: 'sent', tries: tries + 1 });
});

test('given up after three days, and said', async () => {
  await setStandIn('is busy');
  const [id] = await send(['busy@home.example']);
  const start = now();
  let time = start;
  for (const wait of [0, ...waits]) {
    time += wait;
    await at(time, due);
  }
  expect(await row(id)).toMatchObject({ state: 'given up', tries: waits.length + 1, said: expect.stringContaining('too busy just now') });
  expect(time - start).toBeGreaterThan(2 * 86_400_000);
});

test('what was withdrawn or corrected meanwhile is sent to nobody, and says why', async () => {
  const [one, other] = [await sealed(), await sealed()];
  const ids = [
    ...must(await sendPaper(iola, one, { to: ['late@home.example'] })).ids,
    ...must(await sendPaper(iola, other, { to: ['late@home.example'] })).ids,
  ];
  must(await withdrawCertificate(wren, one, { reason: 'Tested the wrong flat' }));
  const newer = must(await correctCertificate(wren, other, { reason: 'Meter number mistyped', details: { meterNumber: 'M-2' } }));
  await due();
  expect(await row(ids[0])).toMatchObject({ state: 'refused', said: expect.stringContaining('Tested the wrong flat') });
  expect(await row(ids[1])).toMatchObject({ state: 'refused', said: expect.stringContaining(newer.number) });
  expect(readStandIn().got.some(({ messageId }) => ids.some((id) => messageId.includes(id)))).toBe(false);
  expect(await sendPaper(iola, one, { to: ['a@b.example'] })).toMatchObject({ ok: false, problem: { code: 'no-longer-good' } });
  expect(await sendPaper(iola, other, { to: ['a@b.example'] })).toMatchObject({ ok: false, problem: { code: 'no-longer-good' } });
});

test('a worker that died in the middle leaves its mail to the next; two at once send it once', async () => {
  const [id] = await send(['twice@home.example']);
  await Promise.all([due(), due(), due()]);
  expect(readStandIn().got.filter(({ messageId }) => messageId.includes(id))).toHaveLength(1);
  const [lost] = await send(['lost@home.example']);
  const dying: Parameters<typeof sendDue>[0] = () => new Promise(() => undefined);
  // It hangs for ever, as one that was killed; its lease runs out.
  void sendDue(dying);
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(await row(lost)).toMatchObject({ state: 'waiting', tries: 1 });
  await due();
  expect((await row(lost))?.state).toBe('waiting');
  await at(now() + 4 * 60_000, due);
  expect(await row(lost)).toMatchObject({ state: 'sent', tries: 2 });
});

test.each([
  [{ to: [] }, 'to'],
  [{ to: ['nowhere'] }, 'to'],
  [{ to: ['a@b.example, c@d.example'] }, 'to'],
  [{ to: ['a@b.example\nBcc: c@d.example'] }, 'to'],
  [{ to: Array.from({ length: 11 }, (_, index) => `a${index}@b.example`) }, 'to'],
  [{ to: ['a@b.example'], note: 'x'.repeat(1001) }, 'note'],
])('%j is refused at its field', async (form, field) => {
  expect(await sendPaper(iola, certificateId, form)).toMatchObject({ ok: false, problem: { field: expect.stringContaining(field) } });
});

test('another firm’s paper and mail are not there; a notice about nothing changes nothing', async () => {
  const [id] = await send(['own@home.example']);
  expect(await sendPaper(stranger, certificateId, { to: ['a@b.example'] })).toMatchObject({ ok: false, status: 404 });
  expect(await retryMessage(stranger, id)).toMatchObject({ ok: false, status: 404 });
  expect(await listMessages(stranger)).toEqual([]);
  expect((await listMessages(wren)).some((one) => one.id === id)).toBe(true);
  const failed = 'Action: failed\r\nStatus: 5.1.1\r\n';
  expect(await takeNotice(failed, noticeAddress('00000000-0000-4000-8000-000000000000'))).toBe(false);
  expect(await takeNotice(failed, 'papers@vast-stone.invalid')).toBe(false);
  expect(await takeNotice('Out of office', noticeAddress(id))).toBe(false);
  expect((await row(id))?.state).toBe('waiting');
  await due();
  expect(await takeNotice('Action: delivered\r\n', noticeAddress(id))).toBe(true);
  expect((await row(id))?.state).toBe('delivered');
});

test('the stand-in comes back on the same port, and a server that only listens is waited for no longer than its time', async () => {
  const before = await standInAddress();
  await setStandIn('is down');
  await setStandIn('takes');
  expect(await standInAddress()).toBe(before);
  const mute = createServer(() => undefined);
  await new Promise<void>((resolve) => mute.listen(0, '127.0.0.1', resolve));
  const { port } = mute.address() as { port: number };
  process.env.VAST_SMTP_URL = `smtp://127.0.0.1:${port}?greetingTimeout=300`;
  const [id] = await send(['mute@home.example']);
  await due();
  expect(await row(id)).toMatchObject({ state: 'waiting', tries: 1, said: expect.stringMatching(/greeting/i) });
  delete process.env.VAST_SMTP_URL;
  mute.close();
});
