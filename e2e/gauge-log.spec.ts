import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { choose, chosen } from './choosing';
import { Technician } from './technician';

/* A logging gauge's own file as a hold's readings. */

const csv = (lines: readonly string[]) => ({ name: 'log.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });

/** A row a second from 09:00 on a day that is past: up to 20.50 in the first twenty, then falling by so much each second. */
const rows = (count: number, fall: number, write: (clock: string, value: string) => string) =>
  Array.from({ length: count }, (_, index) => {
    const clock = `${String(9 + Math.floor(index / 3600)).padStart(2, '0')}:${String(Math.floor(index / 60) % 60).padStart(2, '0')}:${String(index % 60).padStart(2, '0')}`;
    return write(clock, (index < 20 ? 10 + index / 2 : 20.5 - (index - 20) * fall).toFixed(2));
  });

async function toLog(work: Technician, page: Page): Promise<void> {
  await work.begin('Gas, flat 4', /Van 1 digital, two decimals/);
  await work.understood();
  await work.tick();
  for (const figure of ['0.00']) {
    await page.keyboard.press('s');
    await page.getByRole('textbox').fill(figure);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox')).toHaveCount(0);
  }
  await work.phase(/^Let-by/);
  await page.keyboard.press('f');
  await expect(page.getByRole('dialog')).toContainText('Log file of the gauge');
}

test('a file is looked at first: its separator, its order, its gaps; what does not fit is said, and then it is taken', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'iola', { timezoneId: 'UTC' });
  const work = new Technician(app, page);
  await toLog(work, page);
  const dialog = page.getByRole('dialog');
  const file = dialog.getByLabel('Choose the log file');
  const look = dialog.getByRole('button', { name: 'Look at the whole file' });

  // Nothing in it but words.
  await file.setInputFiles(csv(['Time;Pressure', 'morning;high', 'noon;low']));
  await look.click();
  await expect(dialog.getByRole('alert')).toContainText('No rows with a time and a figure were found');

  // Two units.
  await file.setInputFiles(csv(['Time,Pressure', '2020-03-02 09:00:00,8.50 mbar', '2020-03-02 09:00:01,850 Pa']));
  await look.click();
  await expect(dialog.getByRole('alert')).toContainText('Line 3 is in Pa, those before it in mbar');

  // Another gauge's unit.
  await file.setInputFiles(csv(['Time,Pressure (psi)', ...rows(200, 0, (clock, value) => `2020-03-02 ${clock},${value}`)]));
  await look.click();
  await expect(dialog.getByRole('alert')).toContainText('The plan’s gauge shows mbar, this file is in psi');

  // The wrong separator: one column, and no rows.
  const good = [
    'Gauge DG-4471;;',
    'Date;Time;Pressure (mbar)',
    ...rows(200, 0, (clock, value) => `02.03.2020;${clock};${(Number(value) - 12).toFixed(2).replace('.', ',')}`),
    '02.03.2020;;',
    '02.03.2020;09:10:00;8,50',
  ];
  await file.setInputFiles(csv(good));
  await choose(dialog, 'Separator', 'comma');
  await look.click();
  await expect(dialog.getByRole('alert')).toContainText('No rows');
  await choose(dialog, 'Separator', 'found by itself');
  await expect(dialog.getByRole('combobox', { name: 'Written' })).toHaveText('day first');
  expect(await chosen(dialog, 'Figures in')).toBe('Pressure (mbar)');
  await look.click();
  const found = dialog.getByRole('region', { name: 'What the file holds' });
  await expect(found).toContainText('201 readings');
  await expect(found).toContainText('1 line without a time or a figure left out: line 203');
  await expect(found).toContainText('a gap of 401 s');
  // The first figure in the band is still on its way up; one's own start is two readings later.
  await expect(dialog.getByRole('button', { name: /^Take it as let-by: 7\.00 to/ })).toBeVisible();
  for (let step = 0; step < 2; step += 1) await dialog.getByRole('button', { name: 'Start 1 reading later' }).click();
  await dialog.getByRole('button', { name: /^Take it as let-by: 8\.50 to 8\.50 mbar/ }).click();
  await expect(dialog).toHaveCount(0);
  await work.phase(/^Stabilise/);
  await page.goto(`${page.url()}&view=verdict`);
  await expect(page.getByTestId('verdict')).toHaveText('In progress');
  const run = new URL(page.url()).searchParams.get('run') ?? '';
  await expect
    .poll(async () => {
      const { runs } = await (await page.request.get(`/api/field/run/${run}`)).json();
      return runs[0].events
        .filter(({ source }: { source?: string }) => source === 'logging gauge')
        .map(({ type, role }: { type: string; role?: string }) => role ?? type);
    })
    .toEqual(['start', 'trace', 'end']);
});

test('a million rows are streamed with their progress, can be cancelled, and leave the screen alive', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren', { timezoneId: 'UTC' });
  const work = new Technician(app, page);
  await toLog(work, page);
  // Made in the page: Playwright hands over no file of that size.
  await page
    .getByRole('dialog')
    .getByLabel('Choose the log file')
    .evaluate((field: HTMLInputElement) => {
      const start = Date.UTC(2020, 2, 2);
      const parts = ['Time,Pressure (mbar)\n'];
      for (let row = 0; row < 1_000_000; row += 1)
        parts.push(`${new Date(start + row * 1000).toISOString().slice(0, 19)},${(8.5 + 0.01 * (row % 3)).toFixed(2)}\n`);
      const list = new DataTransfer();
      list.items.add(new File(parts, 'million.csv', { type: 'text/csv' }));
      field.files = list.files;
      field.dispatchEvent(new Event('change', { bubbles: true }));
    });
  const dialog = page.getByRole('dialog');
  const look = dialog.getByRole('button', { name: 'Look at the whole file' });
  await look.click();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(look).toBeVisible();
  await expect(dialog.getByRole('region', { name: 'What the file holds' })).toHaveCount(0);
  await look.click();
  await expect(dialog.getByRole('progressbar')).toBeVisible();
  // The screen answers meanwhile: a frame is drawn within a fraction of a second.
  expect(
    await page.evaluate(async () => {
      const from = performance.now();
      await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
      return performance.now() - from;
    }),
  ).toBeLessThan(1000);
  await expect(dialog.getByRole('region', { name: 'What the file holds' })).toContainText('1,000,000 readings', { timeout: 120_000 });
  await expect(dialog.getByRole('button', { name: /^Take it as let-by/ })).toBeVisible();
});
