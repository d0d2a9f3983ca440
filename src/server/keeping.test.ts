import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { examplePlan, planFor } from '@/core/simulation/examples.fixture';
import type { Gauge } from '@/core/sizing';
import { signIn } from './auth';
import { at } from './clock';
import { addCalibration, addInstrument, listInstruments } from './instruments';
import { addPhoto, readPhoto } from './photos';
import { addSite, addSystem, listSites } from './sites';
import { must, openTestFirm } from './test-firm.fixture';

/* Fonts, photographs, instruments, sites and sign-in. */

const bench = await openTestFirm('keeping');
const { iola, wren, stranger, finishedTest } = bench;
afterAll(() => bench.close());

test('full fonts: every sign that the catalogues use is in all three faces', async () => {
  const { openSync } = await import('fontkit');
  const { lists } = await import('@/core/judging');
  const signs = new Set([
    ...`→≤≥≈Δ₂²³°·×−–—“”’…½⌫${JSON.stringify(planFor({}))}${lists
      .flatMap((list) => Object.values(list))
      .map(({ say, working }) => `${say}${working ?? ''}`)
      .join('')}`,
  ]);
  for (const face of ['DejaVuSans', 'DejaVuSans-Bold', 'DejaVuSansMono']) {
    const font = openSync(`node_modules/dejavu-fonts-ttf/ttf/${face}.ttf`);
    const lacking = [...signs].filter(
      (sign) => sign !== '⌫' && (sign.codePointAt(0) ?? 0) >= 32 && !font.hasGlyphForCodePoint(sign.codePointAt(0) ?? 0),
    );
    expect({ face, lacking }).toEqual({ face, lacking: [] });
  }
});

describe('photographs', () => {
  test('re-encoded, without the place where they were taken; the same twice is one; other firms see nothing', async () => {
    const { runId } = await finishedTest('sound', 71);
    const sent = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: '#765' } })
      .withExif({ IFD0: { Copyright: 'x' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
      .jpeg()
      .toBuffer();
    const { hash } = must(await addPhoto(iola, runId, 1_790_000_000_000, sent));
    expect(must(await addPhoto(iola, runId, 1_790_000_000_000, sent)).hash).toBe(hash);
    const kept = must(await readPhoto(iola, hash));
    const facts = await sharp(kept).metadata();
    expect(facts).toMatchObject({ format: 'jpeg', width: 1600 });
    expect(facts.exif).toBeUndefined();
    expect(await readPhoto(stranger, hash)).toMatchObject({ ok: false, status: 404 });
  });

  test('no picture, too large, no time, no such run: a plain answer', async () => {
    const { runId } = await finishedTest('sound', 72);
    expect(await addPhoto(iola, runId, 1, Buffer.from('not a picture'))).toMatchObject({
      ok: false,
      problem: { code: 'photo-unreadable' },
    });
    expect(await addPhoto(iola, runId, 1, Buffer.alloc(16 * 1024 * 1024))).toMatchObject({ ok: false, status: 413 });
    expect(await addPhoto(iola, runId, Number.NaN, Buffer.from('x'))).toMatchObject({ ok: false, status: 400 });
    expect(
      await addPhoto(
        iola,
        randomUUID(),
        1,
        await sharp({ create: { width: 8, height: 8, channels: 3, background: '#000' } })
          .png()
          .toBuffer(),
      ),
    ).toMatchObject({ ok: false, status: 404 });
  });
});

describe('instruments and sites', () => {
  test('a gauge needs sound figures; a calibration sound dates; overdue is counted in days', async () => {
    const good = { name: 'G', kind: 'digital', unit: 'mbar', readability: '0,1', rangeLow: '0', rangeHigh: '100', serial: 'S' };
    for (const change of [
      { name: '' },
      { kind: 'x' },
      { unit: 'parsec' },
      { readability: 'fine' },
      { readability: '0' },
      { readability: '-1' },
      { rangeHigh: '-5' },
      { serial: '' },
    ])
      expect(await addInstrument(wren, { ...good, ...change })).toMatchObject({ ok: false, status: 400 });
    const { id } = must(await addInstrument(wren, good));
    for (const form of [
      { doneOn: 'x', dueOn: '2027-01-01', reference: 'r' },
      { doneOn: '2026-01-01', dueOn: '2025-01-01', reference: 'r' },
      { doneOn: '2999-01-01', dueOn: '2999-02-01', reference: 'r' },
      { doneOn: '2026-13-45', dueOn: '2027-01-01', reference: 'r' },
    ])
      expect(await addCalibration(wren, id, form)).toMatchObject({ ok: false, status: 400 });
    must(await addCalibration(wren, id, { doneOn: '2025-01-01', dueOn: '2026-01-01', reference: 'r' }));
    const listed = await at(Date.parse('2026-01-11T12:00:00Z'), () => listInstruments(wren));
    expect(listed.find(({ instrument }) => instrument.id === id)).toMatchObject({ dueInDays: -10, instrument: { readability: '0.1' } });
  });

  test('what a rig check came to is kept with its gauge, the last one that proved anything', async () => {
    const { id } = must(
      await addInstrument(wren, {
        name: 'Needle of the hose set',
        kind: 'needle',
        unit: 'psi',
        readability: '0.05',
        rangeLow: '0',
        rangeHigh: '15',
        serial: 'H-1',
        calibrationNeeded: 'false',
      }),
    );
    const kept = async () => (await listInstruments(wren)).find(({ instrument }) => instrument.id === id)?.instrument;
    const gauge = (await kept()) as Gauge;
    expect(gauge.rigCheck).toBeUndefined();
    const plan = examplePlan('rig-check', { gauge });
    await finishedTest('sound', 3, plan);
    expect(await kept()).toMatchObject({ rigCheck: { what: 'holds', unit: 'psi' } });
    await finishedTest('cap', 3, plan);
    expect(await kept()).toMatchObject({ rigCheck: { what: 'holds' } });
    await finishedTest('hose', 3, plan);
    expect(await kept()).toMatchObject({ rigCheck: { what: 'does not hold' } });
    // Nobody else's firm sees it, and no other instrument has it.
    expect((await listInstruments(stranger)).some(({ instrument }) => instrument.rigCheck !== undefined)).toBe(false);
    expect((await listInstruments(wren)).filter(({ instrument }) => instrument.rigCheck !== undefined)).toHaveLength(1);
  });

  test('sites and systems say what is missing, by field', async () => {
    expect(await addSite(iola, { name: '', address: 'x' })).toMatchObject({ ok: false, problem: { field: 'name' } });
    const [{ id }] = await listSites(iola);
    expect(await addSystem(iola, id, { name: 'Gas', pipes: '22cu' })).toMatchObject({ ok: false, problem: { field: 'pipes' } });
    expect(await addSystem(iola, id, { name: 'Gas', statedVolume: 'big' })).toMatchObject({
      ok: false,
      problem: { field: 'statedVolume' },
    });
  });
});

test('five wrong passwords close an account for a quarter of an hour, and only that account', async () => {
  const enter = (email: string, password: string) => signIn(email, password, new Headers());
  for (let attempt = 0; attempt < 5; attempt += 1)
    expect(await enter('one@test.invalid', 'wrong')).toMatchObject({ ok: false, status: 403 });
  expect(await enter('one@test.invalid', 'long-enough-1')).toMatchObject({ ok: false, status: 429 });
  expect(await enter('two@test.invalid', 'long-enough-2')).toMatchObject({ ok: true });
  expect(await enter('nobody@test.invalid', 'wrong')).toEqual(await enter('two@test.invalid', 'wrong'));
  await at(Date.now() + 16 * 60_000, async () => expect(await enter('one@test.invalid', 'long-enough-1')).toMatchObject({ ok: true }));
});
