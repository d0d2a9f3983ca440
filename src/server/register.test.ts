import { randomUUID } from 'node:crypto';
import { dateText, isPass, type Judgement } from '@/core/judging';
import { asOf, type Plan } from '@/core/planning';
import { readCertificate } from './certificates';
import { at, now } from './clock';
import { readDraft } from './drafts';
import { appendEvents } from './events';
import { addCalibration } from './instruments';
import { addPhoto } from './photos';
import { liftHouseRule, publishOwnProcedure, setHouseRule, withdrawOwnProcedure } from './rules';
import { sealTest } from './sealing';
import { must, openTestFirm } from './test-firm.fixture';
import { readTest } from './tests';
import { makeThing } from './things';

/* What a plan or a device claims is held against the register and the server's clock, and what is otherwise stands in the log. */

const firm = await openTestFirm('register');
const { iola, wren, gauge, planned, sign } = firm;
afterAll(() => firm.close());

const day = 86_400_000;

/** A sound run by this plan; its judgement as the server has it. */
async function judged(plan: Plan, job: Parameters<typeof firm.events>[3] = {}): Promise<Judgement & { readonly testId: string }> {
  const { testId, runId } = await firm.begun(plan);
  must(await appendEvents(iola, runId, firm.events(plan, 'sound', 3, { ...job, run: runId })));
  return { ...must(await readTest(iola, testId)).attempts[0].judgement, testId };
}

const said = ({ reasons }: Judgement): string =>
  reasons.flatMap(({ code, data }) => (code.startsWith('found-') ? [`${code}: ${data.text}`] : [])).join('\n');

/** A gauge in the register, not calibrated yet. */
const added = async (form: Record<string, unknown>) =>
  must(
    await makeThing(wren, 'instrument', {
      name: 'Other',
      kind: 'digital',
      unit: 'mbar',
      readability: '0.01',
      rangeLow: '-10',
      rangeHigh: '150',
      ...form,
    }),
  ).id;

test('what is as the register has it passes without a word', async () => {
  const found = await judged(planned());
  expect(found.verdict).toBe('pass');
  expect(said(found)).toBe('');
});

describe('instruments', () => {
  test.each([
    ['one that was never registered', { id: randomUUID() }, /is not in the register/],
    ['one with an id that is no id', { id: 'gauge-1' }, /is not in the register/],
    ['one with a finer step', { readability: '0.001' }, /shows steps of 0.01/],
    ['one with another serial', { serial: 'T-2' }, /its serial is T-1/],
    ['one with a wider range', { rangeHigh: '200' }, /its range ends at 150/],
    ['one that is said to need no calibration', { calibration: { needed: false } as const }, /it needs calibration/],
    [
      'one with an invented calibration',
      { calibration: { needed: true, last: dateText(now() - 2 * day), due: dateText(now() + 300 * day) } as const },
      /the register knows no calibration/,
    ],
  ])('%s proves nothing', async (_, change, words) => {
    const found = await judged(planned({ gauge: { ...gauge, ...change } }));
    expect(said(found)).toMatch(words);
    expect([isPass(found.verdict), isPass(found.provisional)]).toEqual([false, false]);
  });

  test('one that is overdue in the register, whatever its plan says, is invalid', async () => {
    const id = await added({ serial: 'O-1' });
    must(await addCalibration(wren, id, { doneOn: dateText(now() - 500 * day), dueOn: dateText(now() - 100 * day), reference: 'x' }));
    const found = await judged(planned({ gauge: { ...gauge, id, name: 'Other', serial: 'O-1' } }));
    expect(said(found)).toMatch(/found-overdue: .*was due on/);
    expect(found.provisional).toBe('invalid');
  });

  test('a simulated one that is called real is practice all the same', async () => {
    const id = await added({ serial: 'S-1', simulated: true });
    const found = await judged(planned({ gauge: { ...gauge, id, serial: 'S-1' } }));
    expect(found.simulated).toBe(true);
  });

  test('one that is registered afterwards is cleared at the seal, and the signatures before that are void', async () => {
    const id = randomUUID();
    const plan = planned({ gauge: { ...gauge, id, name: 'Late', serial: 'L-1' } });
    const { testId, provisional } = await judged(plan);
    expect(isPass(provisional)).toBe(false);
    const { attempts } = must(await readTest(iola, testId));
    expect(attempts[0].events.filter(({ type }) => type === 'found')).toHaveLength(1);
  });
});

describe('house rules', () => {
  const rule = { procedure: 'domestic-gas-millibar', figure: 'settle-seconds', value: '90', reference: 'House practice 3' };
  afterEach(async () => void (await liftHouseRule(wren, { ...rule, reference: 'done' })));

  test('one that was left out is found; one that is kept is not', async () => {
    must(await setHouseRule(wren, rule));
    expect(said(await judged(planned()))).toMatch(/found-differs: .*the firm’s rules give 90 s \(House practice 3\)/);
    expect(said(await judged(planned({ houseRules: [rule] })))).toBe('');
  });

  test('one that nobody set is found', async () =>
    expect(said(await judged(planned({ houseRules: [{ ...rule, value: '120' }] })))).toMatch(
      /it was planned with 120 s; the firm’s rules give 60 s/,
    ));

  test('one that was set after the device took the rules along is noted, and a week without signal is honest', async () => {
    // After the rule of the test before was lifted, and before it is set anew.
    const before = now();
    await new Promise((resolve) => setTimeout(resolve, 20));
    must(await setHouseRule(wren, rule));
    const found = await judged(asOf(planned(), before));
    expect(found.verdict).toBe('pass');
    expect(said(found)).toMatch(/found-noted: A house rule was set after this device last took the rules along/);
    await at(now() + 7 * day, async () => expect((await judged(asOf(planned({ on: dateText(now()) }), before))).verdict).toBe('pass'));
    await at(now() + 20 * day, async () =>
      expect(said(await judged(asOf(planned(), before)))).toMatch(/found-differs: .*register as it stood on/),
    );
  });
});

test('an own procedure that was never published, or is withdrawn, or says something else is found', async () => {
  const own = {
    base: 'domestic-gas-millibar',
    title: 'Harbour flats',
    reference: 'Code 12',
    figures: [{ figure: 'hold-seconds', value: '240' }],
  };
  const never = { ...own, id: randomUUID(), version: '1' };
  expect(said(await judged(planned({ variant: never })))).toMatch(/was not published, or was withdrawn/);
  const { id } = must(await publishOwnProcedure(wren, own));
  const published = { ...own, id, version: '1' };
  expect(said(await judged(planned({ variant: published })))).toBe('');
  const other = { ...published, figures: [{ figure: 'hold-seconds', value: '180' }] };
  expect(said(await judged(planned({ variant: other })))).toMatch(/planned with 180 s; the firm’s rules give 240 s/);
  must(await withdrawOwnProcedure(wren, id));
  expect(said(await judged(planned({ variant: published })))).toMatch(/was withdrawn/);
});

describe('times', () => {
  test.each([
    ['thirty-seven days back', -37, /before it came/],
    ['four hundred days back', -400, /before it came/],
    ['thirty days ahead', 30, /ahead of the time at which it came/],
  ])('a test dated %s is found', async (_, days, words) => {
    const plan = planned();
    const { testId, runId } = await firm.begun(plan);
    const moved = firm.events(plan, 'sound', 3, { run: runId }).map((event) => ({
      ...event,
      observedAt: event.observedAt + days * day,
      enteredAt: event.enteredAt + days * day,
    }));
    must(await appendEvents(iola, runId, moved));
    const { judgement } = must(await readTest(iola, testId)).attempts[0];
    expect(said(judgement)).toMatch(words);
    expect(isPass(judgement.provisional)).toBe(false);
  });

  test('a week on the way is honest; a skewed clock is measured, said, and dates what it wrote', async () => {
    const plan = planned();
    const { testId, runId } = await firm.begun(plan);
    const events = firm.events(plan, 'sound', 3, { run: runId });
    const last = events.at(-1);
    if (last === undefined) throw new Error('no events');
    await at(now() + 7 * day, async () => {
      const sent = { device: last.device, boot: last.boot, at: now() + 3_600_000, mono: last.mono + 7 * day };
      must(await appendEvents(iola, runId, events, sent));
    });
    const { judgement, events: log } = must(await readTest(iola, testId)).attempts[0];
    expect(judgement.verdict).toBe('pass');
    expect(said(judgement)).toMatch(/found-noted: The device’s clock was 60 minutes ahead of the server’s/);
    expect(log.some(({ type }) => type === 'clock')).toBe(true);
    // A little is lost on the way; the same events again say another skew and change nothing.
    const skews = log.flatMap(({ device, skew }) => (device === 'server' ? [] : [skew ?? 0]));
    expect(skews.every((skew) => skew === skews[0] && Math.abs(skew - 3_600_000) < 10_000)).toBe(true);
    await at(now() + 7 * day, async () => {
      const again = must(await appendEvents(iola, runId, events, { device: last.device, boot: last.boot, at: now() - 3_600_000, mono: 0 }));
      expect(again).toMatchObject({ stored: 0, already: events.length, quarantined: [] });
    });
  });

  test('a day is told by the server’s clock: a gauge is not made due, or good again, by the device’s', async () => {
    // Its calibration ends the day that the server has; the device believes in tomorrow.
    const id = await added({ serial: 'D-1' });
    const [last, due] = [dateText(now() - 300 * day), dateText(now())];
    must(await addCalibration(wren, id, { doneOn: last, dueOn: due, reference: 'x' }));
    const plan = planned({ gauge: { ...gauge, id, name: 'Other', serial: 'D-1', calibration: { needed: true, last, due } } });
    const run = async (ahead: number) => {
      const { testId, runId } = await firm.begun(plan);
      const events = firm.events(plan, 'sound', 3, { run: runId }).map((event) => ({
        ...event,
        offsetMinutes: 0,
        observedAt: event.observedAt + ahead,
        enteredAt: event.enteredAt + ahead,
      }));
      const { device, boot, mono } = events[events.length - 1];
      const sent = { device, boot, at: now() + ahead, mono };
      const { from } = must(await appendEvents(iola, runId, events, sent));
      // What is dated otherwise than the device has it, it reads again.
      expect(from === undefined).toBe(ahead !== 0);
      return must(await readTest(iola, testId)).attempts[0].judgement;
    };
    expect((await run(day - 60_000)).verdict).toBe('pass');
    expect((await run(0)).verdict).toBe('pass');
  });

  test('a device that does not say what its clock shows is noted once something comes late from it', async () => {
    const plan = planned();
    const { testId, runId } = await firm.begun(plan);
    const events = firm.events(plan, 'sound', 3, { run: runId });
    await at(now() + 3 * day, async () => {
      must(await appendEvents(iola, runId, events));
    });
    const { judgement } = must(await readTest(iola, testId)).attempts[0];
    expect(judgement.verdict).toBe('pass');
    expect(said(judgement)).toMatch(/found-noted: Something came 3 days after .* nothing tells what its device’s clock showed/);
  });

  test('what is said once is not said again at every sync', async () => {
    const plan = planned();
    const { testId, runId } = await firm.begun(plan);
    const old = firm
      .events(plan, 'sound', 3, { run: runId })
      .map((event) => ({ ...event, observedAt: event.observedAt - 20 * day, enteredAt: event.enteredAt - 20 * day }));
    for (let index = 0; index < old.length; index += 5) must(await appendEvents(iola, runId, old.slice(index, index + 5)));
    expect(must(await readTest(iola, testId)).attempts[0].events.filter(({ type }) => type === 'found')).toHaveLength(1);
  });
});

describe('photographs', () => {
  const named = (runId: string, hash: string, seq: number) => ({
    schema: 1,
    run: runId,
    id: randomUUID(),
    device: 'd',
    seq,
    author: iola.userId,
    observedAt: now() - 1000,
    enteredAt: now() - 1000,
    offsetMinutes: 0,
    boot: 'b',
    mono: 0,
    type: 'photo',
    hash,
    takenAt: now() - 1000,
    text: 'gauge beside the clock',
  });
  const dot = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');

  test('the same picture in two tests is in both records', async () => {
    for (let time = 0; time < 2; time += 1) {
      const { testId, runId } = await firm.finishedTest('sound', 3);
      const { hash } = must(await addPhoto(iola, runId, now(), dot));
      must(await appendEvents(iola, runId, [named(runId, hash, 800)]));
      await sign(testId);
      const { id } = must(await sealTest(iola, testId));
      expect(must(await readCertificate(iola, id)).parsed.photos).toEqual([
        expect.objectContaining({ run: runId, hash, stored: expect.stringMatching(/^[0-9a-f]{64}$/) }),
      ]);
    }
  });

  test('one that never came holds the seal up, or is stated', async () => {
    const { testId, runId } = await firm.finishedTest('sound', 3);
    const hash = 'e'.repeat(64);
    must(await appendEvents(iola, runId, [named(runId, hash, 800)]));
    await sign(testId);
    expect(must(await readDraft(iola, testId)).photosOnTheWay).toBe(1);
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false, problem: { code: 'photos-on-the-way' } });
    const { id } = must(await sealTest(iola, testId, { withoutPhotos: true }));
    const [photo] = must(await readCertificate(iola, id)).parsed.photos ?? [];
    expect(photo).toEqual({ run: runId, hash, takenAt: expect.any(Number) });
  });

  test('what is no photograph is not taken for one', async () => {
    const { runId } = await firm.finishedTest('sound', 3);
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"/>');
    for (const [sent, takenAt] of [
      [svg, now()],
      [Buffer.from('GIF89a\x01\x00\x01\x00\x00\x00\x00;', 'latin1'), now()],
      [dot, 253_402_300_799_999],
      [dot, Number.NaN],
    ] as const)
      expect(await addPhoto(iola, runId, takenAt, sent)).toMatchObject({ ok: false, status: 400 });
  });
});
