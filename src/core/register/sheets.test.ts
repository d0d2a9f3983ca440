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
