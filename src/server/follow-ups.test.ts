import { randomUUID } from 'node:crypto';
import { dateText, guardLooks } from '@/core/judging';
import { dateWords } from '@/core/papers';
import { exampleFor, examplePlan } from '@/core/simulation/examples.fixture';
import type { Instrument } from '@/core/sizing';
import { accountOf, addPerson, putAway } from './auth';
import { calendarOf, feedOf, makeFeed } from './calendar';
import { at, now } from './clock';
import { saveFirm } from './firms';
import { addFollowUp, endFollowUp, followUpsOf, openFollowUps, remindDue } from './follow-ups';
import { listMessages } from './mail';
import { sealTest } from './sealing';
import { byTag, readByTag, readTag } from './tags';
import { must, openTestFirm } from './test-firm.fixture';
import { readTest, verdictOf } from './tests';
import { offsetOfZone } from './zones';

/* What is still to be done: made by verdicts, ended by what was done, reminded of, shown in calendars, and read off a tag. */

const bench = await openTestFirm('follow-ups');
const { firmId, iola, wren, stranger, systemId, finishedTest, sign } = bench;
process.env.VAST_ADDRESS = 'https://tests.example';
afterAll(() => bench.close());

const day = 86_400_000;
const stated = { name: 'Test firm', emergencyNumber: '0000', zone: 'UTC', locale: 'en-GB', sheet: 'A4' };
const sealed = async (fault: string, seed: number) => {
  const { testId } = await finishedTest(fault, seed);
  await sign(testId);
  return must(await sealTest(iola, testId));
};
const open = async () => (await openFollowUps(firmId)).filter((one) => one.systemId === systemId);

test('a failure makes one to repair, by whoever tested; a pass of that system ends it by what was done', async () => {
  const { number } = await sealed('gross-leak', 3);
  const [made, ...others] = await open();
  expect(others).toEqual([]);
  expect(made).toMatchObject({
    kind: 'repair',
    due: dateText(now()),
    person: iola.userId,
    what: `Certificate ${number}: fail (simulated: practice)`,
  });
  const passed = await sealed('sound', 4);
  expect(await open()).toEqual([]);
  expect((await followUpsOf(firmId, [systemId])).find(({ id }) => id === made.id)).toMatchObject({
    endedBy: 'what was done',
    outcome: `Passed: certificate ${passed.number}`,
  });
});

describe('what ends by what was done', () => {
  const failed = async (seed: number) => {
    await sealed('gross-leak', seed);
    const [made] = await open();
    return made;
  };
  const away = async () => {
    for (const { id } of await open()) must(await endFollowUp(iola, id, { outcome: 'seen to' }));
  };

  test('not by a pass that was begun before the failure and sealed after it', async () => {
    const before = await finishedTest('sound', 21);
    const made = await failed(22);
    await sign(before.testId);
    must(await sealTest(iola, before.testId));
    expect(verdictOf(must(await readTest(iola, before.testId)))?.verdict).toBe('pass');
    expect((await open()).map(({ id }) => id)).toEqual([made.id]);
    await sealed('sound', 23);
    expect(await open()).toEqual([]);
  });

  test('not by a test of another kind, though it passed', async () => {
    const made = await failed(24);
    const example = exampleFor('gas-leak-rate');
    const gauge = await bench.register(example.gauge);
    const { testId } = await finishedTest('sound', 25, examplePlan('gas-leak-rate', { gauge, on: dateText(now()) }));
    await sign(testId);
    must(await sealTest(iola, testId));
    expect(verdictOf(must(await readTest(iola, testId)))?.verdict).toMatch(/^pass/);
    expect((await open()).map(({ id }) => id)).toEqual([made.id]);
    await away();
  });

  test('not by practice, where what is open is real; practice says so in its own', async () => {
    const { id } = must(await addFollowUp(iola, { systemId, kind: 'repair', due: '2026-12-24', what: 'valve at the meter' }));
    await sealed('sound', 26);
    expect((await open()).map((one) => one.id)).toEqual([id]);
    await away();
    const made = await failed(27);
    expect(made.what).toContain('(simulated: practice)');
    await away();
  });

  test('its day is the office’s own, also where that is another than in Greenwich', async () => {
    const night = Math.floor(now() / day) * day + 23.5 * 3_600_000;
    must(await saveFirm(wren, { ...stated, zone: 'Pacific/Auckland' }));
    const { testId } = await finishedTest('gross-leak', 28);
    await sign(testId);
    await at(night, async () => must(await sealTest(iola, testId)));
    const [made] = await open();
    expect(made.due).toBe(dateText(night + offsetOfZone('Pacific/Auckland', night) * 60_000));
    expect(made.due).not.toBe(dateText(night));
    must(await saveFirm(wren, stated));
    await away();
  });
});

test('a calendar address closes with whoever had it', async () => {
  const leaver = await addPerson({ firmId, name: 'Leaver', email: 'leaver@test.invalid', password: 'long-enough-7', role: 'technician' });
  const { address } = must(await makeFeed(leaver));
  const token = address.slice(address.lastIndexOf('/') + 1);
  expect(await feedOf(token)).toMatchObject({ ok: true });
  const account = await accountOf('leaver@test.invalid');
  if (account === undefined) throw new Error('no account');
  await putAway(account);
  expect(await feedOf(token)).toMatchObject({ ok: false, status: 404 });
});

test('made by hand, ended by a word, once', async () => {
  const { id } = must(
    await addFollowUp(iola, { systemId, kind: 'waiting', due: '2026-12-24', person: wren.userId, what: 'supplier to swap the meter' }),
  );
  expect((await open())[0]).toMatchObject({ kind: 'waiting', person: wren.userId, tag: null });
  expect(await endFollowUp(stranger, id, { outcome: 'done' })).toMatchObject({ ok: false, status: 404 });
  expect(await endFollowUp(iola, id, { outcome: ' ' })).toMatchObject({ ok: false, problem: { field: 'outcome' } });
  must(await endFollowUp(iola, id, { outcome: 'meter swapped' }));
  expect(await endFollowUp(wren, id, { outcome: 'again' })).toMatchObject({ ok: false, problem: { code: 'already-ended' } });
});

test.each([
  [{ kind: 'nothing' }, 'kind'],
  [{ due: '2026-02-31' }, 'due'],
  [{ due: '' }, 'due'],
  [{ person: 'nobody' }, 'person'],
  [{ what: 'x'.repeat(301) }, 'what'],
])('%j is refused at its field', async (change, field) => {
  expect(await addFollowUp(iola, { systemId, kind: 'retest', due: '2026-12-24', ...change })).toMatchObject({
    ok: false,
    problem: { field },
  });
});

test('another firm’s system and follow-ups are not there', async () => {
  expect(await addFollowUp(stranger, { systemId, kind: 'retest', due: '2026-12-24' })).toMatchObject({ ok: false, status: 404 });
  expect(await addFollowUp(iola, { systemId: randomUUID(), kind: 'retest', due: '2026-12-24' })).toMatchObject({ ok: false, status: 404 });
  expect(await openFollowUps(stranger.firmId)).toEqual([]);
});

test('its person is reminded by mail once it is due, once, and again after a week', async () => {
  const due = dateText(now() + 2 * day);
  must(await addFollowUp(iola, { systemId, kind: 'retest', due, person: iola.userId, what: 'after the plaster' }));
  must(await addFollowUp(iola, { systemId, kind: 'retest', due }));
  const notices = async () => (await listMessages(iola)).filter(({ kind }) => kind === 'notice');
  expect(await remindDue()).toBe(0);
  await at(now() + 2 * day, async () => {
    expect(await remindDue()).toBe(1);
    expect(await remindDue()).toBe(0);
  });
  expect(await notices()).toEqual([expect.objectContaining({ recipient: 'one@test.invalid', subject: 'Test again: Gas, Site' })]);
  await at(now() + 5 * day, async () => expect(await remindDue()).toBe(0));
  await at(now() + 10 * day, async () => expect(await remindDue()).toBe(1));
  for (const { id } of await open()) must(await endFollowUp(iola, id, { outcome: 'tested' }));
  await at(now() + 30 * day, async () => expect(await remindDue()).toBe(0));
});

test('one as a calendar file, all of a person’s by a private address that a new one ends', async () => {
  const { id } = must(
    await addFollowUp(iola, { systemId, kind: 'retest', due: '2027-02-28', person: iola.userId, what: 'after; the, plaster' }),
  );
  const file = must(await calendarOf(iola, id));
  expect(file).toMatch(/BEGIN:VEVENT[\s\S]*DTSTART;VALUE=DATE:20270228[\s\S]*DTEND;VALUE=DATE:20270301[\s\S]*END:VEVENT/);
  expect(file.replaceAll('\r\n\t', '').replaceAll('\r\n ', '')).toContain('SUMMARY:Test again: Gas');
  expect(file).toContain('after\\; the\\, plaster');
  expect(await calendarOf(stranger, id)).toMatchObject({ ok: false, status: 404 });
  const tokenOf = ({ address }: { address: string }) => address.slice(address.lastIndexOf('/') + 1);
  const first = tokenOf(must(await makeFeed(iola)));
  expect(must(await feedOf(first))).toContain('20270228');
  expect(must(await feedOf(tokenOf(must(await makeFeed(wren)))))).not.toContain('20270228');
  const second = tokenOf(must(await makeFeed(iola)));
  expect(await feedOf(first)).toMatchObject({ ok: false, status: 404 });
  must(await endFollowUp(iola, id, { outcome: 'tested' }));
  expect(must(await feedOf(second))).toMatch(/^BEGIN:VCALENDAR[\s\S]*END:VCALENDAR/);
  // What is left is the gauge’s own: its calibration falls due.
  const left = must(await feedOf(second));
  expect(left).toContain('SUMMARY:Calibrate: ');
  expect(left.match(/BEGIN:VEVENT/g)?.length).toBe(left.match(/SUMMARY:Calibrate: /g)?.length);
  for (const token of ['', 'x'.repeat(32), "' or true --"]) expect(await feedOf(token)).toMatchObject({ ok: false, status: 404 });
});

describe('a tag on a guard gauge', () => {
  const guarded = async (seed: number) => {
    const example = exampleFor('heating-hydraulic');
    const gauge = await bench.register(example.gauge);
    const instruments: Record<string, Instrument> = {};
    for (const [role, one] of Object.entries(example.instruments ?? {})) instruments[role] = await bench.register(one);
    const plan = examplePlan('heating-hydraulic', { gauge, instruments, on: dateText(now()) });
    const { testId } = await finishedTest('sound', seed, plan);
    await sign(testId);
    must(await sealTest(iola, testId));
    const follow = (await openFollowUps(firmId)).find((one) => one.testId === testId);
    const { attempts } = must(await readTest(iola, testId));
    const [left] = guardLooks(attempts[0].plan, attempts[0].events);
    return { testId, tag: follow?.tag ?? '', follow, left };
  };

  test('a reading without an account: only that gauge, in its steps and its range; it fell, and between which days', async () => {
    const { testId, tag, follow, left } = await guarded(5);
    expect(follow).toMatchObject({ kind: 'guard' });
    expect(tag).toMatch(/^[A-HJ-NP-Z2-9]{10}$/);
    const shown = must(await readTag(tag));
    expect(shown).toMatchObject({ firm: 'Test firm', ended: false, unit: left.event.unit });
    expect(shown.looks).toHaveLength(1);
    expect(shown.looks[0].moment).toMatch(/\(UTC\)$/);
    for (const value of ['', 'five', '-99999', '99999', '4.123456789', '1e3'])
      expect(await readByTag(tag, { value })).toMatchObject({ ok: false, problem: { field: 'value' } });
    const good = must(await at(now() + day, () => readByTag(tag, { value: left.event.value })));
    expect(good).toMatchObject({ alarm: false });
    const fallen = (Number(left.event.value) * 0.4).toFixed(2);
    const bad = must(await at(now() + 3 * day, () => readByTag(tag, { value: fallen })));
    expect(bad.alarm).toBe(true);
    expect(bad.since).toBe(dateWords(dateText(now() + day), 'en-GB'));
    const after = must(await readTest(iola, testId));
    expect(after.watch.map(({ author, value }) => [author, value])).toEqual([
      [byTag, left.event.value],
      [byTag, fallen],
    ]);
    // What was sealed stays what it was.
    expect(after.certificates).toHaveLength(1);
    expect(after.lateEvents).toBe(0);
  });

  test('a few a day, and until its follow-up ends; another code opens nothing', async () => {
    const before = await guarded(7);
    const { tag, follow, left } = await guarded(6);
    // The later test left its own gauge on: the one before is not watched any more.
    expect(must(await readTag(before.tag)).ended).toBe(true);
    for (let time = 0; time < 12; time += 1) must(await readByTag(tag, { value: left.event.value }));
    expect(await readByTag(tag, { value: left.event.value })).toMatchObject({ ok: false, status: 429 });
    must(await endFollowUp(wren, follow?.id ?? '', { outcome: 'screed is down' }));
    expect(must(await readTag(tag)).ended).toBe(true);
    expect(await at(now() + 2 * day, () => readByTag(tag, { value: left.event.value }))).toMatchObject({
      ok: false,
      problem: { code: 'tag-ended' },
    });
    for (const code of ['', 'AAAAAAAAAA', "'; drop", tag.toLowerCase()])
      expect(await readTag(code)).toMatchObject({ ok: false, status: 404 });
  });
});
