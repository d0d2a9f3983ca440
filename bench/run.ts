import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { judge } from '@/core/judging';
import { GasTrack, soundPlant } from '@/core/plants';
import { recordFormat, recordVersion, type TestRecord } from '@/core/record';
import { eventsFor, fixtureRun, planFor } from '@/core/simulation/examples.fixture';
import { paperPdf } from '@/server/pdf';
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
  const measured = await median(9, () => paperPdf(record));
  const reference = await median(9, () => [...fonts.map((file) => gzipSync(readFileSync(file)).length), gzipSync(text).length]);
  say(
    'Build a certificate’s PDF',
    `${measured.toFixed(0)} ms, ${(measured / reference).toFixed(2)} ×`,
    `compressing its fonts and record, ${reference.toFixed(0)} ms`,
    'under 300 ms',
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
console.log(['| what | measured | reference | wanted |', '|---|---|---|---|', ...lines].join('\n'));
