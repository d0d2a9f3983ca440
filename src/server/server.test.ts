import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { isPass, type RunEvent } from '@/core/judging';
import { type Plan, planHash } from '@/core/planning';
import { withFirm, withoutFirm } from '@/db/connection';
import type { Actor } from './actor';
import { listCertificates } from './certificates';
import { at } from './clock';
import { readDraft } from './drafts';
import { appendEvents } from './events';
import { readRun, receive } from './field';
import { setHouseRule } from './rules';
import { correctCertificate, sealTest } from './sealing';
import { listSites, readSite } from './sites';
import { listStandings } from './standing';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createRun, createTest, readTest } from './tests';
import { keepChange, makeThing } from './things';

/* Firms apart, and the append-only log. */

const bench = await openTestFirm('server');
const { firmId, otherFirmId, iola, stranger, systemId, finishedTest, sign, owner } = bench;
afterAll(() => bench.close());

/** A change of a system's name, by whoever knows its id. */
const renamed = (actor: Actor, of: string) => keepChange(actor, { thing: 'system', of, fields: { name: { was: 'Gas', is: 'x' } } });

describe('firms apart', () => {
  test('every table of the firm has row security, forced, with a policy for reading and writing', async () => {
    const tables = await owner((client) =>
      client.query(`select c.relname as name, c.relrowsecurity as enabled, c.relforcerowsecurity as forced,
        (select count(*)::int from pg_policy p where p.polrelid = c.oid and p.polqual is not null and p.polwithcheck is not null) as policies
        from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public' and c.relkind = 'r'`),
    );
    expect(tables.rows.length).toBeGreaterThan(12);
    for (const row of tables.rows) expect(row).toMatchObject({ enabled: true, forced: true, policies: 1 });
  });

  test('the application’s role owns nothing and cannot get round its policies', async () => {
    const { rows } = await owner((client) =>
      client.query(
        `select rolsuper, rolbypassrls, (select count(*)::int from pg_class where relowner = r.oid) as owned from pg_roles r where rolname = 'vast_app'`,
      ),
    );
    expect(rows[0]).toEqual({ rolsuper: false, rolbypassrls: false, owned: 0 });
  });

  test('without a firm in the transaction there are no rows, and another firm’s cannot be written', async () => {
    expect((await withoutFirm((tx) => tx.execute(sql`select * from site`))).rows).toEqual([]);
    await expect(
      withFirm(otherFirmId, (tx) =>
        tx.execute(
          sql`insert into site (id, firm_id, name, address, occupier, created_at) values (${randomUUID()}, ${firmId}, 'x', 'x', '', now())`,
        ),
      ),
    ).rejects.toThrow();
  });

  test('another firm’s ids answer like ids that do not exist, in every query and command', async () => {
    const { testId, runId, plan } = await finishedTest();
    const [{ id: siteId }] = await listSites(iola);
    const absent = randomUUID();
    for (const [own, none] of [
      [readSite(stranger, siteId), readSite(stranger, absent)],
      [readTest(stranger, testId), readTest(stranger, absent)],
      [readRun(stranger, runId), readRun(stranger, absent)],
      [readDraft(stranger, testId), readDraft(stranger, absent)],
      [sealTest(stranger, testId), sealTest(stranger, absent)],
      [appendEvents(stranger, runId, []), appendEvents(stranger, absent, [])],
      [
        createTest(stranger, { id: randomUUID(), systemId, details }),
        createTest(stranger, { id: randomUUID(), systemId: absent, details }),
      ],
      [
        createRun(stranger, { id: randomUUID(), testId, number: 2, plan }),
        createRun(stranger, { id: randomUUID(), testId: absent, number: 2, plan }),
      ],
      [makeThing(stranger, 'system', { siteId, name: 'x' }), makeThing(stranger, 'system', { siteId: absent, name: 'x' })],
      [makeThing(stranger, 'component', { systemId, kind: 'x' }), makeThing(stranger, 'component', { systemId: absent, kind: 'x' })],
      [renamed(stranger, systemId), renamed(stranger, absent)],
      [createTest(stranger, { id: testId, systemId, details }), readTest(stranger, 'no-uuid')],
    ] as const) {
      const [a, b] = await Promise.all([own, none]);
      expect(a).toEqual(b);
      expect(a).toMatchObject({ ok: false, status: 404 });
    }
    expect(await listStandings(stranger.firmId, 100)).toEqual([]);
    expect(await listCertificates(stranger)).toEqual([]);
  });
});

describe('the log', () => {
  test('the same sync twice changes nothing; half a sync and then the whole is the whole', async () => {
    const plan = bench.planned({});
    const [testId, runId] = [randomUUID(), randomUUID()];
    const events = bench.events(plan, 'sound', 4, { run: runId });
    const items = [
      { kind: 'test', id: testId, systemId, details },
      { kind: 'run', id: runId, testId, number: 1, plan },
      { kind: 'events', run: runId, events: events.slice(0, 9) },
    ] as const;
    for (let time = 0; time < 2; time += 1)
      expect(must(await receive(iola, items)).receipts).toMatchObject(items.map(() => ({ ok: true, quarantined: [] })));
    expect(must(await appendEvents(iola, runId, events))).toMatchObject({ stored: events.length - 9, already: 9 });
    const loaded = must(await readTest(iola, testId));
    expect(loaded.attempts[0].events).toHaveLength(events.length);
    expect(loaded.attempts[0].judgement.verdict).toBe('pass');
  });

  test('nobody can change or delete an event, a run or a certificate: not the application, not the owner', async () => {
    const { testId } = await finishedTest();
    await sign(testId);
    must(await sealTest(iola, testId));
    for (const statement of [
      'update event set late = true',
      'delete from event',
      'truncate event',
      `update certificate set verdict = 'pass'`,
      'delete from certificate',
      'delete from run',
      "update signature set name = 'x'",
    ])
      await expect(withFirm(firmId, (tx) => tx.execute(sql.raw(statement)))).rejects.toThrow();
    await owner(async (client) => {
      // The owner is bound by the forced policies; even past them the triggers refuse.
      await client.query(`create policy test_all on certificate to current_user using (true) with check (true)`);
      await expect(client.query(`update certificate set verdict = 'pass'`)).rejects.toThrow(/append-only/);
      await expect(client.query('delete from certificate')).rejects.toThrow(/append-only/);
      for (const table of ['event', 'certificate', 'seal_key']) await expect(client.query(`truncate ${table}`)).rejects.toThrow();
      await client.query('drop policy test_all on certificate');
    });
  });

  test('a key that is revoked or retired stays so, and what it is never changes', async () => {
    const marked = `update seal_key set revoked_at = now(), retired_at = now() where firm_id = '${otherFirmId}'`;
    await withFirm(otherFirmId, (tx) => tx.execute(sql.raw(marked)));
    for (const change of ['revoked_at = null', 'retired_at = null', "public_key = 'x'"])
      await expect(
        withFirm(otherFirmId, (tx) => tx.execute(sql.raw(`update seal_key set ${change} where firm_id = '${otherFirmId}'`))),
      ).rejects.toThrow();
  });

  test('what cannot be read is kept aside and stops nothing', async () => {
    const { runId } = await finishedTest();
    const note = {
      schema: 1,
      run: runId,
      id: randomUUID(),
      device: 'd',
      seq: 900,
      author: iola.userId,
      observedAt: 1,
      enteredAt: 1,
      offsetMinutes: 0,
      boot: 'b',
      mono: 0,
      type: 'note',
      text: 'good',
    };
    const result = must(
      await appendEvents(iola, runId, [
        { nonsense: true },
        note,
        { ...note, id: randomUUID(), run: randomUUID() },
        { ...note, id: randomUUID(), author: 'Somebody else' },
        null,
      ]),
    );
    expect(result).toMatchObject({ stored: 1 });
    expect(result.quarantined.map(({ why }) => why.slice(0, 20))).toHaveLength(4);
    const { rows } = await withFirm(firmId, (tx) => tx.execute<{ count: number }>(sql`select count(*)::int as count from quarantine`));
    expect(rows[0].count).toBeGreaterThanOrEqual(4);
  });

  test('each event has its place in the order in which it joined; what a device says of its place is not taken, and the server’s word is not its own', async () => {
    const { runId, testId } = await finishedTest();
    const before = must(await readTest(iola, testId)).attempts[0].events;
    expect(before.map(({ position }) => position)).toEqual(before.map((_, index) => index + 1));
    const note = { ...before[0], id: randomUUID(), seq: 901, position: 1, type: 'note', text: 'later' };
    const clock = {
      ...note,
      id: randomUUID(),
      type: 'clock',
      of: 'd',
      ofBoot: 'b',
      deviceAt: 1,
      deviceMono: 1,
      serverAt: 1,
      text: undefined,
    };
    const result = must(await appendEvents(iola, runId, [note, JSON.parse(JSON.stringify(clock))]));
    expect(result.quarantined.map(({ why }) => why)).toEqual(['Only the server writes that.']);
    expect(must(await readTest(iola, testId)).attempts[0].events.at(-1)).toMatchObject({ id: note.id, position: before.length + 1 });
  });

  test('a reload in the hold leaves its time open; the server’s own look at the device’s clocks settles it (DOMAIN 4.25)', async () => {
    const plan = bench.planned({});
    const testId = randomUUID();
    must(await createTest(iola, { id: testId, systemId, details }));
    const verdictAfter = async (sent: (boot: string, last: RunEvent) => Parameters<typeof appendEvents>[3]) => {
      const runId = randomUUID();
      must(await createRun(iola, { id: runId, testId, number: 1, plan }));
      const events = bench.events(plan, 'sound', 3, { run: runId });
      const end = events.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'end');
      const shifted = events.map((event, index) =>
        index < end ? event : { ...event, boot: 'again', mono: event.mono - events[end].mono + 5000 },
      );
      for (const part of [shifted.slice(0, end), shifted.slice(end)]) {
        const last = part[part.length - 1];
        must(await at(last.observedAt + 1000, () => appendEvents(iola, runId, part, sent(last.boot, last))));
      }
      const found = must(await readTest(iola, testId)).attempts.find(({ id }) => id === runId);
      return found?.judgement.reasons.some(({ code }) => code === 'clock-unproved');
    };
    const says = (boot: string, last: RunEvent, ahead = 0) => ({
      device: last.device,
      boot,
      at: last.observedAt + 1000 + ahead,
      mono: last.mono + 1000,
    });
    expect(await verdictAfter(() => undefined)).toBe(true);
    expect(await verdictAfter((boot, last) => says(boot, last))).toBe(false);
    expect(await verdictAfter((boot, last) => says(boot, last, boot === 'again' ? 60_000 : 0))).toBe(true);
  });

  test('a run by a plan that its answers do not give is kept, marked, and never passes; one that cannot be read is kept and shown', async () => {
    const plan = bench.planned({});
    const loose = plan.figures.map((figure) =>
      figure.id === 'hold-seconds' ? { ...figure, value: '60', source: 'house rule' as const, reference: 'x' } : figure,
    );
    const altered = (change: Partial<Plan>): Plan => {
      const changed = { ...plan, ...change };
      return { ...changed, hash: planHash(changed) };
    };
    for (const [forged, said] of [
      [altered({ limit: '5.0' }), /steps and limits are not those/],
      [altered({ phases: plan.phases.slice(1) }), /steps and limits are not those/],
      [altered({ figures: loose }), /this plan is looser/],
      [altered({ procedure: { ...plan.procedure, version: '99' } }), /version 99, which is not known here/],
    ] as const) {
      const testId = randomUUID();
      const runId = randomUUID();
      must(await createTest(iola, { id: testId, systemId, details }));
      must(await createRun(iola, { id: runId, testId, number: 1, plan: forged }));
      must(await appendEvents(iola, runId, bench.events(plan, 'sound', 3, { run: runId })));
      const [{ judgement }] = must(await readTest(iola, testId)).attempts;
      const text = judgement.reasons.flatMap(({ code, data }) => (code === 'found-differs' ? [String(data.text)] : []));
      expect([said, text.join(' ')]).toEqual([said, expect.stringMatching(said)]);
      expect(isPass(judgement.provisional)).toBe(false);
      expect(isPass(judgement.verdict)).toBe(false);
    }
    for (const unread of [{ ...plan, hash: '0'.repeat(64) }, { ...plan, future: true }, { nothing: true }]) {
      const [testId, runId] = [randomUUID(), randomUUID()];
      must(await createTest(iola, { id: testId, systemId, details }));
      must(await createRun(iola, { id: runId, testId, number: 1, plan: unread }));
      expect(must(await appendEvents(iola, runId, bench.events(plan, 'sound', 3, { run: runId })))).toMatchObject({ quarantined: [] });
      expect(must(await readTest(iola, testId))).toMatchObject({ attempts: [], unread: [{ run: runId, number: 1 }] });
      await sign(testId);
      expect(await sealTest(iola, testId)).toMatchObject({
        ok: false,
        problem: { message: expect.stringContaining('cannot be read here') },
      });
    }
  });

  test('a plan of another build that asks for the same in other words passes, and says so', async () => {
    const plan = bench.planned({});
    const phases = plan.phases.map((phase) => ({ ...phase, say: `${phase.say} As it was said before.` }));
    const former = { ...plan, phases };
    const [testId, runId] = [randomUUID(), randomUUID()];
    must(await createTest(iola, { id: testId, systemId, details }));
    must(await createRun(iola, { id: runId, testId, number: 1, plan: { ...former, hash: planHash(former) } }));
    must(await appendEvents(iola, runId, bench.events(plan, 'sound', 3, { run: runId })));
    const [{ judgement }] = must(await readTest(iola, testId)).attempts;
    expect(judgement.verdict).toBe('pass');
    expect(judgement.reasons).toContainEqual(
      expect.objectContaining({
        code: 'found-noted',
        data: expect.objectContaining({ text: expect.stringContaining('another version of the program') }),
      }),
    );
  });

  test('office staff run no tests; technicians correct nothing and set no rules', async () => {
    const office: Actor = { ...iola, role: 'office' };
    expect(await createTest(office, { id: randomUUID(), systemId, details })).toMatchObject({ ok: false, status: 403 });
    expect(await correctCertificate(iola, randomUUID(), { reason: 'wrong meter' })).toMatchObject({ ok: false, status: 403 });
    expect(
      await setHouseRule(iola, { procedure: 'domestic-gas-millibar', figure: 'hold-seconds', value: '180', reference: 'x' }),
    ).toMatchObject({ ok: false, status: 403 });
  });
});
