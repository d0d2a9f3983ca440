import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { planFor } from '@/core/simulation/examples.fixture';
import {
  houseRuleHistory,
  liftHouseRule,
  listHouseRules,
  listOwnProcedures,
  ownProcedureHistory,
  publishOwnProcedure,
  setHouseRule,
  withdrawOwnProcedure,
} from './rules';
import { must, openTestFirm } from './test-firm.fixture';

let firm: Awaited<ReturnType<typeof openTestFirm>>;
beforeAll(async () => {
  firm = await openTestFirm('rules');
});
afterAll(() => firm.close());

const rule = { procedure: 'domestic-gas-millibar', figure: 'hold-seconds', value: '180', reference: 'House practice' };
const own = {
  base: 'domestic-gas-millibar',
  title: 'Lindqvay domestic',
  reference: 'LC 7',
  figures: [{ figure: 'hold-seconds', value: '300' }],
};

describe('house rules', () => {
  test('a supervisor sets one, and again; the last stands, and both are kept with who set them', async () => {
    const { wren, iola } = firm;
    expect(must(await setHouseRule(wren, rule))).toEqual({ version: 1 });
    expect(must(await setHouseRule(wren, { ...rule, value: '240' }))).toEqual({ version: 2 });
    expect((await listHouseRules(iola.firmId)).filter(({ figure }) => figure === 'hold-seconds')).toEqual([{ ...rule, value: '240' }]);
    const kept = (await houseRuleHistory(wren.firmId)).filter(({ figure }) => figure === 'hold-seconds');
    expect(kept.map(({ version, value, setBy }) => [version, value, setBy])).toEqual([
      [2, '240', wren.name],
      [1, '180', wren.name],
    ]);
  });
  test('lifted, the procedure’s own figure holds again; set anew, it is the next version', async () => {
    const { wren } = firm;
    const settle = { ...rule, figure: 'settle-seconds', value: '90' };
    must(await setHouseRule(wren, settle));
    expect(await liftHouseRule(wren, { ...settle, reference: ' ' })).toMatchObject({ ok: false, problem: { field: 'reference' } });
    must(await liftHouseRule(wren, { ...settle, reference: 'No longer asked for' }));
    expect((await listHouseRules(wren.firmId)).filter(({ figure }) => figure === 'settle-seconds')).toEqual([]);
    expect(await liftHouseRule(wren, settle)).toMatchObject({ ok: false, status: 404 });
    expect(must(await setHouseRule(wren, settle))).toEqual({ version: 3 });
  });
  test.each([
    ['looser than the procedure', { ...rule, value: '60' }, 'house-rule-looser'],
    ['of no procedure', { ...rule, procedure: 'guesswork' }, 'procedure-unknown'],
    ['for no figure', { ...rule, figure: 'luck' }, 'house-rule-unknown'],
    ['without a reason', { ...rule, reference: ' ' }, 'house-rule-reference'],
    ['under which nothing could pass', { ...rule, figure: 'perceptible-liquid', value: '0' }, 'house-rule-senseless'],
    ['that is no figure', { ...rule, value: 'long' }, 'house-rule-value'],
    ['that is empty', {}, 'form'],
  ])('one %s is refused in words', async (_, wrong, code) => {
    const result = await setHouseRule(firm.wren, wrong);
    expect(result).toMatchObject({ ok: false, status: 400, problem: { code } });
    if (!result.ok) expect(result.problem.message.length).toBeGreaterThan(10);
  });
  test('technicians set none, and see none of another firm’s', async () => {
    expect(await setHouseRule(firm.iola, rule)).toMatchObject({ ok: false, status: 403 });
    expect(await liftHouseRule(firm.iola, rule)).toMatchObject({ ok: false, status: 403 });
    expect(await listHouseRules(firm.stranger.firmId)).toEqual([]);
  });
});

describe('own procedures', () => {
  test('published, changed and withdrawn by version; a plan made under the first stays as it was', async () => {
    const { wren, iola } = firm;
    const { id } = must(await publishOwnProcedure(wren, own));
    const [first] = await listOwnProcedures(wren.firmId);
    expect(first).toEqual({ ...own, id, version: '1' });
    const before = planFor({ variant: first });
    expect(must(await publishOwnProcedure(wren, { ...own, id, figures: [{ figure: 'hold-seconds', value: '600' }] }))).toEqual({
      id,
      version: 2,
    });
    expect(await listOwnProcedures(iola.firmId)).toEqual([
      { ...own, id, version: '2', figures: [{ figure: 'hold-seconds', value: '600' }] },
    ]);
    expect(before.phases.find((phase) => phase.id === 'hold')).toMatchObject({ seconds: 300 });
    must(await withdrawOwnProcedure(wren, id));
    expect(await listOwnProcedures(wren.firmId)).toEqual([]);
    expect(await withdrawOwnProcedure(wren, id)).toMatchObject({ ok: false, status: 404 });
    expect((await ownProcedureHistory(wren.firmId)).map(({ version, withdrawn }) => [version, withdrawn])).toEqual([
      ['3', true],
      ['2', false],
      ['1', false],
    ]);
  });
  test.each([
    ['looser than is safe', { ...own, figures: [{ figure: 'hold-seconds', value: '60' }] }, 'variant-looser', 'hold-seconds'],
    ['that changes nothing', { ...own, figures: [] }, 'variant-same', undefined],
    ['without a title', { ...own, title: ' ' }, 'variant-title', 'title'],
    ['without its code', { ...own, reference: '' }, 'variant-reference', 'reference'],
    ['of no procedure', { ...own, base: 'guesswork' }, 'procedure-unknown', undefined],
    ['with a figure of words', { ...own, figures: [{ figure: 'hold-seconds', value: 'long' }] }, 'variant-value', 'hold-seconds'],
    ['with a title too long', { ...own, title: 'x'.repeat(81) }, 'form', 'title'],
  ])('one %s is refused at its field', async (_, wrong, code, field) => {
    const result = await publishOwnProcedure(firm.wren, wrong);
    expect(result).toMatchObject({ ok: false, status: 400, problem: { code } });
    if (!result.ok) expect(result.problem.field).toBe(field);
  });
  test('technicians publish none; another firm can neither see nor change one', async () => {
    const { wren, iola, stranger } = firm;
    const { id } = must(await publishOwnProcedure(wren, own));
    expect(await publishOwnProcedure(iola, own)).toMatchObject({ ok: false, status: 403 });
    expect(await withdrawOwnProcedure(iola, id)).toMatchObject({ ok: false, status: 403 });
    expect(await listOwnProcedures(stranger.firmId)).toEqual([]);
    expect(await publishOwnProcedure(stranger, { ...own, id })).toMatchObject({ ok: false, status: 404 });
    expect(await publishOwnProcedure(wren, { ...own, id: randomUUID() })).toMatchObject({ ok: false, status: 404 });
    expect(
      await publishOwnProcedure(wren, { ...own, id, base: 'gas-piping-psi', figures: [{ figure: 'floor-seconds', value: '1800' }] }),
    ).toMatchObject({ ok: false, problem: { code: 'variant-base' } });
  });
  test('two supervisors at once: each gets a version of its own, or is told to look again', async () => {
    const { wren } = firm;
    const { id } = must(await publishOwnProcedure(wren, own));
    const results = await Promise.all(Array.from({ length: 6 }, () => publishOwnProcedure(wren, { ...own, id })));
    const versions = results.flatMap((one) => (one.ok ? [one.value.version] : []));
    expect(new Set(versions).size).toBe(versions.length);
    for (const one of results) if (!one.ok) expect(one).toMatchObject({ status: 409, problem: { code: 'changed-meanwhile' } });
  });
});

test('no version can be changed or deleted, by the application or by the owner', async () => {
  must(await setHouseRule(firm.wren, { ...rule, value: '300' }));
  const client = new Client({ connectionString: process.env.VAST_DATABASE_URL });
  await client.connect();
  await client.query(`select set_config('app.firm_id', '${firm.wren.firmId}', false)`);
  for (const statement of [
    "update house_rule set value = '1'",
    'delete from house_rule',
    "update own_procedure set title = 'x'",
    'delete from own_procedure',
  ])
    await expect(client.query(statement)).rejects.toThrow(/permission denied|append-only/);
  await client.end();
});
