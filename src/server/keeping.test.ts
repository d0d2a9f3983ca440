import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { bareInstrument } from '@/core/register';
import { examplePlan, planFor } from '@/core/simulation/examples.fixture';
import type { Gauge } from '@/core/sizing';
import { accountOf, currentActor, devicesOf, putAway, revokeDevice, setPassword, signIn } from './auth';
import { at } from './clock';
import { delivererOf, deliveryHeader, deliveryKey } from './delivery';
import { addCalibration, listInstruments } from './instruments';
import { addPhoto, readPhoto } from './photos';
import { listSites } from './sites';
import { must, openTestFirm } from './test-firm.fixture';
import { makeThing } from './things';

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
    const good = { name: 'G', kind: 'digital', unit: 'mbar', readability: '0.1', rangeLow: '0', rangeHigh: '100', serial: 'S' } as const;
    for (const change of [
      { name: '' },
      { kind: 'x' },
      { unit: 'parsec' },
      { readability: 'fine' },
      { readability: '0' },
      { readability: '-1' },
      { readability: `0.${'0'.repeat(5000)}1` },
      { name: { toString: 1 } },
      { rangeHigh: '-5' },
      { serial: '' },
    ])
      expect(await makeThing(wren, 'instrument', { ...good, ...(change as object) })).toMatchObject({ ok: false, status: 400 });
    const { id } = must(await makeThing(wren, 'instrument', good));
    for (const form of [
      { doneOn: 'x', dueOn: '2027-01-01', reference: 'r' },
      { doneOn: '2026-01-01', dueOn: '2025-01-01', reference: 'r' },
      { doneOn: '2999-01-01', dueOn: '2999-02-01', reference: 'r' },
      { doneOn: '2026-13-45', dueOn: '2027-01-01', reference: 'r' },
      { doneOn: '2026-02-31', dueOn: '2027-01-01', reference: 'r' },
      { doneOn: ['2026-02-03'], dueOn: '2027-01-01', reference: 'r' },
    ])
      expect(await addCalibration(wren, id, form)).toMatchObject({ ok: false, status: 400 });
    must(await addCalibration(wren, id, { doneOn: '2025-01-01', dueOn: '2026-01-01', reference: 'r' }));
    const listed = await listInstruments(wren);
    expect(listed.find((one) => one.id === id)).toMatchObject({
      readability: '0.1',
      calibration: { needed: true, last: '2025-01-01', due: '2026-01-01' },
      calibrations: [{ doneOn: '2025-01-01', dueOn: '2026-01-01', reference: 'r' }],
    });
  });

  test('what a rig check came to is kept with its gauge, the last one that proved anything', async () => {
    const { id } = must(
      await makeThing(wren, 'instrument', {
        name: 'Column of the hose set',
        kind: 'liquid',
        unit: 'psi',
        readability: '0.05',
        rangeLow: '0',
        rangeHigh: '15',
        serial: 'H-1',
        calibrationNeeded: false,
      }),
    );
    const kept = async () => (await listInstruments(wren)).map(bareInstrument).find((one) => one.id === id);
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
    expect((await listInstruments(stranger)).some((instrument) => instrument.rigCheck !== undefined)).toBe(false);
    expect((await listInstruments(wren)).filter((instrument) => instrument.rigCheck !== undefined)).toHaveLength(1);
  });

  test('sites and systems say what is missing, by field', async () => {
    expect(await makeThing(iola, 'site', { address: 'x' })).toMatchObject({ ok: false, problem: { field: 'name' } });
    const [{ id: siteId }] = await listSites(iola);
    expect(await makeThing(iola, 'system', { siteId, name: 'Gas', pipes: '22cu' })).toMatchObject({
      ok: false,
      problem: { field: 'pipes' },
    });
    expect(await makeThing(iola, 'system', { siteId, name: 'Gas', statedVolume: 'big' })).toMatchObject({
      ok: false,
      problem: { field: 'statedVolume' },
    });
  });
});

describe('signing in', () => {
  const from = (client: string, cookie?: string) => new Headers({ 'x-vast-client': client, ...(cookie === undefined ? {} : { cookie }) });
  const enter = (email: string, password: string, headers = from('203.0.113.1'), ticket?: string) =>
    signIn({ email, password, ...(ticket === undefined ? {} : { ticket }) }, headers);
  const isIn = (result: Awaited<ReturnType<typeof enter>>) => result instanceof Response && result.status === 200;
  const waits = (result: Awaited<ReturnType<typeof enter>>) => (result instanceof Response || result.ok ? undefined : result);
  const quarter = 16 * 60_000;

  test('sixty wrong passwords at once get five tries; a known device is never kept waiting, a new one gets its turn, and nobody else is touched', async () => {
    const welcome = (await enter('one@test.invalid', 'long-enough-1')) as Response;
    expect(await welcome.json()).toEqual({ signedIn: true });
    const device = welcome.headers
      .getSetCookie()
      .find((one) => one.startsWith('vast-stone-device='))
      ?.split(';')[0];
    expect(welcome.headers.getSetCookie().join()).toMatch(/HttpOnly/);
    const strangers = await Promise.all(
      Array.from({ length: 60 }, (_, index) => enter('one@test.invalid', 'wrong', from(`198.51.100.${index}`))),
    );
    expect(strangers.filter((one) => waits(one)?.status === 403)).toHaveLength(5);
    expect(strangers.filter((one) => waits(one)?.status === 429)).toHaveLength(55);
    expect(isIn(await enter('one@test.invalid', 'long-enough-1', from('203.0.113.1', device)))).toBe(true);
    // Of the fifty-five, forty-five took a number, twenty seconds apart: a quarter of an hour at most.
    const turns = strangers.flatMap((one) => (waits(one)?.ticket === undefined ? [] : [waits(one)?.retryAfter ?? 0]));
    expect(turns).toHaveLength(45);
    expect(Math.max(...turns)).toBeLessThanOrEqual(900);
    expect(isIn(await enter('two@test.invalid', 'long-enough-2'))).toBe(true);
    expect(await enter('nobody@test.invalid', 'wrong')).toEqual(await enter('two@test.invalid', 'wrong'));
    await at(Date.now() + quarter * 2, async () => expect(isIn(await enter('one@test.invalid', 'long-enough-1'))).toBe(true));
  });

  test('whoever waits is told how long, may try once then with the number given out, and not before; one stranger takes three at most', async () => {
    for (let time = 0; time < 5; time += 1) await enter('three@test.invalid', 'wrong', from('198.51.100.7'));
    const own = waits(await enter('three@test.invalid', 'long-enough-3', from('203.0.113.2')));
    expect(own).toMatchObject({ status: 429, retryAfter: 20, problem: { message: expect.stringContaining('waits for its turn') } });
    const others = [];
    for (let time = 0; time < 9; time += 1) others.push(waits(await enter('three@test.invalid', 'wrong', from('198.51.100.7'))));
    expect(others.filter((one) => one?.ticket !== undefined)).toHaveLength(3);
    const early = waits(await enter('three@test.invalid', 'long-enough-3', from('203.0.113.2'), own?.ticket));
    expect(early).toMatchObject({ status: 429, ticket: own?.ticket });
    await at(Date.now() + 21_000, async () => {
      expect(isIn(await enter('three@test.invalid', 'long-enough-3', from('203.0.113.2'), own?.ticket))).toBe(true);
      expect(waits(await enter('three@test.invalid', 'long-enough-3', from('203.0.113.2'), own?.ticket))?.status).toBe(429);
    });
    await at(Date.now() + quarter * 2, async () => undefined);
  });

  test('what is no e-mail address or no password is refused before anything is looked up or kept', async () => {
    for (const [email, password] of [
      ['a'.repeat(20_000_000), 'x'],
      ['one@test.invalid', 'b'.repeat(300)],
      [{ a: 1 }, 'x'],
      ['one@test.invalid', null],
    ] as const)
      expect(await signIn({ email, password }, from('203.0.113.3'))).toMatchObject({ ok: false, status: 400 });
  });

  test('a person who was put away signs in no more, and what they wrote stays theirs; a set password ends what was open', async () => {
    const found = must2(await accountOf('Two@Test.invalid'));
    await at(Date.now() + quarter * 4, async () => {
      await setPassword(found.id, 'another-long-one');
      expect(waits(await enter('two@test.invalid', 'long-enough-2', from('203.0.113.9')))?.status).toBe(403);
      const open = (await enter('two@test.invalid', 'another-long-one', from('203.0.113.9'))) as Response;
      const session = open.headers.getSetCookie().map((one) => one.split(';')[0]);
      const headers = new Headers({ cookie: session.join('; ') });
      expect(await currentActor(headers)).toMatchObject({ name: 'Test supervisor' });
      await putAway(found);
      expect(await currentActor(headers)).toBeUndefined();
      expect(waits(await enter('two@test.invalid', 'another-long-one', from('203.0.113.9')))?.status).toBe(403);
    });
  });

  test('a revoked device is signed out, and a stranger’s from then on', async () => {
    await at(Date.now() + quarter * 6, async () => {
      const found = must2(await accountOf('one@test.invalid'));
      const open = (await enter('one@test.invalid', 'long-enough-1', from('203.0.113.4'))) as Response;
      const cookies = new Headers({
        cookie: open.headers
          .getSetCookie()
          .map((one) => one.split(';')[0])
          .join('; '),
      });
      const actor = must2(await currentActor(cookies));
      // What it takes along names it: what is written on it later is taken no more.
      const deliverer = () => delivererOf(new Headers({ [deliveryHeader]: deliveryKey(actor, actor.deviceId) }));
      expect((await deliverer())?.delivers).toEqual({ until: Number.POSITIVE_INFINITY });
      const devices = await devicesOf(found.id);
      for (const { id } of devices) expect(await revokeDevice(found.id, id)).toBe(true);
      expect(await currentActor(cookies)).toBeUndefined();
      expect((await deliverer())?.delivers?.until).toBeLessThan(Number.POSITIVE_INFINITY);
      expect(await revokeDevice(found.id, 'no-such-device')).toBe(false);
    });
  });
});

const must2 = <T>(found: T | undefined): T => {
  if (found === undefined) throw new Error('not there');
  return found;
};
