import Papa from 'papaparse';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { judge } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { GaugeLogReader } from '@/core/record';
import { planFor } from '@/core/simulation/examples.fixture';
import { CoursePicture } from '@/features/run/pictures/course-picture';
import { paired, type Say } from './measures';

/** The live trace after an hour at 10 Hz: everything of a frame that is ours, the thinning, the path and the whole picture. */
export async function frame(say: Say): Promise<void> {
  const plan = planFor({ answers: { work: 'new' } });
  const { events } = new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', '20.50');
  const judgement = judge(plan, events);
  const points = Array.from({ length: 36_000 }, (_, index) => ({
    seconds: index / 10,
    value: 20.5 - index * 1e-6 + 0.01 * ((index * 7) % 3),
  }));
  const draw = (seen: typeof points) =>
    renderToStaticMarkup(
      createElement(CoursePicture, {
        plan,
        judgement,
        events,
        traced: [{ phase: 'hold', points: seen }],
        nowSeconds: 3600,
        width: 850,
        height: 600,
        narrow: false,
      }),
    );
  const few = points.filter((_, index) => index % 360 === 0);
  if (draw(points).length < 1000) throw new Error('the picture is empty');
  const { reference, measured, ratio } = await paired(
    41,
    () => draw(few),
    () => draw(points),
  );
  say(
    'Draw a frame of the live trace, 36 000 points',
    `${measured.toFixed(1)} ms, ${ratio.toFixed(1)} ×`,
    `the same picture with 100 points, ${reference.toFixed(1)} ms`,
    'under 16 ms',
  );
}

/** A log of a million rows: read and placed in time, against splitting its text alone. */
export async function importing(say: Say): Promise<void> {
  const lines = ['Time,Pressure (mbar)'];
  const start = Date.UTC(2026, 2, 2);
  for (let row = 0; row < 1_000_000; row += 1)
    lines.push(`${new Date(start + row * 1000).toISOString().slice(0, 19)},${(20.5 - (row % 50) / 100).toFixed(2)}`);
  const text = lines.join('\n');
  const parse = (take: (cells: string[], line: number) => void) => {
    const { data } = Papa.parse<string[]>(text, { delimiter: ',' });
    for (const [index, cells] of data.entries()) take(cells, index + 1);
  };
  let read = 0;
  const { reference, measured, ratio } = await paired(
    2,
    () => parse(() => undefined),
    () => {
      const reader = new GaugeLogReader({ time: 0, value: 1, order: 'ymd', unit: 'mbar', offsetMinutes: 0, lostHour: 'gap' });
      parse((cells, line) => line > 1 && reader.take(cells, line));
      const result = reader.finish();
      read = result.ok ? result.value.times.length : 0;
    },
  );
  if (read !== 1_000_000) throw new Error(`only ${read} rows were read`);
  say(
    'Import a gauge’s log of 1 000 000 rows',
    `${(measured / 1000).toFixed(2)} s, ${ratio.toFixed(1)} ×`,
    `parsing its text alone, ${(reference / 1000).toFixed(2)} s`,
    'at most 5 ×',
  );
}
