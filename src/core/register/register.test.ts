import fc from 'fast-check';
import {
  blank,
  type Change,
  changing,
  componentFrom,
  componentText,
  faultOf,
  fittedOn,
  isCalendarDay,
  isFound,
  looksLike,
  making,
  ratedText,
  readChange,
  type Said,
  searchWords,
  type Thing,
  take,
  thingKinds,
} from '.';

/* What a firm keeps, and what becomes of it when two people change it. */

const id = '00000000-0000-4000-8000-000000000001';
const site: Said<'site'> = { ...blank.site, name: 'Mill', address: '1 Weir Lane', occupier: 'Baker' };
const kept: Thing<'site'> = { ...site, id, version: 3 };
const saidOf = (change: Change<'site'>, now: Said<'site'> | undefined) => {
  const taken = take(change, now);
  if (taken.is === 'unknown' || taken.is === 'refused') throw new Error(JSON.stringify(taken));
  return taken;
};

describe('a change', () => {
  test('makes a thing, and a second time changes nothing', () => {
    const made = making('site', id, site);
    expect(saidOf(made, undefined)).toEqual({ is: 'made', said: site, clashes: [] });
    expect(saidOf(made, site)).toEqual({ is: 'as it was', said: site, clashes: [] });
  });

  test('of a field that nobody else touched is taken, whatever else was changed meanwhile', () => {
    const change = changing('site', kept, { name: 'Old mill' });
    expect(change).toEqual({ thing: 'site', of: id, fields: { name: { was: 'Mill', is: 'Old mill' } } });
    expect(saidOf(change as Change<'site'>, { ...site, occupier: 'Potter' })).toEqual({
      is: 'changed',
      said: { ...site, name: 'Old mill', occupier: 'Potter' },
      clashes: [],
    });
  });

  test('of a field that somebody else has changed leaves theirs, and tells the other', () => {
    const change = changing('site', kept, { name: 'Old mill' }) as Change<'site'>;
    expect(saidOf(change, { ...site, name: 'New mill' })).toEqual({
      is: 'as it was',
      said: { ...site, name: 'New mill' },
      clashes: [{ field: 'name', stands: 'New mill', other: 'Old mill' }],
    });
    // Both wrote the same: nothing to choose.
    expect(saidOf(change, { ...site, name: 'Old mill' })).toMatchObject({ is: 'as it was', clashes: [] });
  });

  test('of what is not there is unknown, and of nothing is none', () => {
    const change = changing('site', kept, { name: 'Old mill' }) as Change<'site'>;
    expect(take(change, undefined)).toEqual({ is: 'unknown' });
    expect(changing('site', kept, { name: 'Mill' })).toBeUndefined();
  });

  test('that leaves a thing wrong is refused at its field, and nothing of it is taken', () => {
    const change = changing('site', kept, { name: '  ', occupier: 'Potter' }) as Change<'site'>;
    expect(take(change, site)).toMatchObject({ is: 'refused', problem: { field: 'name' } });
  });

  test('two people’s changes, in whatever order they come, leave each field as one of the two wrote it, and lose nothing', () => {
    const fields = ['name', 'address', 'occupier', 'access'] as const;
    const word = fc.constantFrom('a', 'b', 'c');
    const edit = fc.dictionary(fc.constantFrom(...fields), word, { minKeys: 1 });
    fc.assert(
      fc.property(edit, edit, (one, two) => {
        const changes = [one, two].map((said) => changing('site', kept, said as Partial<Said<'site'>>));
        for (const [first, second] of [
          [changes[0], changes[1]],
          [changes[1], changes[0]],
        ]) {
          const after = first === undefined ? site : saidOf(first, site).said;
          const last = second === undefined ? { said: after, clashes: [] } : saidOf(second, after);
          for (const field of fields) {
            const wanted = [one[field], two[field]].filter((value) => value !== undefined && value !== site[field]);
            const told = last.clashes.filter((clash) => clash.field === field).map(({ other }) => other);
            expect(wanted.length === 0 ? [site[field]] : wanted).toContain(last.said[field]);
            for (const value of wanted) expect([last.said[field], ...told]).toContain(value);
          }
        }
      }),
    );
  });

  test.each([
    ['nothing', undefined],
    ['no kind', { thing: 'boat', of: id, fields: { name: { is: 'x' } } }],
    ['a prototype’s word', { thing: 'toString', of: id, fields: { name: { is: 'x' } } }],
    ['no id', { thing: 'site', of: '1', fields: { name: { is: 'x' } } }],
    ['a field that is none', { thing: 'site', of: id, fields: { colour: { is: 'x' } } }],
    ['nothing that it is to be', { thing: 'site', of: id, fields: { name: {} } }],
    ['what can be no part of it', { thing: 'site', of: id, fields: { putAway: { was: false, is: 1.5 } } }],
    ['no fields', { thing: 'site', of: id, fields: {} }],
    ['a list of fields', { thing: 'site', of: id, fields: [] }],
  ])('%s cannot be read', (_, input) => expect(readChange(input)).toMatchObject({ ok: false }));

  test('as it was made it is read', () => {
    const change = making('site', id, site);
    expect(readChange(JSON.parse(JSON.stringify(change)))).toEqual({ ok: true, value: change });
  });
});

describe('what is wrong with a thing', () => {
  const system: Said<'system'> = { ...blank.system, siteId: id, name: 'Gas' };
  const component: Said<'component'> = { ...blank.component, systemId: id, kind: 'Boiler' };
  const instrument: Said<'instrument'> = { ...blank.instrument, name: 'G', readability: '0.1', rangeHigh: '100', serial: 'S' };
  const visit: Said<'visit'> = { ...blank.visit, siteId: id, on: '2026-02-28' };
  test.each([
    ['site', site],
    ['system', system],
    ['component', component],
    ['instrument', instrument],
    ['visit', visit],
    ['equipment', { ...blank.equipment, name: '4 in ball', rating: '45 psi' }],
  ] as const)('nothing, of a sound %s', (kind, said) => expect(faultOf(kind, said)).toBeUndefined());

  test.each([
    ['site', { ...site, address: '' }, 'address'],
    ['site', { ...site, name: 'x'.repeat(121) }, 'name'],
    ['site', { ...site, name: 'half \ud83d' }, 'name'],
    ['system', { ...system, pipes: '22cu' }, 'pipes'],
    ['system', { ...system, statedVolume: 'big' }, 'statedVolume'],
    ['system', { ...system, kind: '' }, 'kind'],
    [
      'system',
      {
        ...system,
        sections: [
          { id: 'a', name: 'A' },
          { id: 'b', name: 'a', parent: 'a' },
        ],
      },
      'name',
    ],
    ['component', { ...component, rating: '6' }, 'rating'],
    ['component', { ...component, rating: 'strong' }, 'rating'],
    ['component', { ...component, height: 'high' }, 'height'],
    ['component', { ...component, fitted: '2026-02-31' }, 'fitted'],
    ['component', { ...component, fitted: '2026-03-01', removed: '2026-02-01' }, 'removed'],
    ['instrument', { ...instrument, readability: '0' }, 'readability'],
    ['instrument', { ...instrument, rangeHigh: '-5' }, 'rangeHigh'],
    ['instrument', { ...instrument, unit: 'parsec' }, 'unit'],
    ['visit', { ...visit, on: '2026-02-29' }, 'on'],
    ['visit', { ...visit, on: '' }, 'on'],
  ] as const)('of a %s stands at its field', (kind, said, field) => expect(faultOf(kind, said)).toMatchObject({ field }));

  test.each(thingKinds)('of a %s that is no such thing is said, whatever it is', (kind) => {
    for (const odd of [undefined, null, 5, 'x', [], { name: { toString: 1 } }, { ...blank[kind], putAway: 'yes' }])
      expect(faultOf(kind, odd)?.message).toMatch(/\.$/);
  });

  test('a date of the calendar is one', () => {
    for (const day of ['1970-01-01', '2024-02-29', '2026-12-31', '2000-02-29']) expect([day, isCalendarDay(day)]).toEqual([day, true]);
    for (const day of ['2026-02-29', '1900-02-29', '2026-13-01', '2026-00-10', '2026-04-31', 'today', ''])
      expect([day, isCalendarDay(day)]).toEqual([day, false]);
  });
});

describe('components', () => {
  test.each([
    ['Boiler Vello 24, serial KB-2207', { kind: 'Boiler Vello 24', serial: 'KB-2207', rating: '', height: '' }],
    ['Hydrant 250psi -6ft', { kind: 'Hydrant', rating: '250psi', height: '-6ft' }],
    ['Radiator, 10 bar, +3 m', { kind: 'Radiator', rating: '10 bar', height: '+3 m' }],
    ['Hob, four burners', { kind: 'Hob, four burners', rating: '', serial: '' }],
    ['Manifold 6bar serial 12', { kind: 'Manifold', rating: '6bar', serial: '12' }],
    ['  Cooker ', { kind: 'Cooker' }],
  ])('%s is read as people write it', (line, said) => expect(componentFrom(line)).toMatchObject(said));

  test('are said in one line, and with what they may see where that is known', () => {
    const one = { ...blank.component, kind: 'Hydrant', make: 'Ostra', model: '4', serial: '12', rating: '250 psi', height: '-6 ft' };
    expect(componentText(one)).toBe('Hydrant Ostra 4, serial 12');
    expect(ratedText(one)).toBe('Hydrant Ostra 4 250 psi -6 ft');
    expect(ratedText({ ...one, rating: '' })).toBeUndefined();
  });

  test('are there from when they were fitted until they were removed', () => {
    const of = (fitted: string, removed: string, putAway = false) => ({ fitted, removed, putAway });
    const all = [of('', ''), of('2026-02-01', ''), of('', '2026-02-01'), of('2026-03-01', ''), of('', '', true)];
    expect(fittedOn(all, '2026-02-01')).toEqual([all[0], all[1]]);
    expect(fittedOn(all, '2026-01-31')).toEqual([all[0], all[2]]);
  });
});

test('two sites look like one where the address is the same, however it is written, and nobody has said that they are two', () => {
  const one: Thing<'site'> = { ...blank.site, id: 'a', version: 1, name: 'Slab Annex', address: '4b Old Slipway, Brinehaven' };
  const other = { ...one, id: 'b', name: 'Annexe', address: '4B Old slipway Brinehaven' };
  expect(looksLike(one, other)).toBe(true);
  expect(looksLike(one, one)).toBe(false);
  expect(looksLike(one, { ...other, address: '4 Old Slipway, Brinehaven' })).toBe(false);
  expect(looksLike(one, { ...other, name: 'Slab annex', address: '4b Old Slipway' })).toBe(true);
  expect(looksLike(one, { ...other, apartFrom: ['a'] })).toBe(false);
  expect(looksLike({ ...one, apartFrom: ['b'] }, other)).toBe(false);
  expect(looksLike(one, { ...other, putAway: true })).toBe(false);
});

test('a search wants every word, in any order; accents and case do not count', () => {
  expect(isFound(searchWords('slip  CAFÉ'), 'Café at the Old Slipway')).toBe(true);
  expect(isFound(searchWords('slip tea'), 'Café at the Old Slipway')).toBe(false);
  expect(isFound(searchWords('   '), 'anything')).toBe(true);
  expect(searchWords('x'.repeat(10_000))[0]).toHaveLength(200);
});

test('what drifts is calibrated: only a column, a rule, a vessel or a dial needs none, and none of those but a column shows a pressure', () => {
  const gauge = {
    ...blank.instrument,
    name: 'Gauge',
    unit: 'mbar',
    readability: '0.01',
    rangeLow: '0',
    rangeHigh: '100',
    serial: '1',
  } as const;
  const faultsOf = (said: object) => [faultOf('instrument', { ...gauge, ...said })?.field].filter((field) => field !== undefined);
  expect(faultsOf({ kind: 'digital', calibrationNeeded: true })).toEqual([]);
  expect(faultsOf({ kind: 'digital', calibrationNeeded: false })).toEqual(['calibrationNeeded']);
  expect(faultsOf({ kind: 'needle', calibrationNeeded: false })).toEqual(['calibrationNeeded']);
  expect(faultsOf({ kind: 'digital', calibrationNeeded: false, simulated: true })).toEqual([]);
  expect(faultsOf({ kind: 'liquid', calibrationNeeded: false })).toEqual([]);
  expect(faultsOf({ kind: 'scale', unit: 'mm', calibrationNeeded: false })).toEqual([]);
  expect(faultsOf({ kind: 'scale', calibrationNeeded: false })).toEqual(['kind']);
});
