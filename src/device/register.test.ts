import { randomUUID } from 'node:crypto';
import { type Along, blank, changing, type History, type KnownInstrument, making, type Thing } from '@/core/register';
import { freshStore, person, serve } from './device.fixture';
import { flush } from './outbox';
import { keepCalibration, keepChanges, pin, putAlong, takeAlong } from './register';
import { type DeviceStore, deviceStore } from './store';

/* The register on a device: what was taken along, and on top of it what was done here and has not been sent. */

const siteOf = (said: Partial<Thing<'site'>> = {}): Thing<'site'> => ({
  ...blank.site,
  id: randomUUID(),
  version: 1,
  name: 'Mill',
  address: '1 Weir Lane',
  ...said,
});
const along = (said: Partial<Along> = {}): Along => ({
  epoch: 'one',
  since: '10',
  asOf: 1_795_000_000_000,
  person: { ...person },
  delivery: 'key',
  firm: { id: person.firmId, name: 'Firm', emergencyNumber: '0', demo: false },
  followUps: [],
  people: [],
  houseRules: [],
  ownProcedures: [],
  scope: (said.sites ?? []).map(({ id }) => id),
  sites: [],
  systems: [],
  components: [],
  equipment: [],
  visits: [],
  instruments: [],
  histories: [],
  clashes: [],
  settled: [],
  ...said,
});
const change = <K extends 'site'>(site: Thing<K>, said: Partial<Thing<K>>) => {
  const one = changing('site', site, said);
  if (one === undefined) throw new Error('no change');
  return one;
};
const waiting = async (store: DeviceStore) => (await store.outbox.toArray()).map(({ item }) => item);

test('what is changed without signal stands here at once, over what the server tells meanwhile, and is sent as it was done', async () => {
  const store = freshStore();
  const site = siteOf();
  await putAlong(store, along({ sites: [site] }));
  expect(await keepChanges(store, [change(site, { name: 'Old mill' })])).toBeUndefined();
  expect(await store.sites.get(site.id)).toMatchObject({ name: 'Old mill' });
  // The server has not heard of it, and somebody else changed another field.
  await putAlong(store, along({ sites: [{ ...site, occupier: 'Potter', version: 2 }] }));
  expect(await store.sites.get(site.id)).toMatchObject({ name: 'Old mill', occupier: 'Potter', version: 2 });
  const calls = serve(() => ({ body: { receipts: [{ ok: true, quarantined: [] }] } }));
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(calls[0].body).toMatchObject({
    items: [{ kind: 'change', change: { of: site.id, fields: { name: { was: 'Mill', is: 'Old mill' } } } }],
  });
});

test('what is wrong is said at its field; nothing of what belongs together is kept, nor sent', async () => {
  const store = freshStore();
  const [id, system] = [randomUUID(), randomUUID()];
  const problem = await keepChanges(store, [
    making('site', id, { name: 'Barn', address: '9 Field Way' }),
    making('system', system, { siteId: id, name: 'Gas', pipes: '22cu' }),
  ]);
  expect(problem).toMatchObject({ field: 'pipes' });
  expect(await store.sites.get(id)).toBeUndefined();
  expect(await waiting(store)).toEqual([]);
  expect(await keepChanges(store, [change(siteOf(), { name: 'x' })])).toMatchObject({ code: 'not-here' });
  expect(await keepChanges(store, [making('site', id, { name: 'a\0b', address: 'x' })])).toMatchObject({ code: 'form' });
});

test('a site that is no longer taken along goes with all that belongs to it, but not what was made here or is at work', async () => {
  const store = freshStore();
  const [gone, busy] = [siteOf(), siteOf()];
  const systems = [gone, busy].map((site) => ({ ...blank.system, id: randomUUID(), version: 1, siteId: site.id, name: 'Gas' }));
  const component = { ...blank.component, id: randomUUID(), version: 1, systemId: systems[0].id, kind: 'Boiler' };
  await putAlong(store, along({ sites: [gone, busy], systems, components: [component] }));
  await store.tests.add({ id: randomUUID(), systemId: systems[1].id, system: 'Gas', site: 'Mill' });
  const own = randomUUID();
  await keepChanges(store, [making('site', own, { name: 'Barn', address: '9 Field Way' })]);
  await putAlong(store, along({ scope: [] }));
  expect((await store.sites.toArray()).map(({ id }) => id).sort()).toEqual([busy.id, own].sort());
  expect((await store.systems.toArray()).map(({ id }) => id)).toEqual([systems[1].id]);
  expect((await store.lasts.toArray()).map(({ systemId }) => systemId)).toEqual([systems[1].id]);
  expect(await store.components.count()).toBe(0);
});

test('it says which sites it has and up to where, and those that are kept by hand before those that were only opened', async () => {
  const store = deviceStore(person);
  localStorage.setItem('vast-stone-person', JSON.stringify(person));
  const [one, two] = [siteOf(), siteOf()];
  await putAlong(store, along({ sites: [one, two] }));
  await pin(store, two.id, 'opened');
  await pin(store, one.id, 'hand');
  const calls = serve(() => ({ body: along({ scope: [one.id], since: '11' }) }));
  expect(await takeAlong()).toMatchObject({ since: '11', scope: [one.id] });
  expect(calls[0].body).toEqual({ epoch: 'one', since: '10', have: [one.id, two.id], pinned: [one.id, two.id] });
  expect(await store.sites.get(two.id)).toBeUndefined();
  serve(() => {
    throw new TypeError('no network');
  });
  expect(await takeAlong()).toBeUndefined();
  expect(await store.sites.get(one.id)).toMatchObject({ name: 'Mill' });
  await store.destroy();
});

test('an answer that was on its way while a change was taken does not undo it: it is asked for again', async () => {
  const store = deviceStore(person);
  localStorage.setItem('vast-stone-person', JSON.stringify(person));
  const site = siteOf();
  await putAlong(store, along({ sites: [site] }));
  const renamed = { ...site, name: 'Old mill', version: 2 };
  let asked = 0;
  serve(async ({ address }) => {
    if (!address.endsWith('/along')) return { body: { receipts: [{ ok: true, quarantined: [] }] } };
    asked += 1;
    if (asked > 1) return { body: along({ sites: [renamed] }) };
    // The server has looked at the site; before its answer arrives, the change is made, sent and taken.
    const old = along({ sites: [site] });
    await keepChanges(store, [change(site, { name: 'Old mill' })]);
    expect(await flush(store)).toEqual({ state: 'sent' });
    return { body: old };
  });
  const seen: (string | undefined)[] = [];
  const stop = store.onChange(async () => seen.push((await store.sites.get(site.id))?.name));
  expect(await takeAlong()).toBeDefined();
  stop();
  expect(asked).toBe(2);
  expect(await store.sites.get(site.id)).toMatchObject({ name: 'Old mill', version: 2 });
  // Not for a moment was it shown as it was before.
  expect(new Set(seen)).toEqual(new Set(['Old mill']));
  await store.destroy();
});

test('a calibration written down here counts here at once, and is sent with an id of its own', async () => {
  const store = freshStore();
  const id = randomUUID();
  await keepChanges(store, [making('instrument', id, { name: 'Own', readability: '0.1', rangeHigh: '10', serial: 'O-1' })]);
  expect(await store.instruments.get(id)).toMatchObject({ calibration: { needed: true, due: '0001-01-01' } });
  const said = { doneOn: '2026-01-05', dueOn: '2027-01-05', reference: 'C-1' };
  expect(await keepCalibration(store, id, { ...said, dueOn: '2025-01-05' })).toMatchObject({ field: 'dueOn' });
  expect(await keepCalibration(store, id, said)).toBeUndefined();
  const calibrated = { calibration: { needed: true, last: '2026-01-05', due: '2027-01-05' } };
  expect(await store.instruments.get(id)).toMatchObject(calibrated);
  // The server tells of the gauge as it knows it so far: the calibration on top of it stays.
  const known = (await store.instruments.get(id)) as KnownInstrument;
  await putAlong(
    store,
    along({ instruments: [{ ...known, calibrations: [], calibration: { needed: true, last: '0001-01-01', due: '0001-01-01' } }] }),
  );
  expect(await store.instruments.get(id)).toMatchObject(calibrated);
  expect((await waiting(store)).map(({ kind }) => kind)).toEqual(['change', 'calibration']);
});

test('when each system was last tested stands beside it: never at first, also of one made here, and never an older test', async () => {
  const store = freshStore();
  const site = siteOf();
  const system: Thing<'system'> = { ...blank.system, id: randomUUID(), version: 1, siteId: site.id, name: 'Gas' };
  const history = (test: string, at: number): History => ({
    test,
    systemId: system.id,
    verdict: 'pass',
    at,
    technician: '',
    attempts: 1,
    simulated: false,
  });
  const last = async (id = system.id) => (await store.lasts.get(id))?.at;
  await putAlong(store, along({ sites: [site], systems: [system] }));
  expect(await last()).toBe(0);
  const made = randomUUID();
  expect(await keepChanges(store, [making('system', made, { ...blank.system, siteId: site.id, name: 'Water' })])).toBeUndefined();
  expect(await last(made)).toBe(0);
  await putAlong(store, along({ sites: [site], systems: [system], histories: [history('new', 2000)] }));
  await putAlong(store, along({ sites: [site], systems: [system], histories: [history('old', 1000)] }));
  expect(await last()).toBe(2000);
});
