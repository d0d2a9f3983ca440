import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import { dateText, guardLooks } from '@/core/judging';
import type { TestRecord } from '@/core/record';
import { exampleFor, examplePlan } from '@/core/simulation/examples.fixture';
import type { Instrument } from '@/core/sizing';
import { withFirm } from '@/db/connection';
import { certificate } from '@/db/schema';
import { checkByCode, readCertificate } from './certificates';
import { at, now } from './clock';
import { readDraft } from './drafts';
import { appendEvents } from './events';
import { readRun } from './field';
import { knownSigners, revokeKey, rotateKey } from './keys';
import { paperPdf } from './pdf';
import { correctCertificate, sealTest } from './sealing';
import { addSignature } from './signatures';
import { details, must, openTestFirm, stroke } from './test-firm.fixture';
import { createRun, readTest } from './tests';
import { verifyFile } from './verify';

/* Certificates: when they can be sealed, the chain, corrections, and checking anyone’s file. */

const bench = await openTestFirm('certificates');
const { firmId, otherFirmId, iola, wren, finishedTest, sign } = bench;
afterAll(() => bench.close());

/** The first page's marks changed by whoever has the file, its record left as it is. */
function repainted(pdf: Buffer, change: (marks: string) => string): Buffer {
  for (let at = pdf.indexOf('stream\n'); at >= 0; at = pdf.indexOf('stream\n', at + 1)) {
    const end = pdf.indexOf('\nendstream', at);
    let marks: string;
    try {
      marks = inflateSync(pdf.subarray(at + 7, end)).toString('latin1');
    } catch {
      continue;
    }
    if (!marks.includes(' Tf')) continue;
    // Its length stands before it; a reader finds what has moved by itself.
    const body = deflateSync(Buffer.from(change(marks), 'latin1'));
    const head = pdf
      .subarray(0, at)
      .toString('latin1')
      .replace(/\/Length \d+(?![\s\S]*\/Length)/, `/Length ${body.length}`);
    return Buffer.concat([Buffer.from(`${head}stream\n`, 'latin1'), body, pdf.subarray(end)]);
  }
  throw new Error('no page found');
}

describe('certificates', () => {
  test('not before the test is done and signed; asked twice, one seal', async () => {
    const { testId, runId } = await finishedTest();
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false, problem: { code: 'not-ready' } });
    await sign(testId);
    // A later event voids the signatures.
    must(
      await appendEvents(iola, runId, [
        {
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
        },
      ]),
    );
    expect(must(await readDraft(iola, testId)).voided).toHaveLength(2);
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false });

    const other = await finishedTest('sound', 8);
    await sign(other.testId);
    const [first, second] = await Promise.all([sealTest(iola, other.testId), sealTest(wren, other.testId)]);
    expect(must(first)).toEqual(must(second));
  });

  test('the chain has no gap and no fork, also when two seal at once', async () => {
    const tests = await Promise.all([finishedTest('sound', 21), finishedTest('sound', 22), finishedTest('let-by', 23)]);
    for (const { testId } of tests) await sign(testId);
    await Promise.all(tests.map(({ testId }) => sealTest(iola, testId).then(must)));
    const rows = await withFirm(firmId, (tx) =>
      tx.select({ hash: certificate.hash, previous: certificate.previous }).from(certificate).orderBy(certificate.number),
    );
    let head = '0'.repeat(64);
    for (const row of rows) {
      expect(row.previous).toBe(head);
      head = row.hash;
    }
  });

  test('events after sealing are kept, flagged and not judged', async () => {
    const { testId, runId } = await finishedTest('sound', 31);
    await sign(testId);
    const { id } = must(await sealTest(iola, testId));
    const late = {
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
      text: '',
    };
    expect(must(await appendEvents(iola, runId, [late]))).toMatchObject({ stored: 1, late: 1 });
    const after = must(await readTest(iola, testId));
    expect(after.lateEvents).toBe(1);
    expect(after.attempts[0].judgement.verdict).toBe('pass');
    expect(must(await readCertificate(iola, id)).verdict).toBe('pass');
    expect(
      await addSignature(iola, testId, {
        id: randomUUID(),
        role: 'customer',
        name: 'x',
        strokes: stroke,
        judgementHash: '0'.repeat(64),
        signedAt: now(),
      }),
    ).toMatchObject({ ok: false, status: 409 });
  });

  test('a guard gauge is looked at long after sealing: each look is held against how it was left, and no certificate changes', async () => {
    const example = exampleFor('heating-hydraulic');
    const gauge = await bench.register(example.gauge);
    const instruments: Record<string, Instrument> = {};
    for (const [role, one] of Object.entries(example.instruments ?? {})) instruments[role] = await bench.register(one);
    const { testId, runId } = await finishedTest(
      'sound',
      33,
      examplePlan('heating-hydraulic', { gauge, instruments, on: dateText(now()) }),
    );
    await sign(testId);
    const { id } = must(await sealTest(iola, testId));
    const [{ plan, events }] = must(await readTest(iola, testId)).attempts;
    const left = events.find((event) => event.type === 'guard');
    if (left?.type !== 'guard') throw new Error('the gauge was not left on');
    const sealed = must(await readCertificate(iola, id));
    const look = (value: string, days: number) => {
      const observedAt = left.observedAt + days * 86_400_000;
      return { ...left, id: randomUUID(), seq: 900 + days, observedAt, enteredAt: observedAt, value };
    };
    const fallen = (Number(left.value) * 0.5).toFixed(2);
    await at(now() + 10 * 86_400_000, async () => must(await appendEvents(iola, runId, [look(left.value, 1), look(fallen, 9)])));
    const after = must(await readTest(iola, testId));
    expect(after).toMatchObject({ lateEvents: 0, watch: [{ value: left.value }, { value: fallen }] });
    expect(guardLooks(plan, [...after.attempts[0].events, ...after.watch]).map(({ state }) => state?.alarm)).toEqual([
      undefined,
      false,
      true,
    ]);
    // A second device sees the looks in the run's log; the record that was sealed stays what it was.
    expect(must(await readRun(iola, runId)).runs[0].events.filter(({ type }) => type === 'guard')).toHaveLength(3);
    expect(after.attempts[0].events).toEqual(events);
    expect(must(await readCertificate(iola, id))).toEqual(sealed);
  });

  test('an attempt begun elsewhere before the seal was known is kept and flagged; the test stays what was sealed', async () => {
    const { testId, plan } = await finishedTest('sound', 32);
    await sign(testId);
    must(await sealTest(iola, testId));
    const runId = randomUUID();
    must(await createRun(iola, { id: runId, testId, number: 2, plan }));
    expect(must(await appendEvents(iola, runId, bench.events(plan, 'gross-leak', 5, { run: runId })))).toMatchObject({
      quarantined: [],
    });
    const after = must(await readTest(iola, testId));
    expect(after.attempts).toHaveLength(1);
    expect(after).toMatchObject({ lateAttempts: 1, attempts: [{ judgement: { verdict: 'pass' } }] });
    expect(after.lateEvents).toBeGreaterThan(10);
  });

  test('the certificate of a passed attempt says in its head that an earlier one failed, and why', async () => {
    const { testId, plan } = await finishedTest('gross-leak', 33);
    const runId = randomUUID();
    must(await createRun(iola, { id: runId, testId, number: 2, plan }));
    must(await appendEvents(iola, runId, bench.events(plan, 'sound', 6, { run: runId })));
    await sign(testId);
    const { id } = must(await sealTest(iola, testId));
    const { parsed, verdict } = must(await readCertificate(iola, id));
    expect(verdict).toBe('pass');
    const folder = mkdtempSync(join(tmpdir(), 'certificate-'));
    writeFileSync(join(folder, 'two.pdf'), await paperPdf(parsed));
    const words = execFileSync('pdftotext', [join(folder, 'two.pdf'), '-'], { encoding: 'utf8' }).replace(/\s+/g, ' ');
    expect(words).toMatch(/Attempt 1 of this test failed\. The gauge fell [\d.]+ mbar; at most 4\.0 mbar is permitted/);
    expect(words.indexOf('Attempt 1 of this test failed')).toBeLessThan(words.indexOf('Why'));
    expect(words).toContain('Supply valve proved by “Let-by”');
  });

  test('a correction names the old, keeps its readings, and is itself sealed', async () => {
    const { testId } = await finishedTest('sound', 41);
    await sign(testId);
    const old = must(await sealTest(iola, testId));
    expect(await correctCertificate(wren, old.id, { reason: 'no' })).toMatchObject({ ok: false });
    const made = must(
      await correctCertificate(wren, old.id, { reason: 'Meter number mistyped', details: { ...details, meterNumber: 'M-2' } }),
    );
    const { parsed } = must(await readCertificate(iola, made.id));
    expect(parsed.certificate?.corrects).toEqual({ number: old.number, reason: 'Meter number mistyped' });
    expect(parsed.tests[0].details?.meterNumber).toBe('M-2');
    expect(must(await readCertificate(iola, old.id)).parsed.tests[0].details?.meterNumber).toBe('M-1');
    expect(await correctCertificate(wren, old.id, { reason: 'Meter number mistyped', details })).toMatchObject({
      ok: false,
      problem: { code: 'already-corrected' },
    });
    expect(await checkByCode(old.checkCode)).toMatchObject({ number: old.number, correctedBy: made.number });
  });

  test('anyone’s file: genuine, altered, pages changed, unknown signer, revoked key', async () => {
    const { testId } = await finishedTest('small-leak', 51);
    await sign(testId);
    const { id, checkCode, number } = must(await sealTest(iola, testId));
    const { record, parsed } = must(await readCertificate(iola, id));
    const known = await knownSigners();
    const check = async (data: Buffer, signers = known) => {
      const result = await verifyFile(data, signers);
      return result.ok
        ? { state: result.value.state, pages: result.value.pages, judgedDifferently: result.value.judgedDifferently }
        : result.problem.code;
    };
    expect(await check(Buffer.from(record))).toEqual({ state: 'genuine', pages: undefined, judgedDifferently: [] });
    expect(await check(Buffer.from(JSON.stringify(parsed, null, 3)))).toMatchObject({ state: 'genuine' });
    expect(await check(Buffer.from(record), [])).toMatchObject({ state: 'intact, signer unknown' });
    expect(await check(Buffer.from(record.replace(/"value":"20\.(\d)/, '"value":"19.$1')))).toMatchObject({ state: 'altered' });
    // The last letter of a signature has spare bits: a respelt one is not the one that was made.
    const spelt = parsed.seal?.signature ?? '';
    const last = spelt.at(-3) ?? '';
    const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
    const respelt = `${spelt.slice(0, -3)}${letters[letters.indexOf(last) ^ 1]}==`;
    expect(Buffer.from(respelt, 'base64').equals(Buffer.from(spelt, 'base64'))).toBe(true);
    expect(await check(Buffer.from(record.replace(spelt, respelt)))).toMatchObject({ state: 'altered' });
    const pdf = await paperPdf(parsed);
    expect(pdf.equals(await paperPdf(parsed))).toBe(true);
    expect(await check(pdf)).toMatchObject({ state: 'genuine', pages: { state: 'as sealed' } });
    // Written anew by another program, with the same marks on its pages.
    expect(await check(Buffer.concat([pdf, Buffer.from('\n% saved again\n')]))).toMatchObject({ pages: { state: 'as sealed' } });
    // A box painted over a figure, and a word that is another one.
    expect(await check(repainted(pdf, (marks) => `${marks}\n0 0 0 rg 60 600 200 30 re f\n`))).toMatchObject({
      state: 'genuine',
      pages: { state: 'altered', differs: 'page 1 is drawn otherwise' },
    });
    const otherWord = repainted(pdf, (marks) => marks.replace(/<([0-9a-f]{4})([0-9a-f]{4})/, '<$2$1'));
    expect(await check(otherWord)).toMatchObject({
      state: 'genuine',
      pages: { state: 'altered', differs: expect.stringMatching(/^page 1 says/) },
    });
    const before = { ...parsed, certificate: { ...parsed.certificate, layout: '0' } } as TestRecord;
    expect(await check(await paperPdf(before))).toMatchObject({ pages: { state: 'earlier layout' } });
    expect(await check(Buffer.from('%PDF-1.7 nonsense'))).toBe('not-a-pdf');
    expect(await check(Buffer.from('{"a":1}'))).toBe('unreadable');
    expect(await check(Buffer.from('hello'))).toBe('not-json');
    expect(await checkByCode(checkCode)).toMatchObject({
      number,
      verdict: 'pass with permitted drop',
      firmName: 'Test firm',
      revoked: false,
      simulated: true,
    });
    expect(await checkByCode('0'.repeat(32))).toBeUndefined();
    expect(await checkByCode("' or true --")).toBeUndefined();
    const newer = await rotateKey(firmId);
    expect(await check(Buffer.from(record), await knownSigners())).toMatchObject({ state: 'genuine' });
    expect(await revokeKey(firmId, newer)).toBe(true);
    expect(await check(Buffer.from(record), await knownSigners())).toMatchObject({ state: 'genuine' });
    expect(await revokeKey(firmId, parsed.seal?.keyId ?? '')).toBe(true);
    expect(await check(Buffer.from(record), await knownSigners())).toMatchObject({ state: 'key revoked' });
    expect(await revokeKey(otherFirmId, newer)).toBe(false);
    await rotateKey(firmId);
  });

  test('the certificate is in the pages what it is in the record', async () => {
    const { testId } = await finishedTest('small-leak', 61);
    const draft = must(await readDraft(iola, testId));
    const pdf = await paperPdf(draft.record);
    const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
    const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
    let text = '';
    for (let number = 1; number <= document.numPages; number += 1) {
      const content = await (await document.getPage(number)).getTextContent();
      text += content.items.map((item) => ('str' in item ? item.str : '')).join(' ');
    }
    const plain = text.replace(/\s+/g, ' ');
    for (const words of [
      'Draft',
      'Pass with permitted drop',
      'SIMULATED',
      'Not tested',
      'Local code',
      'permitted',
      'L/h',
      'Instruments',
      '− ',
    ])
      expect(plain).toContain(words);
    await document.destroy();
  });
});
