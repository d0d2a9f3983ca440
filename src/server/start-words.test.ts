import { execFile, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/* What the two commands say when the machine is not as it should be: a clear line each, and no further damage. */

const stubs = mkdtempSync(join(tmpdir(), 'vast-stone-stubs-'));
const state = mkdtempSync(join(tmpdir(), 'vast-stone-state-'));

function stub(name: string, script: string): void {
  writeFileSync(join(stubs, name), `#!/bin/sh\n${script}\n`);
  chmodSync(join(stubs, name), 0o755);
}

const shell = (script: string): Promise<{ code: number; said: string }> =>
  new Promise((resolve) => {
    execFile(
      'bash',
      ['-c', `ROOT=$PWD; . ops/prepare.sh; STATE='${state}'; ${script}`],
      { env: { ...process.env, PATH: `${stubs}:${process.env.PATH}` } },
      (failure, out, error) => resolve({ code: failure === null ? 0 : Number(failure.code), said: `${out}${error}` }),
    );
  });

test('a port that is taken', async () => {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  const said = await new Promise<string>((resolve) => {
    const child = spawn('./start', [], { env: { ...process.env, PORT: String(port) } });
    let text = '';
    child.stderr.on('data', (part) => {
      text += part;
    });
    child.on('close', (code) => resolve(`${code} ${text}`));
  });
  server.close();
  expect(said).toMatch(new RegExp(`^1 .*port ${port} is in use by another program`));
});

test('an option that is not known', async () => {
  const said = await new Promise<string>((resolve) => execFile('./start', ['--quick'], (_, __, error) => resolve(error)));
  expect(said).toContain('unknown option --quick');
});

test('a full disk', async () => {
  stub('df', 'echo head; echo "x 100 99 1 99% /"');
  expect(await shell('need_space / 300')).toMatchObject({
    code: 1,
    said: expect.stringMatching(/has 1 MB free; at least 300 MB are needed/),
  });
  stub('df', 'echo head; echo "x 100 0 9000 1% /"');
  expect(await shell('need_space / 300')).toMatchObject({ code: 0 });
});

test('apt that reaches nothing, as root; no right to install, as anyone else', async () => {
  stub('apt-get', 'echo "could not resolve" >&2; exit 100');
  stub('id', 'echo 0');
  expect(await shell('apt_install postgresql')).toMatchObject({
    code: 1,
    said: expect.stringMatching(/apt could not install postgresql \(no package source reached\?\)/),
  });
  stub('id', 'echo 1000');
  expect(await shell('apt_install postgresql')).toMatchObject({
    code: 1,
    said: expect.stringContaining('Run once as root: apt-get install postgresql'),
  });
});

test('the database goes on while another start of this checkout uses it, and stops with the last', async () => {
  const stop = (other: string) =>
    shell(
      `DB_STARTED=1; DBUSERS=$(mktemp -d); : >"$DBUSERS/$$"; : >"$DBUSERS/${other}"; as_database() { : >"$DBUSERS/stopped"; }; PGBIN=x DBDIR=y; stop_cluster; ls "$DBUSERS"`,
    );
  expect((await stop(String(process.pid))).said.trim()).toBe(String(process.pid));
  expect((await stop('999999999')).said.trim()).toBe('stopped');
});

test('a Node that is too old, or absent', async () => {
  stub('node', '[ "$1" = --version ] && echo v18.0.0 && exit 0; exit 1');
  expect(await shell('need_node')).toMatchObject({ code: 1, said: expect.stringContaining('v18.0.0 is too old') });
});
