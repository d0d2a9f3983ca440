import { randomUUID } from 'node:crypto';
import { changing, making, type Said, type Thing } from '@/core/register';
import type { Actor } from './actor';
import { once } from './command';
import { receive } from './field';
import { readSite } from './sites';
import { must, openTestFirm } from './test-firm.fixture';
import { clashesOf, keepChange, keepChanges, makeThing, readThing, settleClash } from './things';

/* What devices and the office do to the register, however late and in whatever order it comes. */

const firm = await openTestFirm('things');
const { iola, wren, stranger, systemId, firmId } = firm;
afterAll(() => firm.close());

const siteOf = async (id: string): Promise<Thing<'site'>> => {
  const found = await readThing(iola, 'site', id);
  if (found === undefined) throw new Error('no such site');
  return found;
};
const newSite = async (said: Partial<Said<'site'>> = {}) =>
  siteOf(must(await makeThing(iola, 'site', { name: 'Mill', address: `${randomUUID()} Weir Lane`, ...said })).id);
const send = async (actor: Actor, change: unknown, id = randomUUID()) =>
  must(await receive(actor, [{ kind: 'change', id, change }])).receipts[0];

test('what a device made comes once, however often it is sent, and by its own id', async () => {
  const id = randomUUID();
  const change = making('site', id, { name: 'Quarry', address: '5 Pit Road' });
  const sent = randomUUID();
  for (let time = 0; time < 3; time += 1) expect(await send(iola, change, sent)).toEqual({ ok: true, quarantined: [] });
  expect(await siteOf(id)).toMatchObject({ name: 'Quarry', version: 1, putAway: false });
  // Sent again under another id, by somebody who did not know that it had arrived.
  expect(await send(iola, change)).toMatchObject({ ok: true });
  expect(await siteOf(id)).toMatchObject({ version: 1 });
  expect(await send(iola, making('site', id, { name: 'Other', address: '5 Pit Road' }), sent)).toMatchObject({ code: 'command-differs' });
});

test('a site, its system and its component, made without signal, arrive in one sending', async () => {
  const [site, system, component] = [randomUUID(), randomUUID(), randomUUID()];
  const changes = [
    making('site', site, { name: 'Barn', address: '9 Field Way' }),
    making('system', system, { siteId: site, name: 'Gas', kind: 'gas' }),
    making('component', component, { systemId: system, kind: 'Boiler', serial: '12' }),
  ];
  const items = changes.map((change) => ({ kind: 'change', id: randomUUID(), change }));
  expect(must(await receive(iola, items)).receipts).toEqual(items.map(() => ({ ok: true, quarantined: [] })));
  expect(must(await readSite(iola, site))).toMatchObject({
    site: { name: 'Barn' },
    systems: [{ id: system, name: 'Gas' }],
    components: [{ id: component, kind: 'Boiler', serial: '12' }],
  });
});

describe('two people', () => {
  test('who change different fields from the same beginning both have their way', async () => {
    const before = await newSite();
    must(await keepChange(iola, changing('site', before, { name: 'Old mill' })));
    expect(must(await keepChange(wren, changing('site', before, { occupier: 'Potter' })))).toMatchObject({ is: 'changed', clashes: 0 });
    expect(await siteOf(before.id)).toMatchObject({ name: 'Old mill', occupier: 'Potter', version: 3 });
  });

  test('who change the same field are both kept; whoever knows chooses, once', async () => {
    const before = await newSite();
    must(await keepChange(iola, changing('site', before, { name: 'Old mill' })));
    for (let time = 0; time < 2; time += 1)
      expect(must(await keepChange(wren, changing('site', before, { name: 'New mill' })))).toMatchObject({ clashes: 1 - time });
    const open = async () => (await clashesOf(firmId)).filter(({ of }) => of === before.id);
    const [clash, ...more] = await open();
    expect(more).toEqual([]);
    expect(clash).toMatchObject({ field: 'name', other: 'New mill', author: wren.userId, siteId: before.id });
    expect(await settleClash(stranger, clash.id, 'other')).toMatchObject({ ok: false, status: 404 });
    expect(await settleClash(iola, clash.id, 'both')).toMatchObject({ ok: false, status: 400 });
    must(await settleClash(iola, clash.id, 'other'));
    expect(await siteOf(before.id)).toMatchObject({ name: 'New mill' });
    expect(await settleClash(iola, clash.id, 'stands')).toMatchObject({ ok: false, problem: { code: 'settled' } });
    expect(await open()).toEqual([]);
  });

  test('who change at the same moment lose nothing', async () => {
    const before = await newSite();
    const done = await Promise.all(
      Array.from({ length: 12 }, (_, index) => keepChange(index % 2 ? iola : wren, changing('site', before, { access: `Key ${index}` }))),
    );
    expect(done.map((one) => must(one).clashes).sort()).toEqual([0, ...Array.from({ length: 11 }, () => 1)]);
    const stands = (await siteOf(before.id)).access;
    const others = (await clashesOf(firmId)).filter(({ of }) => of === before.id).map(({ other }) => other);
    expect([stands, ...others].sort()).toEqual(Array.from({ length: 12 }, (_, index) => `Key ${index}`).sort());
  });
});

test('what is made at a site that was put together with another goes to the other', async () => {
  const [one, other] = [await newSite(), await newSite()];
  must(await keepChange(iola, changing('site', one, { mergedInto: other.id, putAway: true })));
  const system = randomUUID();
  expect(await send(iola, making('system', system, { siteId: one.id, name: 'Late', kind: 'water' }))).toMatchObject({ ok: true });
  expect(must(await readSite(iola, other.id)).systems).toMatchObject([{ id: system }]);
});

test('several changes are all done or none', async () => {
  const [first, second] = [randomUUID(), randomUUID()];
  const changes = [making('site', first, { name: 'A', address: 'B' }), making('system', second, { siteId: randomUUID(), name: 'Nowhere' })];
  const asked = { changes } as never;
  expect(await once(iola, randomUUID(), asked, () => keepChanges(iola, changes))).toMatchObject({ ok: false, status: 404 });
  expect(await readThing(iola, 'site', first)).toBeUndefined();
  for (const odd of [undefined, 'x', [], Array.from({ length: 201 }, () => changes[0])])
    expect(await keepChanges(iola, odd)).toMatchObject({ ok: false, status: 400 });
});

test('another firm’s things answer as things that are nowhere, and nothing is told of them', async () => {
  const mine = await newSite();
  const rename = (of: string) => keepChange(stranger, { thing: 'site', of, fields: { name: { was: 'Mill', is: 'Mine' } } });
  expect(await rename(mine.id)).toEqual(await rename(randomUUID()));
  const hang = (siteId: string) => makeThing(stranger, 'system', { siteId, name: 'x' });
  expect(await hang(mine.id)).toEqual(await hang(randomUUID()));
  expect(await makeThing(stranger, 'component', { systemId, kind: 'x' })).toMatchObject({ ok: false, status: 404 });
  expect(await readThing(stranger, 'site', mine.id)).toBeUndefined();
  // Made under an id that is another firm's: refused, and theirs stays.
  expect(await keepChange(stranger, making('site', mine.id, { name: 'Mine', address: 'x' }))).toMatchObject({ ok: false, status: 409 });
  expect(await siteOf(mine.id)).toMatchObject({ name: 'Mill' });
});
