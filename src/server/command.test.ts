import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { withFirm } from '@/db/connection';
import { answer, refuse } from './answers';
import { at, now } from './clock';
import { forgetOldCommands, once } from './command';
import { listSites } from './sites';
import { must, openTestFirm } from './test-firm.fixture';
import { makeThing } from './things';

/* A command that is sent again is done once, and answers as it did. */

const { iola, wren, stranger, firmId, close } = await openTestFirm('commands');
afterAll(close);

/** As it reaches whoever asked. */
const sent = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
const named = async (name: string) => (await listSites(iola)).filter((site) => site.name === name);
const adding = (name: string) => () => makeThing(iola, 'site', { name, address: '1 Quay Road' });

test('again with the same id: the first answer, and nothing done', async () => {
  const id = randomUUID();
  const first = must(await once(iola, id, { name: 'One' }, adding('One')));
  const again = must(
    await once(iola, id, { name: 'One' }, () => {
      throw new Error('it was done twice');
    }),
  );
  expect(sent(again)).toEqual(sent(first));
  expect(await named('One')).toHaveLength(1);
});

test('twenty of one id at once are one', async () => {
  const id = randomUUID();
  const answers = await Promise.all(Array.from({ length: 20 }, () => once(iola, id, { name: 'Crowd' }, adding('Crowd'))));
  for (const one of answers) expect(sent(must(one))).toEqual(sent(must(answers[0])));
  expect(await named('Crowd')).toHaveLength(1);
});

test('the order of the words is no other content; another word is, and so is another person', async () => {
  const id = randomUUID();
  must(await once(iola, id, { a: 1, b: 2 }, adding('Order')));
  must(await once(iola, id, { b: 2, a: 1 }, adding('Order')));
  for (const [who, content] of [
    [iola, { a: 1, b: 3 }],
    [wren, { a: 1, b: 2 }],
  ] as const)
    expect(await once(who, id, content, adding('Order'))).toMatchObject({ ok: false, status: 409, problem: { code: 'command-differs' } });
  expect(await named('Order')).toHaveLength(1);
});

test('another firm’s command with the same id is its own', async () => {
  const id = randomUUID();
  must(await once(iola, id, {}, adding('Ours')));
  let done = 0;
  const own = await once(stranger, id, {}, async () => {
    done += 1;
    return answer(done);
  });
  expect([must(own), done]).toEqual([1, 1]);
});

test.each([
  ['refused', async () => refuse(400, 'no', 'No.')],
  [
    'broken off',
    () => {
      throw new Error('broken off');
    },
  ],
])('one that was %s has done nothing, what it did before that neither, and may be sent again', async (how, end) => {
  const id = randomUUID();
  const name = `Half ${how}`;
  await once(iola, id, { name }, async () => {
    must(await makeThing(iola, 'site', { name, address: 'x' }));
    return end();
  }).catch(() => undefined);
  expect(await named(name)).toEqual([]);
  must(await once(iola, id, { name }, adding(name)));
  expect(await named(name)).toHaveLength(1);
});

test('an answer is kept for two weeks', async () => {
  const id = randomUUID();
  must(await once(iola, id, {}, async () => answer('first')));
  const again = () => once(iola, id, {}, async () => answer('second'));
  const days = (count: number) => now() + count * 86_400_000;
  await at(days(13), () => forgetOldCommands(firmId));
  expect(must(await again())).toBe('first');
  await at(days(15), () => forgetOldCommands(firmId));
  expect(must(await again())).toBe('second');
});

test('what opens something is answered once, and stands nowhere for a retry', async () => {
  const id = randomUUID();
  const ask = () => once(wren, id, { make: 'a key' }, async () => answer({ token: 'the-secret-itself' }), true);
  expect(await ask()).toEqual({ ok: true, value: { token: 'the-secret-itself' } });
  expect(await ask()).toMatchObject({ ok: false, status: 409, problem: { code: 'told-once' } });
  const { rows } = await withFirm(firmId, (tx) => tx.execute(sql`select c::text as row from command c`));
  expect(rows.length).toBeGreaterThan(0);
  expect(JSON.stringify(rows)).not.toContain('the-secret-itself');
});
