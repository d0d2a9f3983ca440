import { expect, test } from './app';
import { Technician } from './technician';

/* Running holds come by themselves: one stream a browser, shared by its tabs. */

test('two tabs of the office share one stream, see a hold begin, and go on when the one that had the stream is closed', async ({
  app,
  browser,
}) => {
  const office = await app.device(browser, 'pernilla');
  const second = await office.context().newPage();
  const streams: string[] = [];
  for (const [name, page] of [
    ['first', office],
    ['second', second],
  ] as const)
    page.on('request', (request) => request.url().endsWith('/api/stream') && streams.push(name));
  await office.goto('/today');
  await expect.poll(() => streams).toEqual(['first']);
  await second.goto('/today');
  await expect(second.getByRole('heading', { level: 1 })).toHaveText('Today');

  const technician = new Technician(app, await app.device(browser, 'iola'));
  await technician.toHold('Gas, flat 2', 'Sound system');
  await technician.readSimulated();
  for (const page of [office, second])
    await expect(page.getByRole('list', { name: 'Running holds' }).getByText('Gas, flat 2')).toBeVisible();
  expect(streams).toEqual(['first']);

  // Nobody asks again and again meanwhile.
  let asked = 0;
  second.on('request', (request) => {
    if (request.url().includes('/api/')) asked += 1;
  });
  await office.close();
  await expect.poll(() => streams).toEqual(['first', 'second']);
  await expect(second.getByRole('list', { name: 'Running holds' }).getByText('Gas, flat 2')).toBeVisible();
  await second.waitForTimeout(3000);
  expect(asked).toBe(1);
});
