import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { making } from '@/core/register';
import { ask, type Reply, startServer, wait } from './server';

/*
 * The server is killed again and again while devices write and pages give commands. Whatever was acknowledged must be there, once,
 * in an unbroken log; whatever was not is sent again, with its own id, until it is.
 */

export interface Killed {
  readonly cycles: number;
  readonly acknowledged: number;
  readonly commands: number;
  /** What went wrong, in words; empty where nothing did. */
  readonly faults: readonly string[];
}

interface Sending {
  readonly id: string;
  readonly event: unknown;
}

/** A device that writes notes in small pieces as fast as it is answered. */
class Writer {
  readonly run = randomUUID();
  readonly test = randomUUID();
  private readonly device = randomUUID();
  private seq = 0;
  private waiting: Sending[] = [];
  readonly acknowledged = new Set<string>();
  begun = false;

  constructor(
    private readonly author: string,
    private readonly system: string,
    private readonly plan: unknown,
  ) {}

  private note(): Sending {
    this.seq += 1;
    const id = randomUUID();
    const at = Date.now();
    const event = {
      ...{ schema: 1, run: this.run, id, device: this.device, seq: this.seq, author: this.author },
      ...{ observedAt: at, enteredAt: at, offsetMinutes: 0, boot: this.device, mono: this.seq, type: 'note', text: `note ${this.seq}` },
    };
    return { id, event };
  }

  /** One sending; what was sent before and not acknowledged goes first, as a device does it. */
  async turn(send: (items: unknown) => Promise<Reply>, pieces: number): Promise<void> {
    for (let count = 0; count < pieces; count += 1) this.waiting.push(this.note());
    const now = this.waiting.slice(0, 40);
    const reply = await send([
      ...(this.begun
        ? []
        : [
            { kind: 'test', id: this.test, systemId: this.system, details: {} },
            { kind: 'run', id: this.run, testId: this.test, number: 1, plan: this.plan },
          ]),
      { kind: 'events', run: this.run, events: now.map(({ event }) => event) },
    ]);
    if (reply.status !== 200) return;
    const { receipts } = JSON.parse(reply.text) as {
      receipts: readonly { ok: boolean; message?: string; quarantined?: readonly unknown[] }[];
    };
    const bad = receipts.find((one) => !one.ok || (one.quarantined?.length ?? 0) > 0);
    if (bad !== undefined) throw new Error(`refused: ${JSON.stringify(bad)}`);
    this.begun = true;
    for (const { id } of now) this.acknowledged.add(id);
    this.waiting = this.waiting.filter(({ id }) => !this.acknowledged.has(id));
  }
}

/**
 * @param appUrl of the database that the server uses, as its own role
 * @param email with its password, of a supervisor of the firm
 */
export async function killCycles(
  cycles: number,
  {
    appUrl,
    firmId,
    email,
    password,
    author,
    system,
    plan,
    environment,
  }: {
    readonly appUrl: string;
    readonly firmId: string;
    readonly email: string;
    readonly password: string;
    readonly author: string;
    readonly system: string;
    readonly plan: unknown;
    readonly environment: Record<string, string>;
  },
  say: (line: string) => void = () => undefined,
): Promise<Killed> {
  const writers = Array.from({ length: 6 }, () => new Writer(author, system, plan));
  const commands = new Map<string, { readonly name: string; readonly site: string; done: boolean }>();
  for (let cycle = 1; cycle <= cycles; cycle += 1) {
    const server = await startServer(environment);
    const { port } = server;
    const cookie = (await ask(port, 'POST', '/api/sign-in', JSON.stringify({ email, password }), {})).cookies;
    let going = true;
    const writing = writers.map(async (writer, index) => {
      while (going)
        await writer
          .turn((items) => ask(port, 'POST', '/api/field/sync', JSON.stringify({ items }), { cookie }), 1 + ((index + cycle) % 4))
          .catch((error: Error) => {
            if (error.message.startsWith('refused')) throw error;
          });
    });
    const commanding = (async () => {
      while (going) {
        const open = [...commands].find(([, { done }]) => !done);
        const [id, command] = open ?? [randomUUID(), { name: `Site ${commands.size + 1}`, site: randomUUID(), done: false }];
        commands.set(id, command);
        const body = JSON.stringify({ changes: [making('site', command.site, { name: command.name, address: '1 Quay Road' })] });
        const reply = await ask(port, 'POST', '/api/things', body, { cookie, 'command-id': id }).catch(() => undefined);
        if (reply?.status === 200) command.done = true;
        await wait(5);
      }
    })();
    // Every other time it is killed before or among the first answers, else up to a second after one.
    const taken = () => writers.reduce((sum, one) => sum + one.acknowledged.size, 0);
    const before = taken();
    for (let look = 0; cycle % 2 === 0 && taken() === before && look < 200; look += 1) await wait(20);
    // The last time it ends in good order.
    await wait(250 + ((cycle * 137) % 900));
    const last = cycle === cycles;
    // The last time it goes on until pages, too, have been answered.
    const answered = () => [...commands.values()].filter(({ done }) => done).length;
    for (let look = 0; last && answered() < 3 && look < 200; look += 1) await wait(100);
    if (last) going = false;
    else await server.end('SIGKILL');
    going = false;
    await Promise.all([...writing, commanding]);
    if (last) {
      for (const writer of writers)
        await writer.turn((items) => ask(port, 'POST', '/api/field/sync', JSON.stringify({ items }), { cookie }), 0);
      await server.end();
    }
    if (cycle % 8 === 0) say(`${cycle} cycles, ${taken()} acknowledged`);
  }

  const faults: string[] = [];
  const client = new Client({ connectionString: appUrl });
  await client.connect();
  await client.query('begin');
  await client.query(`select set_config('app.firm_id', $1, true)`, [firmId]);
  for (const { run, acknowledged } of writers) {
    const { rows } = await client.query<{ id: string; position: number; device: string }>(
      `select id, position, event ->> 'device' as device from event where run_id = $1 order by position`,
      [run],
    );
    const there = rows.filter(({ device }) => device !== 'server').map(({ id }) => id);
    const lost = [...acknowledged].filter((id) => !there.includes(id));
    if (lost.length > 0) faults.push(`${lost.length} of ${acknowledged.size} acknowledged are lost in ${run}`);
    if (there.length !== acknowledged.size) faults.push(`${there.length} are there and ${acknowledged.size} were acknowledged in ${run}`);
    if (rows.some(({ position }, index) => position !== index + 1)) faults.push(`the log of ${run} has a gap`);
  }
  const { rows: named } = await client.query<{ name: string; times: number }>(
    `select name, count(*)::int as times from site where name like 'Site %' group by name`,
  );
  for (const { name, done } of commands.values()) {
    const times = named.find((one) => one.name === name)?.times ?? 0;
    if (times > 1 || (done && times === 0)) faults.push(`${name} is there ${times} times`);
  }
  await client.end();
  return { cycles, acknowledged: writers.reduce((sum, one) => sum + one.acknowledged.size, 0), commands: commands.size, faults };
}
