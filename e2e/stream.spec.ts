import { ask, startServer } from '../bench/server';
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

test('what one process takes, another one tells', async ({ app, browser }) => {
  const other = await startServer({ VAST_DATABASE_URL: app.database.appUrl, VAST_AUTH_DATABASE_URL: app.database.authUrl });
  try {
    const account = JSON.stringify({ email: 'pernilla@lindqvay.invalid', password: 'harbour-demo-1' });
    const { cookies } = await ask(other.port, 'POST', '/api/sign-in', account, {});
    const ending = new AbortController();
    const stream = await fetch(`http://127.0.0.1:${other.port}/api/stream`, { headers: { cookie: cookies }, signal: ending.signal });
    expect(stream.status).toBe(200);
    let told = '';
    const hearing = (async () => {
      const words = new TextDecoder();
      for await (const piece of stream.body ?? []) told += words.decode(piece as Uint8Array, { stream: true });
    })().catch(() => undefined);
    await expect.poll(() => told).toContain('"whole":true');
    const before = told.length;

    const technician = new Technician(app, await app.device(browser, 'iola'));
    await technician.toHold('Gas, flat 2', 'Sound system');
    await technician.readSimulated();
    await expect.poll(() => told.slice(before), { timeout: 5000 }).toContain('Gas, flat 2');
    ending.abort();
    await hearing;
  } finally {
    await other.end();
  }
});
