import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { paperOf, textsOf } from '@/core/papers';
import { withFirm } from '@/db/connection';
import { photo } from '@/db/schema';
import { checkByCode, readCertificate } from './certificates';
import { now } from './clock';
import { judgementHash, othersOfVisit, readDraft } from './drafts';
import { readFirmSettings, saveFirm, saveLicence, saveLogo } from './firms';
import { missingIn, paperPdf } from './pdf';
import { checkPages } from './pdf/compare';
import { fontChain, missingSigns, runsOf } from './pdf/fonts';
import { Typesetter } from './pdf/lines';
import { addPhoto, readPhoto } from './photos';
import { correctCertificate, sealTest, withdrawCertificate } from './sealing';
import { addSignature } from './signatures';
import { must, openTestFirm, stroke } from './test-firm.fixture';
import { readTest } from './tests';
import { makeThing } from './things';
import { offsetOfZone } from './zones';

/* What leaves the firm: the paper of a visit, who signs, what the firm states of itself, and the type it is set in. */

const bench = await openTestFirm('papers');
const { firmId, iola, wren, stranger, finishedTest, sign } = bench;
afterAll(() => bench.close());

const stated = {
  name: 'Test firm',
  address: '4 Ropewalk Yard',
  registration: 'NR-1',
  emergencyNumber: '0000',
  supplierNumber: '0001',
  mail: 'office@firm.example',
  zone: 'UTC',
  locale: 'en-GB',
  sheet: 'A4',
  countersign: false,
};
const wordsOf = (record: Parameters<typeof paperOf>[0]) => paperOf(record).blocks.flatMap(textsOf).join('\n');

const signs = async (testId: string, change: object, actor = iola) =>
  addSignature(actor, testId, {
    id: randomUUID(),
    role: 'customer',
    name: 'Sefa Dunmore',
    strokes: stroke,
    judgementHash: judgementHash(must(await readTest(iola, testId))),
    signedAt: now(),
    ...change,
  });

describe('a visit, one paper', () => {
  test('tests of one site under one number, each signed for by one hand; neither is sealed twice', async () => {
    const [gas, second] = [await finishedTest('sound', 3), await finishedTest('small-leak', 4)];
    expect((await othersOfVisit(iola, gas.testId)).map(({ id }) => id)).toContain(second.testId);
    const draft = must(await readDraft(iola, gas.testId, [second.testId]));
    expect(draft.missing).toEqual([expect.stringMatching(/technician/), expect.stringMatching(/customer/)]);
    for (const role of ['technician', 'customer'] as const)
      must(
        await signs(gas.testId, {
          role,
          also: [{ id: randomUUID(), testId: second.testId, judgementHash: judgementHash(must(await readTest(iola, second.testId))) }],
        }),
      );
    const [one, other] = await Promise.all([
      sealTest(iola, gas.testId, { also: [second.testId] }),
      sealTest(wren, second.testId, { also: [gas.testId] }),
    ]);
    expect(must(one)).toEqual(must(other));
    const { parsed, verdict } = must(await readCertificate(iola, must(one).id));
    expect(parsed.tests).toHaveLength(2);
    expect(parsed.signatures).toHaveLength(4);
    expect(verdict).toBe('pass with permitted drop');
    expect(paperOf(parsed).title).toMatch(/^Report of a visit/);
    expect(must(await readTest(iola, second.testId)).certificates).toHaveLength(1);
    // Under another paper it is never sealed again.
    const third = await finishedTest('sound', 5);
    await sign(third.testId);
    expect(await sealTest(iola, third.testId, { also: [gas.testId] })).toMatchObject({ ok: false, problem: { code: 'already-sealed' } });
    expect(await sealTest(iola, gas.testId)).toMatchObject({ ok: false, problem: { code: 'already-sealed' } });
    must(await sealTest(iola, third.testId));
    const corrected = must(await correctCertificate(wren, must(one).id, { reason: 'Meter mistyped', details: { meterNumber: 'M-3' } }));
    expect(must(await readTest(iola, second.testId)).certificates.map(({ number }) => number)).toContain(corrected.number);
    // Of the second test alone, in the paper that stands now.
    const form = { reason: 'Meter mistyped', details: { meterReading: '321' } };
    for (const place of [0, 3, 'x', 1.5])
      expect(await correctCertificate(wren, corrected.id, { ...form, place })).toMatchObject({ ok: false, problem: { field: 'place' } });
    const { id: latest } = must(await correctCertificate(wren, corrected.id, { ...form, place: 2 }));
    const stated = must(await readCertificate(iola, latest)).parsed.tests.map(({ details }) => [
      details?.meterNumber,
      details?.meterReading,
    ]);
    expect(stated).toEqual([
      ['M-3', '100'],
      ['M-1', '321'],
    ]);
  });

  test('only of one site, and of the own firm', async () => {
    const { testId } = await finishedTest('sound', 6);
    const { id: siteId } = must(await makeThing(iola, 'site', { name: 'Elsewhere', address: 'Somewhere 2' }));
    must(await makeThing(iola, 'system', { siteId, name: 'Gas, elsewhere', pipes: '22cu 6' }));
    expect(await readDraft(stranger, testId)).toMatchObject({ ok: false, status: 404 });
    expect(await readDraft(iola, testId, [randomUUID()])).toMatchObject({ ok: false, status: 404 });
    expect(await readDraft(iola, testId, ['not an id'])).toMatchObject({ ok: false, status: 404 });
  });
});

test('a withdrawn paper stays as it is, and whoever checks it is told why; once, and by a supervisor', async () => {
  const { testId } = await finishedTest('sound', 7);
  await sign(testId);
  const { id, checkCode } = must(await sealTest(iola, testId));
  const before = must(await readCertificate(iola, id));
  expect(await withdrawCertificate(iola, id, { reason: 'Tested the wrong flat' })).toMatchObject({ ok: false, status: 403 });
  expect(await withdrawCertificate(wren, id, { reason: 'no' })).toMatchObject({ ok: false, problem: { field: 'reason' } });
  must(await withdrawCertificate(wren, id, { reason: 'Tested the wrong flat' }));
  expect(await withdrawCertificate(wren, id, { reason: 'Tested the wrong flat' })).toMatchObject({ ok: false, status: 409 });
  expect(await withdrawCertificate(stranger, id, { reason: 'Tested the wrong flat' })).toMatchObject({ ok: false, status: 404 });
  expect(await checkByCode(checkCode)).toMatchObject({ withdrawn: { reason: 'Tested the wrong flat' } });
  expect(must(await readCertificate(iola, id))).toMatchObject({ record: before.record, withdrawn: { reason: 'Tested the wrong flat' } });
});

describe('who signs', () => {
  test('refusal and absence are kept apart, each with its reason', async () => {
    const { testId } = await finishedTest('sound', 11);
    await sign(testId);
    must(await signs(testId, { absent: 'wants to ask first', refused: true, strokes: [] }));
    const { record } = must(await readDraft(iola, testId));
    expect(record.signatures?.find(({ role }) => role === 'customer')).toMatchObject({
      absent: 'wants to ask first',
      refused: true,
      strokes: [],
    });
    expect(wordsOf(record)).toContain('Sefa Dunmore would not sign: wants to ask first');
    expect(await signs(testId, { role: 'technician', absent: 'away', strokes: [] })).toMatchObject({ ok: false });
  });

  test('a countersign where the firm wants one: by a supervisor who did not make the test', async () => {
    must(await saveFirm(wren, { ...stated, countersign: true }));
    const { testId } = await finishedTest('sound', 12);
    await sign(testId);
    expect(must(await readDraft(iola, testId)).missing).toEqual(['The supervisor’s countersignature.']);
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false, problem: { code: 'not-ready' } });
    expect(await signs(testId, { role: 'supervisor' })).toMatchObject({ ok: false, problem: { code: 'not-supervisor' } });
    must(await signs(testId, { role: 'supervisor', name: 'Wren' }, wren));
    must(await sealTest(iola, testId));
    must(await saveFirm(wren, stated));
  });
});

describe('what the firm states', () => {
  test('stands on papers sealed from then on; what nobody stated is left out', async () => {
    must(await saveFirm(wren, { ...stated, address: '', zone: 'Asia/Kathmandu' }));
    must(await saveLicence(wren, iola.userId, { licence: 'PW-9' }));
    const { testId } = await finishedTest('sound', 21);
    await sign(testId);
    const { parsed } = must(await readCertificate(iola, must(await sealTest(iola, testId)).id));
    expect(parsed.firm).toEqual({
      name: 'Test firm',
      registration: 'NR-1',
      emergency: '0000',
      supplier: '0001',
      sheet: 'A4',
      locale: 'en-GB',
    });
    expect(parsed.certificate?.offsetMinutes).toBe(345);
    expect(wordsOf(parsed)).toContain('licence PW-9');
    expect(wordsOf(parsed)).toContain('(UTC+5:45)');
    must(await saveFirm(wren, { ...stated, name: 'Renamed' }));
    expect(must(await readCertificate(iola, must(await readTest(iola, testId)).certificates[0].id)).parsed.firm?.name).toBe('Test firm');
    must(await saveFirm(wren, stated));
  });

  test.each([
    [{ mail: 'nowhere' }, 'mail'],
    [{ zone: 'Atlantis/Capital' }, 'zone'],
    [{ name: ' ' }, 'name'],
    [{ emergencyNumber: '' }, 'emergencyNumber'],
    [{ locale: 'tlh' }, 'locale'],
    [{ address: 'x'.repeat(301) }, 'address'],
  ])('%j is refused at its field', async (change, field) => {
    expect(await saveFirm(wren, { ...stated, ...change })).toMatchObject({ ok: false, status: 400, problem: { field } });
  });

  test('not by a technician, and nobody’s licence of another firm', async () => {
    expect(await saveFirm(iola, stated)).toMatchObject({ ok: false, status: 403 });
    expect(await saveLogo(iola, Buffer.from('x'))).toMatchObject({ ok: false, status: 403 });
    expect(await saveLicence(wren, stranger.userId, { licence: 'X' })).toMatchObject({ ok: false, status: 404 });
  });

  test('a logo that is no picture is refused; an old one stays for the papers that carry it', async () => {
    for (const sent of [Buffer.from('<svg/>'), Buffer.from('%PDF-1.7'), Buffer.alloc(40)])
      expect(await saveLogo(wren, sent)).toMatchObject({ ok: false, problem: { code: 'logo-unreadable' } });
    const picture = (background: string) =>
      sharp({ create: { width: 900, height: 300, channels: 4, background } })
        .png()
        .toBuffer();
    const { logo: first } = must(await saveLogo(wren, await picture('#00000000')));
    const { logo: second } = must(await saveLogo(wren, await picture('#225577')));
    expect((await readFirmSettings(wren)).logo).toBe(second);
    for (const hash of [first, second]) expect((await sharp(must(await readPhoto(iola, hash))).metadata()).width).toBe(480);
    expect(await readPhoto(stranger, first)).toMatchObject({ ok: false });
    must(await saveLogo(wren, Buffer.alloc(0)));
    expect((await readFirmSettings(wren)).logo).toBe('');
  });
});

describe('the type that papers are set in', () => {
  const chain = fontChain(process.cwd());

  test('Greek, Cyrillic and Arabic have their glyphs; Chinese is said and never dropped', () => {
    expect(missingSigns(chain, ['Ελένη', 'Жанна Ёлкина', 'فاطمة', 'Łukasz', 'Håkon', '→≤≥≈Δ₂²³°·×−–—“”’…½'])).toEqual([]);
    expect(missingSigns(chain, ['王小明'])).toEqual(['小', '明', '王']);
    expect(
      runsOf(chain.text, '王')
        .map(({ text }) => text)
        .join(''),
    ).toBe('(U+738B)');
  });

  test('a font is taken over only where it must be, and a backward run is turned as a whole', () => {
    expect(runsOf(chain.text, 'Ελένη Park')).toHaveLength(2);
    const type = new Typesetter(chain);
    const { runs } = type.placed('for فاطمة علي of flat 2', { face: 'text', size: 10 });
    expect(runs.some(({ backward }) => backward)).toBe(true);
    expect(runs[0].text).toBe('for ');
    expect(runs.at(-1)?.text).toBe(' of flat 2');
  });

  test('no line is wider than its place, whatever is typed; nothing typed is lost', () => {
    const type = new Typesetter(chain);
    const text = `A ${'W'.repeat(400)} b\nsecond line ${'née '.repeat(80)}`;
    const lines = type.lines(text, { face: 'text', size: 9 }, 120);
    for (const { width } of lines) expect(width).toBeLessThanOrEqual(120.5);
    expect(
      lines
        .map((line) => line.text)
        .join('')
        .replace(/\s/g, ''),
    ).toBe(text.replace(/\s/g, ''));
  });

  test('a name in signs that no font has holds the seal up, in words', async () => {
    const { testId } = await finishedTest('sound', 31);
    await sign(testId);
    must(await signs(testId, { name: '王小明' }));
    const draft = must(await readDraft(iola, testId));
    expect(draft.missing).toEqual([expect.stringMatching(/A font that has these signs: 小 明 王/)]);
    expect(missingIn(draft.record)).toHaveLength(3);
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false, problem: { code: 'not-ready' } });
    must(await signs(testId, { name: 'Wang Xiaoming' }));
    must(await sealTest(iola, testId));
  });
});

test('photographs go into the paper as small copies; twenty of five tests weigh less than 5 MB', async () => {
  const { testId, runId } = await finishedTest('sound', 41);
  const noise = await sharp({
    create: { width: 2400, height: 1800, channels: 3, background: '#888888', noise: { type: 'gaussian', mean: 128, sigma: 40 } },
  })
    .jpeg()
    .toBuffer();
  const { hash } = must(await addPhoto(iola, runId, now(), noise));
  const [kept] = await withFirm(firmId, (tx) => tx.select().from(photo));
  expect((await sharp(kept.copy).metadata()).width).toBe(800);
  expect(must(await readPhoto(iola, kept.copyHash)).equals(kept.copy)).toBe(true);
  expect(must(await readPhoto(iola, hash)).equals(kept.picture)).toBe(true);
  const { record } = must(await readDraft(iola, testId));
  const [test] = record.tests;
  const [attempt] = test.attempts;
  const shots = Array.from({ length: 20 }, (_, index) => ({
    ...attempt.events[0],
    id: randomUUID(),
    type: 'photo' as const,
    hash: index.toString(16).padStart(64, '0'),
    takenAt: now(),
    text: `Joint ${index + 1}`,
  }));
  const pictures = new Map(shots.map(({ hash: name }) => [name, kept.copy]));
  const visit = {
    ...record,
    tests: [{ ...test, attempts: [{ ...attempt, events: [...attempt.events, ...shots] }] }, test, test, test, test],
    photos: shots.map(({ hash: name, run, takenAt }) => ({ run, hash: name, stored: name, copy: name, takenAt })),
  } as typeof record;
  const pdf = await paperPdf(visit, pictures);
  expect(pdf.length).toBeLessThan(5 * 1024 * 1024);
  expect(pdf.length).toBeGreaterThan(500_000);
});

test('a photograph that was put in the place of another is found, and so is one that was left out', async () => {
  const { testId, runId } = await finishedTest('sound', 44);
  const shot = (background: string) =>
    sharp({ create: { width: 60, height: 40, channels: 3, background } })
      .jpeg()
      .toBuffer();
  const { hash } = must(await addPhoto(iola, runId, now(), await shot('teal')));
  const { record } = must(await readDraft(iola, testId));
  const [kept] = await withFirm(firmId, (tx) => tx.select().from(photo).where(eq(photo.hash, hash)));
  const [test] = record.tests;
  const [attempt] = test.attempts;
  const event = { ...attempt.events[0], id: randomUUID(), type: 'photo' as const, hash, takenAt: now(), text: 'The meter' };
  const shown = {
    ...record,
    tests: [{ ...test, attempts: [{ ...attempt, events: [...attempt.events, event] }] }],
    photos: [{ run: runId, hash, stored: kept.storedHash, copy: kept.copyHash, takenAt: event.takenAt }],
  } as typeof record;
  const genuine = await paperPdf(shown, new Map([[kept.copyHash, kept.copy]]));
  expect(await checkPages(genuine, shown)).toEqual({ state: 'as sealed' });
  const other = await sharp(await shot('crimson'))
    .jpeg({ quality: 70 })
    .toBuffer();
  expect(await checkPages(await paperPdf(shown, new Map([[kept.copyHash, other]])), shown)).toMatchObject({ state: 'altered' });
  // Left out, the page says that it is not here: whoever takes it out of the file changes what the page says.
  const at = genuine.indexOf(kept.copy);
  expect(at).toBeGreaterThan(0);
  const blotted = Buffer.concat([
    genuine.subarray(0, at),
    other.subarray(0, 2),
    Buffer.alloc(kept.copy.length - 2),
    genuine.subarray(at + kept.copy.length),
  ]);
  expect(await checkPages(blotted, shown)).toMatchObject({ state: 'altered' });
});

test('whoever hears the pages hears them whole and in their order: headings, sentences, no word run into the next', async () => {
  const { testId } = await finishedTest('small-leak', 43);
  const { record } = must(await readDraft(iola, testId));
  const file = join(await mkdtemp(join(tmpdir(), 'heard-')), 'paper.pdf');
  await writeFile(file, await paperPdf(record));
  const { stdout } = await promisify(execFile)('pdfinfo', ['-struct-text', file], { maxBuffer: 20_000_000 });
  const told = stdout
    .split('\n')
    .flatMap((line) => /^\s*"(.*)"$/.exec(line)?.[1] ?? [])
    .join('\n')
    .replace(/ +/g, ' ');
  let at = 0;
  for (const block of paperOf(record).blocks) {
    if (block.kind !== 'heading' && block.kind !== 'say') continue;
    const found = told.indexOf(block.text.replace(/\s+/g, ' '), at);
    expect([block.text, found >= at]).toEqual([block.text, true]);
    at = found;
  }
  expect(stdout).toMatch(/^ {2}H1 /m);
  expect(stdout).toMatch(/^ +TH\b/m);
  // No step of the headings is left out, however large each stands.
  const ranks = [...stdout.matchAll(/^ +H(\d) /gm)].map(([, rank]) => Number(rank));
  for (const [index, rank] of ranks.entries()) expect(rank - (ranks[index - 1] ?? rank)).toBeLessThanOrEqual(1);
});

test('the office’s zone at that moment, with its summer time', () => {
  expect(offsetOfZone('UTC', 0)).toBe(0);
  expect(offsetOfZone('Europe/Oslo', Date.UTC(2026, 6, 1))).toBe(120);
  expect(offsetOfZone('Europe/Oslo', Date.UTC(2026, 0, 1))).toBe(60);
  expect(offsetOfZone('America/St_Johns', Date.UTC(2026, 0, 1))).toBe(-210);
  expect(offsetOfZone('Nowhere', 0)).toBe(0);
});
