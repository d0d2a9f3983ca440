import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { dateText } from '@/core/exact';
import { type Along, changing, making } from '@/core/register';
import { withFirm } from '@/db/connection';
import { site } from '@/db/schema';
import type { Actor } from './actor';
import { searchSites, takeAlong } from './along';
import { now } from './clock';
import { addCalibration } from './instruments';
import { readSite } from './sites';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createRun, createTest } from './tests';
import { keepChange, makeThing, readThing } from './things';

/* What a device takes along, as differences: what is its own to have, all of it, once, and nothing else. */

const firm = await openTestFirm('along');
const { iola, wren, stranger, systemId, gauge, firmId } = firm;
afterAll(() => firm.close());

const nothing = { epoch: '', since: '0', have: [], pinned: [] };
const ask = async (actor: Actor, asked: Record<string, unknown> = nothing) => must(await takeAlong(actor, asked));
const next = ({ epoch, since, scope }: Along, pinned: readonly string[] = []) => ({ epoch, since, have: scope, pinned });
const ownSite = async () => must(await readSite(iola, (await readThing(iola, 'system', systemId))?.siteId ?? '')).site.id;

test('a device without visits or tests takes no sites, and the firm’s rules and gauges', async () => {
  const along = await ask(iola);
  expect(along).toMatchObject({ scope: [], sites: [], systems: [], person: { name: iola.name }, firm: { id: firmId } });
  expect(along.instruments.map(({ id }) => id)).toEqual([gauge.id]);
  expect(along.asOf).toBeGreaterThan(now() - 60_000);
});

test('a pinned site comes whole, then only what was changed; an unpinned one goes', async () => {
  const id = await ownSite();
  const first = await ask(iola, { ...nothing, pinned: [id] });
  expect(first.scope).toEqual([id]);
  expect(first.sites).toMatchObject([{ id, version: 1 }]);
  expect(first.systems).toMatchObject([{ id: systemId, pipes: '22cu 12\n15cu 9' }]);
  expect(first.components.map(({ kind }) => kind).sort()).toEqual(['Boiler', 'Hob']);
  const second = await ask(iola, next(first, [id]));
  expect(second).toMatchObject({ sites: [], systems: [], components: [], instruments: [], visits: [], equipment: [] });
  const before = await readThing(iola, 'site', id);
  if (before === undefined) throw new Error('no site');
  must(await keepChange(wren, changing('site', before, { access: 'Bell 3' })));
  const third = await ask(iola, next(second, [id]));
  expect(third.sites).toMatchObject([{ id, access: 'Bell 3', version: 2 }]);
  expect(third.systems).toEqual([]);
  expect((await ask(iola, next(third))).scope).toEqual([]);
});

test('a visit brings its site to those who go, and to everyone where nobody is named', async () => {
  const { id: siteId } = must(await makeThing(wren, 'site', { name: 'Visited', address: '3 Pier' }));
  const on = dateText(now() + 86_400_000);
  const { id } = must(await makeThing(wren, 'visit', { siteId, on, people: [iola.userId] }));
  expect((await ask(iola)).visits).toMatchObject([{ id, siteId, on }]);
  expect((await ask(wren)).scope).not.toContain(siteId);
  const visit = await readThing(wren, 'visit', id);
  if (visit === undefined) throw new Error('no visit');
  must(await keepChange(wren, changing('visit', visit, { people: [] })));
  expect((await ask(wren)).scope).toContain(siteId);
  // One that was a month ago brings nothing.
  const stale = must(await makeThing(wren, 'site', { name: 'Long ago', address: '4 Pier' }));
  must(await makeThing(wren, 'visit', { siteId: stale.id, on: dateText(now() - 30 * 86_400_000) }));
  expect((await ask(iola)).scope).not.toContain(stale.id);
});

test('what somebody tested lately comes with what it was planned from', async () => {
  const plan = firm.planned({ answers: { meter: 'ultrasonic-6', work: 'new' }, pipes: '22cu 7.5' });
  const testId = randomUUID();
  must(await createTest(iola, { id: testId, systemId, details }));
  must(await createRun(iola, { id: randomUUID(), testId, number: 1, plan }));
  const along = await ask(iola);
  expect(along.systems.map(({ id }) => id)).toContain(systemId);
  expect(along.histories).toEqual([
    expect.objectContaining({
      test: testId,
      systemId,
      procedure: plan.procedure.id,
      verdict: 'in progress',
      technician: iola.name,
      start: expect.objectContaining({ gauge: plan.gauge.id, pipes: '22cu 7.5', answers: expect.objectContaining({ work: 'new' }) }),
    }),
  ]);
  expect((await ask(iola, next(along))).histories).toEqual([]);
});

test('what is being written when a difference is read comes with the next, however long it takes', async () => {
  const id = await ownSite();
  const before = await ask(iola, { ...nothing, pinned: [id] });
  let read: Along | undefined;
  await withFirm(firmId, async (tx) => {
    await tx
      .update(site)
      .set({ occupier: 'Slow writer', version: sql`${site.version} + 1` })
      .where(sql`${site.id} = ${id}`);
    // Another change is made, committed and read while this one is under way.
    must(await makeThing(wren, 'equipment', { kind: 'ball', name: 'Quick ball' }));
    read = await ask(iola, next(before, [id]));
  });
  if (read === undefined) throw new Error('not read');
  expect(read.sites).toEqual([]);
  expect(read.equipment).toMatchObject([{ name: 'Quick ball' }]);
  const after = await ask(iola, next(read, [id]));
  expect(after.sites).toMatchObject([{ id, occupier: 'Slow writer' }]);
});

test('a gauge that was calibrated comes again, and one that was put away is told', async () => {
  const first = await ask(iola);
  must(
    await addCalibration(wren, gauge.id, { doneOn: dateText(now() - 86_400_000), dueOn: dateText(now() + 86_400_000), reference: 'C-9' }),
  );
  const second = await ask(iola, next(first));
  expect(second.instruments).toMatchObject([{ id: gauge.id, calibrations: [{ reference: 'C-9' }, {}] }]);
  const { id } = must(await makeThing(iola, 'instrument', { name: 'Own', readability: '0.1', rangeHigh: '10', serial: 'O-1' }));
  const kept = await readThing(iola, 'instrument', id);
  if (kept === undefined) throw new Error('no instrument');
  const third = await ask(iola, next(second));
  must(await keepChange(iola, changing('instrument', kept, { putAway: true })));
  expect((await ask(iola, next(third))).instruments).toMatchObject([{ id, putAway: true }]);
});

test('a place of another register, or none at all, is answered with everything', async () => {
  const id = await ownSite();
  const whole = await ask(iola, { epoch: 'elsewhere-7', since: '99999999999', have: [id], pinned: [id] });
  expect(whole.sites.map((one) => one.id)).toContain(id);
  expect(whole.instruments.length).toBeGreaterThan(0);
  for (const odd of [{}, { have: 'x', since: 5, pinned: [1, 'x', null] }])
    expect((await ask(iola, odd)).instruments.length).toBeGreaterThan(0);
});

test('another firm’s sites are not to be had by naming them, nor to be found', async () => {
  const id = await ownSite();
  expect(await ask(stranger, { ...nothing, pinned: [id], have: [id] })).toMatchObject({
    scope: [],
    sites: [],
    systems: [],
    instruments: [],
  });
  expect(must(await searchSites(stranger, 'Site'))).toEqual([]);
  expect(must(await searchSites(iola, 'somewhere SITE')).map((one) => one.site.id)).toEqual([id]);
  expect(must(await searchSites(iola, '%'))).toEqual([]);
  expect(must(await searchSites(iola, '', systemId)).map((one) => one.site.id)).toEqual([id]);
  expect(must(await searchSites(stranger, '', systemId))).toEqual([]);
});

test('what was made together is taken along together', async () => {
  const [one, system] = [randomUUID(), randomUUID()];
  must(await keepChange(iola, making('site', one, { name: 'Pair', address: '7 Quay' })));
  must(await keepChange(iola, making('system', system, { siteId: one, name: 'Water', kind: 'water' })));
  expect((await ask(iola, { ...nothing, pinned: [one] })).systems.map(({ id }) => id)).toContain(system);
});
