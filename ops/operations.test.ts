import { cpSync, existsSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { making } from '@/core/register';
import { installation, root, type Started } from './installation.fixture';

/*
 * docs/operations.md, followed: every command of its blocks is run in its order, in a home of its own, and what the page says of it
 * is waited for. A command that the page names and this test does not know fails.
 */

const { place, home, start, close, ...commandLine } = installation('operations');
const restored = join(place, 'restored');
const backup = join(place, 'vast-stone.vsb');
afterAll(close, 60_000);

const page = readFileSync(join(root, 'docs', 'operations.md'), 'utf8');
/** The page's commands in order. */
const commands = [...page.matchAll(/```sh\n([\s\S]*?)```/g)].flatMap(([, block]) => block.trim().split('\n'));

/** A line of the page, on this test's own places. */
const run = (line: string, more: Record<string, string> = {}) =>
  commandLine.run(line.replaceAll('/srv/vast-stone-restored', restored).replaceAll('/var/backups/', `${place}/`), more);

/** A session's cookie. */
async function enter(port: number, email: string, password: string): Promise<{ readonly status: number; readonly cookie: string }> {
  const response = await fetch(`http://127.0.0.1:${port}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password }),
  });
  return {
    status: response.status,
    cookie: response.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; '),
  };
}

async function sites(port: number, cookie: string): Promise<string> {
  const response = await fetch(`http://127.0.0.1:${port}/api/field/search?words=quay`, { headers: { cookie } });
  const found = (await response.json()) as readonly { readonly site: { readonly name: string }; readonly systems: readonly string[] }[];
  return found.map(({ site, systems }) => `${site.name}: ${systems.join()}`).join();
}

async function post(port: number, cookie: string, address: string, body: unknown) {
  const response = await fetch(`http://127.0.0.1:${port}${address}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie, 'command-id': crypto.randomUUID() },
    body: JSON.stringify(body),
  });
  return (await response.json()) as { readonly id: string };
}

const health = async (port: number) => {
  const response = await fetch(`http://127.0.0.1:${port}/api/health`);
  return { status: response.status, ...((await response.json()) as { ready: boolean; faults: readonly string[] }) };
};

/** Commands of the page that have been run. */
const done = new Set<string>();
const step = (line: string): string => {
  if (!commands.includes(line)) throw new Error(`the page has no command “${line}”`);
  done.add(line);
  return line;
};

let server: Started;
let supervisor = { email: '', password: '' };

test('the first start makes an installation, says once who signs in, and what is entered stays', async () => {
  step('./start --empty');
  server = await start();
  const [, email, password] = /Sign in as (\S+) with the password (\S+) \(shown only now\)/.exec(server.said()) ?? [];
  supervisor = { email, password };
  expect(statSync(join(home, 'secrets.env')).mode & 0o77).toBe(0);
  const { status, cookie } = await enter(server.port, email, password);
  expect(status).toBe(200);
  const [siteId, systemId] = [crypto.randomUUID(), crypto.randomUUID()];
  const changes = [
    making('site', siteId, { name: 'Quay Mill', address: '1 Quay Road' }),
    making('system', systemId, { siteId, name: 'Gas', pipes: '22cu 6' }),
    making('component', crypto.randomUUID(), { systemId, kind: 'Boiler' }),
  ];
  await post(server.port, cookie, '/api/things', { changes });
  expect(await sites(server.port, cookie)).toBe('Quay Mill: Gas');
}, 120_000);

test('a second start shares the database; on the same port it says so; the demo is refused for other addresses', async () => {
  const second = await start();
  expect(second.said()).toContain('sharing it');
  const { cookie } = await enter(second.port, supervisor.email, supervisor.password);
  expect(await sites(second.port, cookie)).toBe('Quay Mill: Gas');
  await second.end();
  expect(await health(server.port)).toMatchObject({ status: 200 });
  expect(await start({ PORT: String(server.port) })).toMatchObject({ code: 1 });
  const demo = await start({ VAST_ADDRESS: 'https://tests.example' }, []);
  expect([demo.code, demo.said()]).toEqual([1, expect.stringContaining('offered on this machine only')]);
}, 120_000);

test('people', async () => {
  const ann = await run(step('./operate add-person ann@firm.example technician "Ann Example"'));
  const [, first] = /with the password (\S+) /.exec(ann.said) ?? [];
  expect((await enter(server.port, 'ann@firm.example', first)).status).toBe(200);
  expect((await run('./operate add-person ann@firm.example technician "Ann Example"')).said).toContain('has an account already');
  expect((await run('./operate add-person bad technician "X"')).code).toBe(1);
  expect((await run(step('./operate people'))).said).toMatch(/ann@firm.example\s+Ann Example\s+technician\s+New firm/);
  const [, second] = /with the password (\S+) /.exec((await run(step('./operate password ann@firm.example'))).said) ?? [];
  expect((await enter(server.port, 'ann@firm.example', first)).status).toBe(403);
  const open = await enter(server.port, 'ann@firm.example', second);
  expect(open.status).toBe(200);
  expect((await run(step('./operate end-sessions ann@firm.example'))).said).toMatch(/1 sessions of Ann Example ended/);
  // A process that knew the session forgets it within seconds.
  await expect(
    (async () => {
      for (let look = 0; look < 40; look += 1) {
        const { status } = await fetch(`http://127.0.0.1:${server.port}/api/field/search?words=quay`, { headers: { cookie: open.cookie } });
        if (status === 401) return 'signed out';
        await new Promise((resolve) => setTimeout(resolve, 250));
      }
      return 'still in';
    })(),
  ).resolves.toBe('signed out');
  expect((await run(step('./operate devices ann@firm.example'))).said).toContain('node');
  expect((await run(step('./operate put-away ann@firm.example'))).said).toContain('put away');
  expect((await enter(server.port, 'ann@firm.example', second)).status).toBe(403);
  expect((await run('./operate put-away nobody@firm.example')).code).toBe(1);
}, 120_000);

test('a firm’s data out as a file, and in nowhere but into an empty firm', async () => {
  const file = join(place, 'firm.zip');
  expect(await run(step('./operate export /var/backups/firm.zip'))).toMatchObject({
    code: 0,
    said: expect.stringMatching(/New firm: [\d.]+ MB in /),
  });
  expect(readFileSync(file).subarray(0, 2).toString()).toBe('PK');
  expect(await run('./operate export /var/backups/firm.zip')).toMatchObject({ code: 1, said: expect.stringContaining('is there already') });
  expect(await run(step('./operate import /var/backups/firm.zip'))).toMatchObject({
    code: 1,
    said: expect.stringContaining('has data of its own'),
  });
  expect((await run('./operate import /var/backups/none.zip')).code).toBe(1);
}, 120_000);

test('backup while it runs, and restore into an empty place, never over an installation; both say how much there is', async () => {
  const line = step('VAST_BACKUP_PASSPHRASE="a long passphrase of your own" ./backup /var/backups/vast-stone.vsb');
  const made = await run(line);
  expect(made).toMatchObject({ code: 0, said: expect.stringMatching(/vast_stone: \d+ rows in \d+ tables/) });
  const whole = readFileSync(backup);
  for (const secret of ['VAST_SEAL_SECRET', 'Quay Mill', 'scram-sha-256']) expect(whole.includes(secret)).toBe(false);
  expect((await run(line)).said).toContain('is there already');
  expect((await run('VAST_BACKUP_PASSPHRASE=short ./backup /var/backups/vast-stone.vsb2')).said).toContain('at least 12 characters');

  const over = 'VAST_BACKUP_PASSPHRASE="a long passphrase of your own" ./restore /var/backups/vast-stone.vsb';
  expect(await run(over)).toMatchObject({ code: 1, said: expect.stringContaining('never restored over one') });
  const back = step(`VAST_HOME=/srv/vast-stone-restored ${over}`);
  expect((await run(back.replace('a long', 'another'))).said).toContain('not the one that this backup was made with');
  writeFileSync(`${backup}.cut`, whole.subarray(0, whole.length - 4000));
  expect((await run(`VAST_HOME=/srv/vast-stone-restored ${over}`.replace('.vsb', '.vsb.cut'))).said).toContain('changed or cut short');
  expect(existsSync(join(restored, 'database'))).toBe(false);

  // Restored by a program that is newer than the backup: brought up to date on the way.
  const newer = join(place, 'migrations');
  cpSync(join(root, 'src', 'db', 'migrations'), newer, { recursive: true });
  const journal = JSON.parse(readFileSync(join(newer, 'meta', '_journal.json'), 'utf8')) as {
    entries: { idx: number; when: number; tag: string }[];
  };
  const last = journal.entries[journal.entries.length - 1];
  journal.entries.push({ ...last, idx: last.idx + 1, when: last.when + 1000, tag: '9999_newer' });
  writeFileSync(join(newer, 'meta', '_journal.json'), JSON.stringify(journal));
  writeFileSync(join(newer, '9999_newer.sql'), 'ALTER TABLE public.site ADD COLUMN later text;');
  expect(await run(back, { VAST_MIGRATIONS: newer })).toMatchObject({
    code: 0,
    said: expect.stringMatching(/\d+ rows, as many as in the backup/),
  });
  // And this program, which is older than what it finds now, leaves it alone.
  const older = await start({ VAST_HOME: restored });
  expect([older.code, older.said()]).toEqual([1, expect.stringContaining('newer version of the program')]);
  const again = await start({ VAST_HOME: restored, VAST_MIGRATIONS: newer });
  const { cookie } = await enter(again.port, supervisor.email, supervisor.password);
  expect(await sites(again.port, cookie)).toBe('Quay Mill: Gas');
  await again.end();
}, 240_000);

test('another checkout at another place is the same installation: an upgrade loses nothing', async () => {
  await server.end();
  server = await start();
  expect(server.said()).not.toContain('shown only now');
  const { cookie } = await enter(server.port, supervisor.email, supervisor.password);
  expect(await sites(server.port, cookie)).toBe('Quay Mill: Gas');
}, 120_000);

test('keys: one live at any moment; a revoked one is revoked alone', async () => {
  const before = /^([0-9a-f-]{36}) /m.exec((await run(step('./operate keys'))).said)?.[1] ?? '';
  step('./operate rotate-key');
  await Promise.all([1, 2, 3].map(() => run('./operate rotate-key')));
  const rows = (await run('./operate keys')).said.split('\n').filter((line) => /^[0-9a-f-]{36}/.test(line));
  expect(rows).toHaveLength(4);
  // Made and not retired: a line with one date alone.
  expect(rows.filter((line) => (line.match(/\d{4}-\d\d-\d\d/g) ?? []).length === 1)).toHaveLength(1);
  const revoked = await run(step('./operate revoke-key KEY').replace('KEY', before));
  expect(revoked.said).toContain(`Key ${before} of New firm is revoked.`);
  expect((await run('./operate revoke-key 00000000-0000-4000-8000-000000000000')).code).toBe(1);
}, 120_000);

test('lost secrets are a refusal that says how to bring them back, and so are another’s', async () => {
  await server.end();
  const secrets = join(home, 'secrets.env');
  renameSync(secrets, join(place, 'kept.env'));
  const without = await start();
  expect([without.code, without.said()]).toEqual([1, expect.stringMatching(/its secrets are not: .*\.\/restore --secrets FILE/)]);
  const others = readFileSync(join(place, 'kept.env'), 'utf8').replace(
    /VAST_SEAL_SECRET=.*/,
    `VAST_SEAL_SECRET=${Buffer.from(Array.from({ length: 32 }, (_, index) => index)).toString('base64')}`,
  );
  writeFileSync(secrets, others, { mode: 0o600 });
  const wrong = await start();
  expect([wrong.code, wrong.said()]).toEqual([1, expect.stringContaining('not those that this database was made with')]);
  rmSync(secrets);
  const back = await run(step('VAST_BACKUP_PASSPHRASE="a long passphrase of your own" ./restore --secrets /var/backups/vast-stone.vsb'));
  expect(back).toMatchObject({ code: 0, said: expect.stringContaining('The secrets are back') });
  renameSync(join(home, 'database'), join(place, 'kept-database'));
  const noDatabase = await start();
  expect([noDatabase.code, noDatabase.said()]).toEqual([1, expect.stringContaining('Bring it back with ./restore FILE')]);
  renameSync(join(place, 'kept-database'), join(home, 'database'));
  server = await start();
  expect(await health(server.port)).toMatchObject({ status: 200, ready: true, faults: [] });
}, 240_000);

test('a full disk: no start, and no health; with room again both', async () => {
  await server.end();
  const full = await start({ VAST_LEAST_FREE_MB: '999999999' });
  expect([full.code, full.said()]).toEqual([1, expect.stringMatching(/MB free; at least 999999999 MB are needed/)]);
  server = await start();
  expect((await health(server.port)).ready).toBe(true);
}, 120_000);

test('every command of the page was run', () => expect(commands.filter((line) => !done.has(line))).toEqual([]));
