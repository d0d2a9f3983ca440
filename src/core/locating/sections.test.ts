import fc from 'fast-check';
import { systemKinds } from '../procedures/procedure';
import { likelihoods, subtree } from './likelihood';
import { firstSections, rowOf, type Section, type SectionRow, sectionFaults, sectionsOf, without } from './sections';

/* A system's parts as somebody on site writes them down. */

const rows = firstSections('gas', ['Hob', 'Boiler']).map(rowOf);
const changed = (id: string, part: Partial<SectionRow>): readonly SectionRow[] =>
  rows.map((row) => (row.id === id ? { ...row, ...part } : row));
const faultsOf = (list: readonly SectionRow[]) => sectionFaults(list).map(({ row, field }) => [row, field]);

test.each(systemKinds)('what a system of kind %s begins with has no fault, and comes back from its rows as it was', (kind) => {
  const sections = firstSections(kind, ['One', 'Two']);
  expect(sectionFaults(sections.map(rowOf))).toEqual([]);
  expect(sectionsOf(sections.map(rowOf))).toEqual(sections);
});

test('a name is asked for, kept short, and stands once, whatever its case', () => {
  expect(faultsOf(changed('branch-1', { name: '  ' }))).toEqual([['branch-1', 'name']]);
  expect(faultsOf(changed('branch-1', { name: 'x'.repeat(81) }))).toEqual([['branch-1', 'name']]);
  expect(sectionFaults(changed('branch-2', { name: ' hob ' }))).toEqual([
    { row: 'branch-2', field: 'name', message: 'Another section is called hob too; name them apart.' },
  ]);
});

test.each([
  ['joints', '500', '501'],
  ['age', '200', '201'],
  ['minutes', '600', '601'],
] as const)('%s is a whole number up to %s, or nothing', (field, most, over) => {
  for (const right of ['', ' ', '0', most, ` ${most} `]) expect(faultsOf(changed('branch-1', { [field]: right }))).toEqual([]);
  for (const wrong of [over, '-1', '1.5', '1,5', 'six', '1e2'])
    expect(faultsOf(changed('branch-1', { [field]: wrong }))).toEqual([['branch-1', field]]);
});

test('every section leads back to the supply: not to itself, not in a ring, not to one that is gone', () => {
  expect(faultsOf(changed('branch-1', { parent: 'branch-1' }))).toEqual([['branch-1', 'parent']]);
  expect(faultsOf(changed('branch-1', { parent: 'nowhere' }))).toEqual([['branch-1', 'parent']]);
  const ring = changed('pipework', { parent: 'branch-1' });
  expect(faultsOf(ring)).toEqual([
    ['pipework', 'parent'],
    ['branch-1', 'parent'],
    ['branch-2', 'parent'],
  ]);
  const { parent: _, ...loose } = rows[2];
  expect(faultsOf([...rows.slice(0, 2), loose])).toEqual([['branch-1', 'parent']]);
  expect(faultsOf(changed('valve', { parent: 'pipework' }))[0]).toEqual(['valve', 'parent']);
});

test('no sections at all, and too many, are said', () => {
  expect(sectionFaults([])[0].message).toMatch(/at least the section/);
  const many = Array.from(
    { length: 41 },
    (_, index): SectionRow => ({ ...rowOf({ id: `s${index}`, name: `S ${index}` }), ...(index === 0 ? {} : { parent: 's0' }) }),
  );
  expect(sectionFaults(many)).toEqual([expect.objectContaining({ message: expect.stringContaining('40 sections') })]);
  expect(sectionFaults(many.slice(0, 40))).toEqual([]);
});

test('one that is taken away leaves what hung on it to what it hung on; the supply stays', () => {
  const left = without(rows, 'pipework');
  expect(left.map(({ id, parent }) => [id, parent])).toEqual([
    ['valve', undefined],
    ['branch-1', 'valve'],
    ['branch-2', 'valve'],
  ]);
  expect(without(rows, 'valve')).toBe(rows);
  expect(without(rows, 'nowhere')).toBe(rows);
});

const trees = fc
  .array(
    fc.record({ hangs: fc.nat(), joints: fc.integer({ min: 0, max: 500 }), age: fc.integer({ min: 0, max: 200 }), hidden: fc.boolean() }),
    { minLength: 1, maxLength: 12 },
  )
  .map((list) =>
    list.map(
      ({ hangs, joints, age, hidden }, index): Section => ({
        id: `s${index}`,
        name: `Section ${index}`,
        joints,
        age,
        ...(hidden ? { hidden } : {}),
        ...(index === 0 ? {} : { parent: `s${hangs % index}` }),
      }),
    ),
  );

test('any tree comes through its rows unchanged; taking a section away keeps the rest one tree', () => {
  fc.assert(
    fc.property(trees, fc.nat(), (sections, place) => {
      const typed = sections.map(rowOf);
      expect(sectionFaults(typed)).toEqual([]);
      expect(sectionsOf(typed)).toEqual(sections);
      expect(sectionFaults(without(typed, sections[place % sections.length].id))).toEqual([]);
    }),
  );
});

test('more joints, more years or hidden: likelier; the whole always adds up to one', () => {
  fc.assert(
    fc.property(trees, fc.nat(), (sections, place) => {
      const { id } = sections[place % sections.length];
      const before = likelihoods(sections, [], []);
      expect([...before.values()].reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
      const worse = sections.map((one) =>
        one.id === id ? { ...one, joints: (one.joints ?? 0) + 5, age: (one.age ?? 0) + 10, hidden: true } : one,
      );
      if (sections.length > 1) expect(likelihoods(worse, [], []).get(id)).toBeGreaterThan(before.get(id) ?? 1);
      // What is shut off with the root is everything.
      expect(subtree(sections, 's0').size).toBe(sections.length);
    }),
  );
});
