import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { dateText, type RunEvent } from '@/core/judging';
import { simulateRun } from '@/core/simulation';
import { demoGauge, jobFor, planFor } from '@/core/simulation/examples.fixture';
import { withFirm } from '@/db/connection';
import { instrument } from '@/db/schema';
import { benchFirm, password } from './firm';
import { at, looksAtHealth } from './health-looks';
import { ask, type Reply, startServer, wait } from './server';

/*
 * Devices that write a reading a second and look for news every four, for a minute, against the real server on a database that syncs
 * its disk; the generator runs on the same machine. Usage: ./test load [devices,devices …] [seconds]
 */

const [counts = '50,200,500', seconds = '60'] = process.argv.slice(2);
/** They come one after the other within so long, timed from the first. */
const arrivalMs = 5000;
/** Two devices each; a person's requests are counted together. */
const people = Math.ceil(Math.max(...counts.split(',').map(Number)) / 2);

const rss = (pid: number): number => Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

const { database, firmId, actors, systemId, letGo } = await benchFirm('load', people, 'technician');
const gauge = { ...demoGauge, id: randomUUID(), calibration: { needed: false } as const };
await withFirm(firmId, async (tx) => {
  await tx.insert(instrument).values({ ...gauge, firmId, calibrationNeeded: false, createdAt: new Date() });
});
await letGo();

const plan = planFor({ gauge, on: dateText(Date.now()) });
const whole = simulateRun(jobFor(plan, 'sound', 3));
const holds = whole.findIndex((event) => event.type === 'reading' && event.phase === 'hold' && event.role === 'start');
const before = whole.slice(0, holds + 1);
const reading = whole[holds] as Extract<RunEvent, { type: 'reading' }>;

/** A device in a hold: what it has written so far was before, now it reads once a second. */
class Device {
  private readonly run = randomUUID();
  private readonly test = randomUUID();
  private readonly name = randomUUID();
  private readonly boot = randomUUID();
  private seq = 0;
  private position = 0;

  constructor(
    private readonly port: number,
    private readonly author: string,
    private readonly cookie: string,
  ) {}

  private clock() {
    const now = Date.now();
    return { device: this.name, boot: this.boot, at: now, mono: now - started };
  }

  private own(event: RunEvent, observedAt: number): RunEvent {
    this.seq += 1;
    return {
      ...event,
      run: this.run,
      id: randomUUID(),
      device: this.name,
      boot: this.boot,
      author: this.author,
      seq: this.seq,
      observedAt,
      enteredAt: observedAt,
      mono: observedAt - started,
    };
  }

  private sync(items: unknown) {
    return ask(this.port, 'POST', '/api/field/sync', JSON.stringify({ items, clock: this.clock() }), { cookie: this.cookie });
  }

  async begin(): Promise<void> {
    const shift = Date.now() - reading.observedAt;
    const events = before.map((event) => this.own(event, event.observedAt + shift));
    const reply = await this.sync([
      { kind: 'test', id: this.test, systemId, details: {} },
      { kind: 'run', id: this.run, testId: this.test, number: 1, plan },
      { kind: 'events', run: this.run, events },
    ]);
    if (reply.status !== 200 || reply.text.includes('"ok":false') || !reply.text.includes('"quarantined":[]'))
      throw new Error(`${reply.status} ${reply.text.slice(0, 400)}`);
    const from = (JSON.parse(reply.text) as { receipts: readonly { from?: number }[] }).receipts[2].from;
    if (from === 1) this.position = events.length;
  }

  async write(): Promise<Reply> {
    const reply = await this.sync([{ kind: 'events', run: this.run, events: [this.own({ ...reading, role: 'between' }, Date.now())] }]);
    const [receipt] = (JSON.parse(reply.text) as { receipts?: readonly { from?: number }[] }).receipts ?? [];
    if (receipt?.from === this.position + 1) this.position += 1;
    return reply;
  }

  async look(): Promise<Reply> {
    const asks = this.position === 0 ? '' : `?position=${this.position}&attempts=1`;
    const reply = await ask(this.port, 'GET', `/api/field/run/${this.run}${asks}`, undefined, { cookie: this.cookie });
    const found = JSON.parse(reply.text) as { joined?: readonly RunEvent[]; runs?: readonly { events: readonly RunEvent[] }[] };
    for (const event of found.joined ?? found.runs?.[0].events ?? []) this.position = Math.max(this.position, event.position ?? 0);
    return reply;
  }
}

const started = Date.now();

/** What the machine's cores have done in all, and what their host gave to others meanwhile: a measure says how far the machine was its own. */
const machine = (): { readonly all: number; readonly taken: number } => {
  const counted = (readFileSync('/proc/stat', 'utf8').split('\n')[0].match(/\d+/g) ?? []).map(Number).slice(0, 8);
  return { all: counted.reduce((sum, one) => sum + one, 0), taken: counted[7] };
};

async function round(devices: number): Promise<string> {
  const { port, process: server, end } = await startServer({ VAST_PROXIES: '127.0.0.1' });
  try {
    const cookies: string[] = [];
    for (let index = 0; index < people; index += 1)
      cookies.push(
        (
          await ask(port, 'POST', '/api/sign-in', JSON.stringify({ email: actors[index].email, password }), {
            'x-forwarded-for': `10.9.${Math.floor(index / 200)}.${1 + (index % 200)}`,
          })
        ).cookies,
      );
    const all = Array.from({ length: devices }, (_, index) => new Device(port, actors[index % people].userId, cookies[index % people]));
    for (let index = 0; index < all.length; index += 10) await Promise.all(all.slice(index, index + 10).map((one) => one.begin()));
    const times = { write: [] as number[], look: [] as number[], health: [] as number[] };
    let errors = 0;
    let most = 0;
    /** How it goes on, where it goes on for longer: by the minute. */
    const minutes: string[] = [];
    let seen = 0;
    const ends = Date.now() + Number(seconds) * 1000;
    const timed = async (into: number[], work: () => Promise<Reply>) => {
      const from = performance.now();
      const { status, text } = await work().catch((error: Error) => ({ status: 0, text: error.message }));
      into.push(performance.now() - from);
      if (status !== 200 || text.includes('"ok":false')) errors += 1;
    };
    /** Seconds that all processes of a name have worked. */
    const worked = (name: string) =>
      readdirSync('/proc')
        .filter((entry) => /^\d+$/.test(entry))
        .reduce((sum, entry) => {
          try {
            const text = readFileSync(`/proc/${entry}/stat`, 'utf8');
            if (!(name === 'server' ? entry === String(server.pid) : text.includes(`(${name})`))) return sum;
            const fields = text.replace(/^.*\) /, '').split(' ');
            return sum + (Number(fields[11]) + Number(fields[12])) / 100;
          } catch {
            return sum;
          }
        }, 0);
    const cpu = () => ({ server: worked('server'), database: worked('postgres'), ...machine() });
    const cpuBefore = cpu();
    const looking = looksAtHealth(port);
    await Promise.all([
      ...all.map(async (one, index) => {
        await wait((index / devices) * arrivalMs);
        for (let next = Date.now(), turn = index % 4; next < ends; next += 1000, turn += 1) {
          await wait(Math.max(0, next - Date.now()));
          if (Date.now() >= ends) break;
          const asking = [timed(times.write, () => one.write())];
          if (turn % 4 === 0) asking.push(timed(times.look, () => one.look()));
          await Promise.all(asking);
        }
      }),
      (async () => {
        while (Date.now() < ends) {
          most = Math.max(most, rss(server.pid ?? 0));
          if (Date.now() > ends - Number(seconds) * 1000 + 60_000 * (minutes.length + 1)) {
            const own = times.write.slice(seen).sort((a, b) => a - b);
            seen = times.write.length;
            minutes.push(
              `minute ${minutes.length + 1}: ${own.length} written, p50 / p95 ${at(own, 0.5).toFixed(0)} / ${at(own, 0.95).toFixed(0)} ms, ${rss(server.pid ?? 0).toFixed(0)} MB`,
            );
          }
          await wait(100);
        }
      })(),
    ]);
    const looks = await looking.end();
    times.health.push(...looks.map(({ ms }) => ms));
    errors += looks.filter(({ status }) => status !== 200).length;
    for (const line of minutes) console.log(line);
    const [write, look, health] = [times.write, times.look, times.health].map((list) => list.sort((a, b) => a - b));
    const figure = (value: number) => value.toFixed(0);
    const cpuAfter = cpu();
    const part = (of: 'server' | 'database') => figure(((cpuAfter[of] - cpuBefore[of]) / Number(seconds)) * 100);
    const taken = figure(((cpuAfter.taken - cpuBefore.taken) / (cpuAfter.all - cpuBefore.all)) * 100);
    const perSecond = (write.length / Number(seconds)).toFixed(0);
    return `| ${devices} | ${perSecond} | ${figure(at(write, 0.5))} / ${figure(at(write, 0.95))} | ${figure(at(look, 0.5))} / ${figure(at(look, 0.95))} | ${figure(at(health, 0.95))} / ${figure(health.at(-1) ?? 0)} | ${errors} | ${most.toFixed(0)} | ${part('server')} / ${part('database')} % | ${taken} % |`;
  } finally {
    await end();
  }
}

const lines = [
  '| devices | written/s | write p50 / p95 ms | news p50 / p95 ms | health p95 / worst ms | errors | memory MB | of one core: server / database | taken by the host |',
  '| --- | --- | --- | --- | --- | --- | --- | --- | --- |',
];
for (const count of counts.split(',').map(Number)) {
  lines.push(await round(count));
  console.log(lines.at(-1));
}
console.log(lines.join('\n'));
await database.drop();
