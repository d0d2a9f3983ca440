import { withFirm } from '@/db/connection';
import { calibration, component, instrument, site, system } from '@/db/schema';
import { takeSheet } from './sheets';
import { must, openTestFirm } from './test-firm.fixture';

/* Tables of sites, systems, components and gauges, taken into the register row by row. */

const bench = await openTestFirm('sheets');
const { iola, stranger, firmId } = bench;
afterAll(() => bench.close());

const states = async (kind: string, rows: readonly Readonly<Record<string, string>>[], keep = false) =>
  must(await takeSheet(iola, { kind, rows, keep }));

const sites = [
  { name: 'Weir mill', address: '1 Weir Lane' },
  { name: 'Weir mill', address: '2 Weir Lane' },
  { name: 'weir MILL', address: '1 weir lane ' },
  { name: '', address: 'somewhere' },
  { name: '=A1', address: 'somewhere' },
  { name: 'Site', address: 'Somewhere 1' },
];

test('looked at, nothing is made; taken, each good row is, and what is wrong stops no other', async () => {
  const looked = await states('site', sites);
  expect(looked.map(({ is }) => is)).toEqual(['ready', 'ready', 'stands', 'wrong', 'wrong', 'stands']);
  expect(await withFirm(firmId, (tx) => tx.select().from(site))).toHaveLength(1);
  const taken = await states('site', sites, true);
  expect(taken.map(({ is }) => is)).toEqual(['made', 'made', 'stands', 'wrong', 'wrong', 'stands']);
  // The same table again makes nothing twice.
  expect((await states('site', sites, true)).map(({ is }) => is)).toEqual(['stands', 'stands', 'stands', 'wrong', 'wrong', 'stands']);
  expect(await withFirm(firmId, (tx) => tx.select().from(site))).toHaveLength(3);
});

test('a system hangs on its site by name, and by address where two have that name', async () => {
  const rows: readonly Readonly<Record<string, string>>[] = [
    { site: 'Weir mill', name: 'Gas', kind: 'gas' },
    { site: 'Weir mill', siteAddress: '2 Weir Lane', name: 'Gas', kind: 'gas', pipes: '22cu 12' },
    { site: 'Weir mill', siteAddress: '9 Weir Lane', name: 'Gas', kind: 'gas' },
    { site: 'Nowhere', name: 'Gas', kind: 'gas' },
    { site: 'Site', name: 'Gas', kind: 'gas' },
    { site: 'Site', name: 'Water', kind: 'water', pipes: 'twelve elbows' },
  ];
  const found = await states('system', rows, true);
  expect(found.map(({ is, field }) => [is, field])).toEqual([
    ['wrong', 'siteAddress'],
    ['made', undefined],
    ['wrong', 'siteAddress'],
    ['wrong', 'site'],
    ['stands', undefined],
    ['wrong', 'pipes'],
  ]);
  const kept = await withFirm(firmId, (tx) => tx.select().from(system));
  expect(kept.map(({ pipes }) => pipes)).toContain('22cu 12');
});

test('components hang on a system of that site; gauges come with their calibration', async () => {
  const parts = await states(
    'component',
    [
      { site: 'Site', system: 'gas', kind: 'Fire', make: 'Emberly', serial: '77' },
      { site: 'Site', system: 'Steam', kind: 'Fire' },
      { site: 'Site', system: 'Gas', kind: 'Fire', make: 'EMBERLY', serial: '77' },
      { site: 'Site', system: 'Gas', kind: 'Cooker', fitted: '2026-02-30' },
    ],
    true,
  );
  expect(parts.map(({ is, field }) => [is, field])).toEqual([
    ['made', undefined],
    ['wrong', 'system'],
    ['stands', undefined],
    ['wrong', 'fitted'],
  ]);
  expect(await withFirm(firmId, (tx) => tx.select().from(component))).toHaveLength(3);
  const gauge = { name: 'Van 9', kind: 'digital', unit: 'mbar', readability: '0.01', rangeLow: '-10', rangeHigh: '150', serial: 'V-9' };
  const dates = { doneOn: '2026-01-02', dueOn: '2027-01-02', reference: 'C-9' };
  const gauges = await states(
    'instrument',
    [
      { ...gauge, ...dates },
      { ...gauge, serial: 'V-10', unit: 'stone' },
      { ...gauge, serial: 'V-11', ...dates, doneOn: '2999-01-01', dueOn: '3000-01-01' },
      { ...gauge, serial: 'V-12', ...dates, reference: '' },
    ],
    true,
  );
  expect(gauges.map(({ is, field }) => [is, field])).toEqual([
    ['made', undefined],
    ['wrong', 'unit'],
    ['wrong', 'doneOn'],
    ['wrong', 'reference'],
  ]);
  const [kept] = await withFirm(firmId, (tx) => tx.select().from(instrument)).then((all) => all.filter(({ serial }) => serial === 'V-9'));
  expect(kept).toMatchObject({ rangeHigh: '150', calibrationNeeded: true, simulated: false });
  const dated = await withFirm(firmId, (tx) => tx.select().from(calibration));
  expect(dated.filter(({ instrumentId }) => instrumentId === kept.id)).toMatchObject([dates]);
});

test('another firm’s sites are nobody’s here; what is no table is refused', async () => {
  expect(must(await takeSheet(stranger, { kind: 'system', rows: [{ site: 'Weir mill', name: 'Gas', kind: 'gas' }] }))).toMatchObject([
    { is: 'wrong', field: 'site' },
  ]);
  for (const rows of [undefined, 'x', [1], [{ name: 5 }], Array.from({ length: 501 }, () => ({ name: 'a', address: 'b' }))])
    expect(await takeSheet(iola, { kind: 'site', rows })).toMatchObject({ ok: false, status: 400 });
  expect(await takeSheet(iola, { kind: 'visit', rows: [] })).toMatchObject({ ok: false, status: 400 });
});
