import { procedures } from '@/core/procedures';
import { readLibrary, readProcedure } from './library';
import { publishOwnProcedure, setHouseRule } from './rules';
import { must, openTestFirm } from './test-firm.fixture';

let firm: Awaited<ReturnType<typeof openTestFirm>>;
beforeAll(async () => {
  firm = await openTestFirm('library');
});
afterAll(() => firm.close());

test('the library lists every procedure with the firm’s rules and own procedures, and nobody else’s', async () => {
  const { wren, iola, stranger } = firm;
  const base = 'gas-piping-psi';
  must(await setHouseRule(wren, { procedure: base, figure: 'floor-seconds', value: '3600', reference: 'House 5' }));
  must(
    await publishOwnProcedure(wren, {
      base,
      title: 'Quay piping',
      reference: 'QC 1',
      figures: [{ figure: 'floor-seconds', value: '5400' }],
    }),
  );
  const entries = await readLibrary(iola);
  expect(entries.map(({ view }) => view.id)).toEqual(procedures.map(({ id }) => id));
  expect(entries.find(({ view }) => view.id === base)).toMatchObject({ houseRules: 1, own: [{ title: 'Quay piping', version: '1' }] });
  const page = must(await readProcedure(iola, base));
  expect(page.view.figures.find(({ id }) => id === 'floor-seconds')).toMatchObject({ house: { value: '3600' } });
  expect(page.rules).toMatchObject([{ version: 1, setBy: wren.name }]);
  expect(page.own).toMatchObject([{ title: 'Quay piping', publishedBy: wren.name }]);
  expect(page.others.map(({ id }) => id)).toContain('domestic-gas-millibar');
  const theirs = must(await readProcedure(stranger, base));
  expect([theirs.rules, theirs.own]).toEqual([[], []]);
  expect((await readLibrary(stranger)).every(({ houseRules, own }) => houseRules === 0 && own.length === 0)).toBe(true);
});

test('a procedure that there is not is not found', async () => {
  expect(await readProcedure(firm.iola, 'guesswork')).toMatchObject({ ok: false, status: 404 });
});
