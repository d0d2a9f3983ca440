import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { judge, outcomeOf, type RunEvent } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import type { Plan } from '@/core/planning';
import { GasTrack, soundPlant } from '@/core/plants';
import { recordFormat, recordVersion, type TestRecord } from '@/core/record';
import { demoGauge, eventsFor, fixtureRun, planFor } from '@/core/simulation/examples.fixture';
import { certificatePdf } from '@/server/certificate-pdf';
import { appendAgainstInsert } from './append';
import { engine, writeDay } from './engine';
import { frame, importing } from './live';

/** Benchmarks, each a ratio against a named reference measured in the same run. Median of the rounds. */
async function median(rounds: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const from = performance.now();
    await work();
    times.push(performance.now() - from);
  }
  return times.sort((a, b) => a - b)[Math.floor(rounds / 2)];
}

/** Two works in turn, so that a busy moment of the machine falls on both: the median of each, and of their ratio. */
async function paired(
  rounds: number,
  reference: () => unknown,
  work: () => unknown,
): Promise<{ readonly reference: number; readonly measured: number; readonly ratio: number }> {
  const rows: { reference: number; measured: number }[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const from = performance.now();
    await reference();
    const between = performance.now();
    await work();
    rows.push({ reference: between - from, measured: performance.now() - between });
  }
  const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(rounds / 2)];
  return {
    reference: middle(rows.map((row) => row.reference)),
    measured: middle(rows.map((row) => row.measured)),
    ratio: middle(rows.map((row) => row.measured / row.reference)),
  };
}

const lines: string[] = [];
const say = (what: string, measured: string, reference: string, wanted: string) =>
  lines.push(`| ${what} | ${measured} | ${reference} | ${wanted} |`);

/** A hold of 24 h with a reading a second, as chunks of 600. */
function longLog(): { plan: Plan; events: readonly RunEvent[] } {
  const short = planFor({ answers: { work: 'new' }, gauge: demoGauge });
  const plan = {
    ...short,
    phases: short.phases.map((phase) => (phase.id === 'hold' && phase.kind === 'hold' ? { ...phase, seconds: 86_400 } : phase)),
  };
  const log = new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', '20.50');
  writeDay(log, 170);
  log.at(170 + 86_401).read('hold', 'end', '20.45');
  return { plan, events: log.events };
}

async function judging(): Promise<void> {
  const { plan, events } = longLog();
  let total = 0;
  const chunks = events.flatMap((event) => (event.type === 'trace' ? [event.values] : []));
  const summing = () => {
    let sum = 0;
    for (const values of chunks) for (let index = 0; index < values.length; index += 1) sum += values[index];
    total = sum;
  };
  // Both warm: the engine's compiler needs some hundred rounds of the judge before it stands still.
  for (let warm = 0; warm < 1500; warm += 1) {
    summing();
    judge(plan, events);
  }
  const { reference, measured, ratio } = await paired(801, summing, () => judge(plan, events));
  const { phases } = judge(plan, events);
  if (outcomeOf(phases.find(({ id }) => id === 'hold')) !== 'tight' || total === 0) throw new Error('the long log was not judged as meant');
  say(
    'Judge a log of 86 400 readings',
    `${measured.toFixed(3)} ms, ${ratio.toFixed(1)} ×`,
    `summing them, ${reference.toFixed(3)} ms`,
    'at most 10 ×',
  );
}

async function plant(): Promise<void> {
  const hour = () => {
    const track = new GasTrack({ ...soundPlant(5, 14, { unit: 'mbar', readability: '0.01' }), pipeworkLeakLh: 0.5 }, [
      { atMs: 0, action: 'raise', to: 2050 },
    ]);
    let last = '';
    for (let at = 0; at < 3_600_000; at += 100) last = track.shownAt(at);
    return last;
  };
  const empty = () => {
    let sum = 0;
    for (let at = 0; at < 3_600_000; at += 100) sum += Math.sqrt(at);
    return sum;
  };
  hour();
  const measured = await median(9, hour);
  const reference = await median(9, empty);
  say(
    'An hour of plant at 10 Hz, with its gauge',
    `${measured.toFixed(1)} ms, ${(measured / reference).toFixed(0)} ×`,
    `as many square roots, ${reference.toFixed(2)} ms`,
    'under 100 ms',
  );
}

async function certificate(): Promise<void> {
  const plan = planFor({});
  const events = eventsFor(plan, 'small-leak');
  const record: TestRecord = {
    format: recordFormat,
    version: recordVersion,
    tests: [{ attempts: [{ run: fixtureRun, number: 1, plan, events, judgement: judge(plan, events) }] }],
  };
  const text = JSON.stringify(record);
  const fonts = ['DejaVuSans.ttf', 'DejaVuSans-Bold.ttf', 'DejaVuSansMono.ttf'].map((name) =>
    join('node_modules/dejavu-fonts-ttf/ttf', name),
  );
  await certificatePdf(record);
  const measured = await median(9, () => certificatePdf(record));
  const reference = await median(9, () => [...fonts.map((file) => gzipSync(readFileSync(file)).length), gzipSync(text).length]);
  say(
    'Build a certificate’s PDF',
    `${measured.toFixed(0)} ms, ${(measured / reference).toFixed(2)} ×`,
    `compressing its fonts and record, ${reference.toFixed(0)} ms`,
    'under 300 ms',
  );
}

/** Script of the run route above an empty page (the check page's 404 twin) of the same build, gzip. */
function script(): void {
  const dist = [process.env.NEXT_DIST ?? '.next', '.next'].find((folder) => existsSync(join(folder, 'server/app/field.html')));
  if (dist === undefined) {
    say('Script of the run route', 'not measured: build first', '', 'at most 75 kB');
    return;
  }
  const sources = (html: string) =>
    new Set([...readFileSync(join(dist, 'server/app', html), 'utf8').matchAll(/\/_next\/(static\/[^"\\]+?\.js)/g)].map(([, file]) => file));
  const weigh = (files: Iterable<string>) =>
    [...files].reduce((sum, file) => sum + (existsSync(join(dist, file)) ? gzipSync(readFileSync(join(dist, file))).length : 0), 0);
  const field = sources('field.html');
  const empty = sources('_not-found.html');
  const above = weigh([...field].filter((file) => !empty.has(file)));
  say(
    'Script of the run route above an empty page',
    `${(above / 1000).toFixed(1)} kB gzip`,
    `empty page ${(weigh(empty) / 1000).toFixed(1)} kB`,
    'at most 75 kB',
  );
}

await judging();
await plant();
engine(say);
await frame(say, paired);
await importing(say, paired);
await certificate();
await appendAgainstInsert(say, paired);
script();
console.log(['| what | measured | reference | wanted |', '|---|---|---|---|', ...lines].join('\n'));
