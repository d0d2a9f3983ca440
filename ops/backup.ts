import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pack, unpack } from './archive';
import { count, databases, exists, type Manifest, program, superuser } from './installation';

/** Writes the installation into one encrypted file, reads that file again, and only then gives it its name. */
const [file] = process.argv.slice(2);
const {
  VAST_HOME: home = '',
  PGBIN: bin = '',
  DBSOCKET: socket = '',
  DBPORT: port = '',
  VAST_BACKUP_PASSPHRASE: passphrase = '',
} = process.env;

/** One database's dump and its counts, both of the same moment, whoever writes meanwhile. */
async function dump(name: string, directory: string) {
  const client = await superuser(name);
  try {
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query<{ id: string }>('select pg_export_snapshot() as id');
    const counted = await count(client, name);
    const done = spawnSync(
      join(bin, 'pg_dump'),
      ['-h', socket, '-p', port, '-U', 'postgres', '-Fc', '--snapshot', rows[0].id, '-f', join(directory, `${name}.dump`), name],
      { stdio: ['ignore', 'ignore', 'inherit'] },
    );
    if (done.status !== 0) throw new Error(`pg_dump of ${name} ended with ${done.status}`);
    return counted;
  } finally {
    await client.end();
  }
}

const work = mkdtempSync(join(home, 'backup.making-'));
try {
  const there = [];
  for (const name of databases) if (await exists(name)) there.push(name);
  if (there.length === 0) throw new Error('this installation has no database yet; start it once');
  const counted = [];
  for (const name of there) counted.push(await dump(name, work));
  const roles = spawnSync(
    join(bin, 'pg_dumpall'),
    ['-h', socket, '-p', port, '-U', 'postgres', '--roles-only', '-f', join(work, 'roles.sql')],
    {
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
  if (roles.status !== 0) throw new Error(`pg_dumpall ended with ${roles.status}`);
  copyFileSync(join(home, 'secrets.env'), join(work, 'secrets.env'));
  const manifest: Manifest = { madeAt: new Date().toISOString(), program: program(), databases: counted };
  writeFileSync(join(work, 'manifest.json'), JSON.stringify(manifest, null, 1));
  const part = `${file}.part`;
  rmSync(part, { force: true });
  await pack(work, part, passphrase);
  // A backup that nobody has read again is a hope.
  const again = join(work, 'again');
  mkdirSync(again);
  await unpack(part, again, passphrase);
  renameSync(part, file);
  for (const { name, rows, seal } of counted)
    console.log(
      `${name}: ${Object.values(rows).reduce((sum, one) => sum + one, 0)} rows in ${Object.keys(rows).length} tables${seal === undefined ? '' : `, newest seal ${seal.slice(0, 16)}…`}`,
    );
  console.log(`Written and read again: ${file}. Keep its passphrase elsewhere.`);
} catch (error) {
  rmSync(`${file}.part`, { force: true });
  console.error(`Vast Stone: ${(error as Error).message}`);
  process.exitCode = 1;
} finally {
  rmSync(work, { recursive: true, force: true });
}
