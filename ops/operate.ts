import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { Client } from 'pg';
import { isRole, roles } from '@/core/permissions';
import { fingerprint } from '@/core/record';
import { closeConnections } from '@/db/connection';
import { stopAnnouncing } from '@/server/announce';
import { accountOf, addPerson, devicesOf, endSessions, listAccounts, putAway, revokeDevice, setPassword } from '@/server/auth';
import { forgetOldCommands } from '@/server/command';
import { ExchangeFault, readExport, unsealedWords, writeExport } from '@/server/exchange';
import { listKeys, revokeKey, rotateKey } from '@/server/keys';
import { forgetOldTries } from '@/server/sign-in';
import { rebuild } from '@/server/standing';

/* What whoever runs an installation does to it. Every command says what it did; a fault ends with 1 and changes nothing. */

class Wrong extends Error {}
const wrong = (message: string): never => {
  throw new Wrong(message);
};

const when = (at: Date | null): string => (at === null ? '' : at.toISOString().slice(0, 16).replace('T', ' '));
const table = (rows: readonly (readonly string[])[]): void => {
  const widths = rows[0]?.map((_, column) => Math.max(...rows.map((row) => row[column].length))) ?? [];
  for (const row of rows)
    console.log(
      row
        .map((cell, column) => cell.padEnd(widths[column]))
        .join('  ')
        .trimEnd(),
    );
};

async function firms(): Promise<readonly { readonly id: string; readonly name: string }[]> {
  const client = new Client({ connectionString: process.env.VAST_OWNER_DATABASE_URL });
  await client.connect();
  try {
    return (await drizzle(client).execute<{ id: string; name: string }>(sql`select id, name from firm order by name`)).rows;
  } finally {
    await client.end();
  }
}

/** The firm named by id or name, or the only one. */
async function firmNamed(name: string | undefined) {
  const all = await firms();
  const found = name === undefined ? all : all.filter((one) => one.id === name || one.name === name);
  if (found.length === 1) return found[0];
  return wrong(
    found.length === 0
      ? `There is no firm “${name}”. There are: ${all.map((one) => one.name).join(', ')}.`
      : `There are several firms; name one: ${all.map((one) => one.name).join(', ')}.`,
  );
}

const account = async (email: string | undefined) =>
  (email === undefined ? undefined : await accountOf(email)) ??
  wrong(`There is no account “${email ?? ''}”. “./operate people” lists them.`);

/** A password that is made here and shown once. */
const newPassword = (): string => randomBytes(12).toString('base64url');

interface Command {
  readonly usage: string;
  readonly does: string;
  readonly run: (args: readonly (string | undefined)[]) => Promise<void>;
}

const commands: Readonly<Record<string, Command>> = {
  people: {
    usage: 'people',
    does: 'lists the accounts',
    run: async () => {
      const all = await firms();
      table([
        ['e-mail', 'name', 'role', 'firm', 'put away'],
        ...(await listAccounts()).map((one) => [
          one.email,
          one.name,
          one.role,
          all.find(({ id }) => id === one.firmId)?.name ?? one.firmId,
          when(one.putAwayAt),
        ]),
      ]);
    },
  },
  'add-person': {
    usage: 'add-person E-MAIL ROLE "NAME" [FIRM]',
    does: `adds an account and prints its password once; a role is one of ${roles.join(', ')}`,
    run: async ([email, role, name, firm]) => {
      if (email === undefined || !/^[^\s@]+@[^\s@]+$/.test(email) || email.length > 254) wrong('Give an e-mail address.');
      if (!isRole(role)) return wrong(`The role must be one of ${roles.join(', ')}.`);
      if (name === undefined || name.trim() === '' || name.length > 120) return wrong('Give the name, in quotes, under 120 characters.');
      if ((await accountOf(email ?? '')) !== undefined) wrong(`${email} has an account already.`);
      const { id, name: firmName } = await firmNamed(firm);
      const password = newPassword();
      await addPerson({ firmId: id, email: email ?? '', role, name: name.trim(), password });
      console.log(`${name.trim()} of ${firmName} signs in as ${email} with the password ${password} (shown only now).`);
    },
  },
  'put-away': {
    usage: 'put-away E-MAIL',
    does: 'lets a person sign in no more; what they wrote stays theirs',
    run: async ([email]) => {
      const one = await account(email);
      await putAway(one);
      console.log(`${one.name} is put away and signed out everywhere.`);
    },
  },
  password: {
    usage: 'password E-MAIL',
    does: 'sets a new password, prints it once, and signs the person out',
    run: async ([email]) => {
      const one = await account(email);
      const password = newPassword();
      await setPassword(one.id, password);
      console.log(`${one.name} signs in as ${one.email} with the password ${password} (shown only now).`);
    },
  },
  'end-sessions': {
    usage: 'end-sessions E-MAIL',
    does: 'signs a person out everywhere, within seconds',
    run: async ([email]) => {
      const one = await account(email);
      console.log(`${await endSessions(one.id)} sessions of ${one.name} ended.`);
    },
  },
  devices: {
    usage: 'devices E-MAIL',
    does: 'lists what a person has signed in from',
    run: async ([email]) => {
      const one = await account(email);
      table([
        ['device', 'last used', 'revoked', 'program'],
        ...(await devicesOf(one.id)).map((device) => [device.id.slice(0, 16), when(device.seenAt), when(device.revokedAt), device.name]),
      ]);
    },
  },
  'revoke-device': {
    usage: 'revoke-device E-MAIL DEVICE',
    does: 'signs a lost device out; from then on it is a stranger’s',
    run: async ([email, start]) => {
      const one = await account(email);
      const found = (await devicesOf(one.id)).filter(({ id }) => start !== undefined && start.length >= 8 && id.startsWith(start));
      if (found.length !== 1) wrong(`There is no such device of ${one.name}. “./operate devices ${one.email}” lists them.`);
      await revokeDevice(one.id, found[0].id);
      console.log(`Device ${found[0].id.slice(0, 16)} of ${one.name} is revoked.`);
    },
  },
  keys: {
    usage: 'keys [FIRM]',
    does: 'lists a firm’s sealing keys',
    run: async ([firm]) => {
      const { id } = await firmNamed(firm);
      table([
        ['key', 'fingerprint', 'made', 'retired', 'revoked'],
        ...(await listKeys(id)).map((key) => [
          key.id,
          fingerprint(key.publicKey),
          when(key.createdAt),
          when(key.retiredAt),
          when(key.revokedAt),
        ]),
      ]);
    },
  },
  'rotate-key': {
    usage: 'rotate-key [FIRM]',
    does: 'makes a new sealing key; seals of the one before stay genuine',
    run: async ([firm]) => {
      const { id, name } = await firmNamed(firm);
      console.log(`${name} seals with key ${await rotateKey(id)} from now on.`);
    },
  },
  'revoke-key': {
    usage: 'revoke-key KEY [FIRM]',
    does: 'takes one key out of trust: seals made with it show as such, and no other’s',
    run: async ([key, firm]) => {
      const { id, name } = await firmNamed(firm);
      if (key === undefined || !/^[0-9a-f-]{36}$/.test(key) || !(await revokeKey(id, key)))
        wrong(`${name} has no key “${key ?? ''}”. “./operate keys” lists them.`);
      const live = (await listKeys(id)).some(({ retiredAt }) => retiredAt === null);
      console.log(
        `Key ${key} of ${name} is revoked.${live ? '' : ' Nothing can be sealed until there is a new one: ./operate rotate-key.'}`,
      );
    },
  },
  export: {
    usage: 'export FILE [FIRM]',
    does: 'writes all of a firm’s data into a zip of open files',
    run: async ([file, firm]) => {
      if (file === undefined || existsSync(file)) return wrong(file === undefined ? 'Name the file.' : `${file} is there already.`);
      const { id, name } = await firmNamed(firm);
      const { bytes, sealed } = await writeExport(id, file, true, () => undefined);
      console.log(`${name}: ${(bytes / 1e6).toFixed(1)} MB in ${file}.${sealed ? '' : ` ${unsealedWords}`}`);
    },
  },
  import: {
    usage: 'import FILE [FIRM]',
    does: 'takes such a file into a firm that is empty yet',
    run: async ([file, firm]) => {
      if (file === undefined || !existsSync(file)) return wrong(`There is no file “${file ?? ''}”.`);
      const { id } = await firmNamed(firm);
      try {
        for (const line of await readExport(id, file, () => undefined)) console.log(line);
      } catch (error) {
        if (error instanceof ExchangeFault) return wrong(error.message);
        throw error;
      } finally {
        stopAnnouncing();
      }
    },
  },
  rebuild: {
    usage: 'rebuild',
    does: 'makes the rows that lists read again, from plans and events',
    run: async () => {
      for (const { id, name } of await firms()) console.log(`${name}: ${await rebuild(id)} tests.`);
      stopAnnouncing();
    },
  },
  tidy: {
    usage: 'tidy',
    does: 'forgets tries at signing in and answers to commands that nobody needs any more',
    run: async () => {
      await forgetOldTries();
      for (const { id } of await firms()) await forgetOldCommands(id);
      console.log('Done.');
    },
  },
};

const [name, ...args] = process.argv.slice(2);
const command = name === undefined ? undefined : commands[name];
if (command === undefined) {
  if (name !== undefined) console.error(`Vast Stone: there is no command “${name}”.`);
  table(Object.values(commands).map(({ usage, does }) => [`./operate ${usage}`, does]));
  process.exitCode = name === undefined ? 0 : 1;
} else
  try {
    await command.run(args);
  } catch (error) {
    if (!(error instanceof Wrong)) throw error;
    console.error(`Vast Stone: ${error.message}`);
    process.exitCode = 1;
  }
await closeConnections();
