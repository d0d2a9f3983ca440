import fc from 'fast-check';
import { faultOf, formulaFault, guessColumns, readSheetRow, sameAs, sheetColumns, sheetKinds } from '.';

/* Tables that people keep elsewhere: their heads, their cells, and what no cell may be. */

describe('which column is which', () => {
  test('headed as the register heads them, all are found in any order', () => {
    for (const kind of sheetKinds) {
      const labels = sheetColumns[kind].map(({ label }) => label).reverse();
      const found = guessColumns(kind, labels);
      for (const { field, label } of sheetColumns[kind]) expect([field, found[field]]).toEqual([field, labels.indexOf(label)]);
    }
  });
  test('as people head them; one column stands for one field, and what nobody knows for none', () => {
    expect(guessColumns('component', ['Customer site', 'Installation', 'APPLIANCE', 'Manufacturer', 'Serial no', 'Colour'])).toEqual({
      system: 1,
      kind: 2,
      make: 3,
      serial: 4,
    });
    const both = guessColumns('instrument', ['Gauge', 'Type', 'Units', 'Min', 'Max', 'Resolution', 'SN', 'Calibration due']);
    expect(both).toMatchObject({ name: 0, kind: 1, unit: 2, rangeLow: 3, rangeHigh: 4, readability: 5, serial: 6, dueOn: 7 });
    expect(both.doneOn).toBeUndefined();
    const taken = Object.values(guessColumns('site', ['Name', 'name', 'Address'])).filter((at) => at !== undefined);
    expect(new Set(taken).size).toBe(taken.length);
  });
});

describe('cells', () => {
  test.each(['=SUM(A1:A4)', '=1+1', '@cell', '+A1+B2', '-SUM(C3)', '+B7', '=HYPERLINK("http://x")'])(
    '%s is a formula and no value',
    (text) => {
      expect(formulaFault(text)).toContain('formula');
      expect(readSheetRow('site', { name: text, address: 'x' })).toMatchObject({ problem: { field: 'name' } });
    },
  );
  test.each(['-10', '+44 0000 555', '-0,5', 'Mill - north', 'a=b', '', '- none -'])('%s is a value', (text) => {
    expect(formulaFault(text)).toBeUndefined();
  });
  test('what was written out as text, with the mark against formulas, comes back as it was', () => {
    expect(readSheetRow('site', { name: "'=1+1", address: "'-10 Weir Lane" })).toMatchObject({
      row: { said: { name: '=1+1', address: '-10 Weir Lane' } },
    });
  });
  const gauge = { name: 'Van 4', kind: 'Dial', unit: 'mbar', readability: '0,5', rangeLow: '-10', rangeHigh: '1 000', serial: 'S-1' };
  test('a figure with a comma or spaces; a gauge by the word of the trade; a calibration has both days', () => {
    const read = readSheetRow('instrument', { ...gauge, doneOn: '2026-01-02', dueOn: '2027-01-02', reference: 'C-1' });
    expect(read).toMatchObject({
      row: {
        said: { kind: 'needle', readability: '0.5', rangeLow: '-10', rangeHigh: '1000' },
        calibration: { doneOn: '2026-01-02', dueOn: '2027-01-02', reference: 'C-1' },
      },
    });
    if ('row' in read) expect(faultOf('instrument', read.row.said)).toBeUndefined();
    expect(readSheetRow('instrument', { ...gauge, dueOn: '2027-01-02' })).toMatchObject({ problem: { field: 'doneOn' } });
  });
  test.each([
    ['readability', '0.1 mbar'],
    ['rangeHigh', '1.000,5'],
    ['rangeHigh', '1,000'],
    ['kind', 'gizmo'],
    ['doneOn', '02/01/2026'],
    ['calibrationNeeded', 'perhaps'],
    ['serial', ' '],
  ])('%s “%s” is said at its cell', (field, text) => {
    expect(readSheetRow('instrument', { ...gauge, [field]: text })).toMatchObject({ problem: { field } });
  });
  test('nothing is taken for granted that sets a limit: a gauge needs its calibration unless the table says that it is none that drifts', () => {
    const read = readSheetRow('instrument', gauge);
    if (!('row' in read)) throw new Error(read.problem.message);
    expect(read.row.said).toMatchObject({ calibrationNeeded: true, simulated: false });
    const lax = readSheetRow('instrument', { ...gauge, calibrationNeeded: 'no' });
    if (!('row' in lax)) throw new Error(lax.problem.message);
    expect(faultOf('instrument', lax.row.said)).toMatchObject({ field: 'calibrationNeeded' });
  });
  test('kinds of systems by the names of the trade, and none that is not one', () => {
    for (const [text, kind] of [
      ['Natural gas', 'gas'],
      ['LPG', 'propane'],
      ['Underfloor heating', 'heating'],
      ['drains', 'drain'],
      ['WATER MAIN', 'water main'],
    ])
      expect(readSheetRow('system', { site: 'a', name: 'b', kind: text })).toMatchObject({ row: { said: { kind } } });
    expect(readSheetRow('system', { site: 'a', name: 'b', kind: 'electric' })).toMatchObject({ problem: { field: 'kind' } });
  });
});

test('the same again is known, however it is spelt', () => {
  expect(sameAs('site', { name: ' Mill ', address: 'ÉCLUSE 1' })).toBe(sameAs('site', { name: 'mill', address: 'ecluse 1' }));
  expect(sameAs('instrument', { name: 'Van', serial: 'a' })).not.toBe(sameAs('instrument', { name: 'Van', serial: 'b' }));
});

describe('whatever a table says', () => {
  const kind = fc.constantFrom(...sheetKinds);
  const cell = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 30 }),
    fc.constantFrom('', ' ', '=1', '@x', '+44 (0) 55', '-10', '1,000', '0,5', '2026-12-02', 'mbar', 'Pass', 'yes', 'needle', 'gas', "'=x"),
  );
  const row = kind.chain((one) =>
    fc.tuple(fc.constant(one), fc.record(Object.fromEntries(sheetColumns[one].map(({ field }) => [field, cell])), { requiredKeys: [] })),
  );

  test('each row is a thing or a fault at one of its own columns, in words', () => {
    fc.assert(
      fc.property(row, ([one, cells]) => {
        const read = readSheetRow(one, cells as Record<string, string>);
        if ('problem' in read) {
          expect(sheetColumns[one].map(({ field }) => field)).toContain(read.problem.field);
          expect(read.problem.message.length).toBeGreaterThan(8);
        } else
          for (const { field, needed } of sheetColumns[one])
            if (needed === true) expect(String((cells as Record<string, string>)[field] ?? '').trim()).not.toBe('');
      }),
    );
  });

  test('no formula becomes a value', () => {
    fc.assert(
      fc.property(row, fc.nat(), fc.constantFrom('=A1', '=SUM(B2:B9)', '@now', '+C3*2', '-MAX(D4)'), ([one, cells], at, formula) => {
        const { field } = sheetColumns[one][at % sheetColumns[one].length];
        const read = readSheetRow(one, { ...(cells as Record<string, string>), [field]: formula });
        expect('problem' in read).toBe(true);
      }),
    );
  });

  test('a good gauge comes back with the figures that were written, point or comma', () => {
    const figures = fc.tuple(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 0, max: 3 }), fc.constantFrom('.', ','));
    fc.assert(
      fc.property(figures, fc.constantFrom('mbar', 'psi', 'bar', 'Pa'), ([whole, decimals, sign], unit) => {
        const plainFigure = (whole / 10 ** decimals).toFixed(decimals);
        const typed = plainFigure.replace('.', sign);
        const read = readSheetRow('instrument', {
          name: 'g',
          kind: 'digital',
          unit,
          readability: typed,
          rangeLow: '0',
          rangeHigh: '9999',
          serial: 's',
        });
        // One to 999 with three decimals and a comma might be thousands: that is asked.
        const isAsked = sign === ',' && decimals === 3 && !plainFigure.startsWith('0');
        expect('problem' in read).toBe(isAsked);
        if ('row' in read) expect(read.row.said).toMatchObject({ readability: plainFigure, unit });
      }),
    );
  });

  test('however the columns lie, each is found once and none twice', () => {
    fc.assert(
      fc.property(
        kind.chain((one) =>
          fc.tuple(
            fc.constant(one),
            fc.shuffledSubarray(sheetColumns[one].map(({ label }) => label)),
            fc.array(fc.string({ maxLength: 12 }), { maxLength: 4 }),
          ),
        ),
        ([one, labels, others]) => {
          const header = [...labels, ...others.map((text) => `~${text}`)];
          const found = guessColumns(one, header);
          for (const { field, label } of sheetColumns[one]) if (labels.includes(label)) expect(found[field]).toBe(header.indexOf(label));
          const places = Object.values(found).filter((at) => at !== undefined);
          expect(new Set(places).size).toBe(places.length);
        },
      ),
    );
  });
});

describe('units of gauges', () => {
  const gauge = (unit: string) =>
    readSheetRow('instrument', { name: 'g', kind: 'digital', unit, readability: '1', rangeLow: '0', rangeHigh: '9', serial: 's' });
  test.each([
    ['PSI', 'psi'],
    ['Bar', 'bar'],
    ['in WC', 'inH2O'],
    ['kpa', 'kPa'],
    ['bars', 'bar'],
  ])('%s is %s', (typed, unit) => expect(gauge(typed)).toMatchObject({ row: { said: { unit } } }));
  test.each(['mPa', 'Mbar', 'stone', 'pound'])('%s is asked about', (typed) =>
    expect(gauge(typed)).toMatchObject({ problem: { field: 'unit' } }),
  );
});
