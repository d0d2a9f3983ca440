import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { judge } from '@/core/judging';
import { GasTrack, soundPlant } from '@/core/plants';
import { recordFormat, recordVersion, type TestRecord } from '@/core/record';
import { eventsFor, fixtureRun, planFor } from '@/core/simulation/examples.fixture';
import { certificatePdf } from '@/server/certificate-pdf';
import { appendAgainstInsert } from './append';
import { detecting } from './detecting';
import { engine } from './engine';
import { forecasts } from './forecast';
import { frame, importing } from './live';
import { median } from './measures';

/* Benchmarks, each held against a named reference that is measured in the same run. */

const lines: string[] = [];
const say = (what: string, measured: string, reference: string, wanted: string) =>
  lines.push(`| ${what} | ${measured} | ${reference} | ${wanted} |`);

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
  const measured = await median(9, () => certificatePdf(record));
  const reference = await median(9, () => [...fonts.map((file) => gzipSync(readFileSync(file)).length), gzipSync(text).length]);
  say(
    'Build a certificate’s PDF',
    `${measured.toFixed(0)} ms, ${(measured / reference).toFixed(2)} ×`,
    `compressing its fonts and record, ${reference.toFixed(0)} ms`,
    'under 300 ms',
  );
}

const filesUnder = (folder: string): readonly string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((entry) =>
    entry.isFile() ? [join(entry.parentPath, entry.name)] : [],
  );

/** Script of the run route above an empty page (the check page's 404 twin) of the same build, gzip. */
function script(): void {
  const dist = [process.env.NEXT_DIST ?? '.next', '.next'].find((folder) => existsSync(join(folder, 'server/app/field.html')));
  const newest = Math.max(...filesUnder('src').map((file) => statSync(file).mtimeMs));
  // An older build would tell of another program.
  if (dist === undefined || statSync(join(dist, 'BUILD_ID')).mtimeMs < newest) {
    say('Script of the run route', 'not measured: build first', '', 'at most 90 kB');
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
    'at most 90 kB',
  );
}

await plant();
await engine(say);
forecasts(say);
detecting(say);
await frame(say);
await importing(say);
await certificate();
await appendAgainstInsert(say);
script();
console.log(['| what | measured | reference | wanted |', '|---|---|---|---|', ...lines].join('\n'));
