import { asPage, expect, test } from './app';

test('sign-in: wrong passwords are refused in words and throttled; a demo person enters with one press', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  await page.goto('/today');
  await expect(page).toHaveURL(/sign-in/);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Type your e-mail address.')).toBeVisible();
  await page.getByLabel('E-mail').fill('somebody@lindqvay.invalid');
  for (let attempt = 0; attempt < 5; attempt += 1) {
    await page.getByLabel('Password').fill(`wrong-${attempt}`);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByText('E-mail or password is wrong')).toBeVisible();
    await page.waitForTimeout(100);
  }
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText(/This one waits for its turn/)).toBeVisible();
  await expect(page.getByText(/Your turn comes in/)).toBeVisible();
  await app.pass(21);
  await expect(page.getByText('Your turn: press Sign in now.')).toBeVisible();
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('E-mail or password is wrong')).toBeVisible();
  await expect(page.getByLabel('E-mail')).toHaveValue('somebody@lindqvay.invalid');
  await page.getByRole('button', { name: /Tomasz Brandel/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Today');
});

test('Today shows what needs a hand; the demo firm has its history with every kind of verdict', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/today');
  await expect(page.getByText(/Calibration overdue by \d+ days/)).toBeVisible();
  await expect(page.getByText('Not sealed yet').first()).toBeVisible();
  await page.goto('/certificates');
  for (const verdict of ['Pass', 'Pass with permitted drop', 'Fail'])
    await expect(page.getByText(verdict, { exact: true }).first()).toBeVisible();
  expect(await page.getByRole('main').last().getByRole('listitem').count()).toBeGreaterThanOrEqual(7);
  await page.goto('/sites');
  expect(await page.getByRole('main').last().getByRole('listitem').count()).toBeGreaterThanOrEqual(6);
});

test('sites: a new one with its system, wrong lines refused beside their field and kept', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/sites');
  await page.getByText('Add a site').click();
  await page.getByRole('button', { name: 'Add the site' }).click();
  await expect(page.getByText('Name the site.')).toBeVisible();
  await page.getByLabel('Name').fill('Ropewalk House');
  await page.getByLabel('Address').fill('12 Ropewalk, Brinehaven');
  await page.getByRole('button', { name: 'Add the site' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ropewalk House');
  await page.getByText('Add a system').click();
  await page.getByLabel('Name').fill('Gas, ground floor');
  await page.getByLabel('Pipe schedule').fill('22cu 6\n23cu 4');
  await page.getByRole('button', { name: 'Add the system' }).click();
  await expect(page.getByText(/Line 2: 23 is not in the table/)).toBeVisible();
  await expect(page.getByLabel('Pipe schedule')).toHaveValue('22cu 6\n23cu 4');
  await page.getByLabel('Pipe schedule').fill('22cu 6');
  await page.getByRole('button', { name: 'Add the system' }).click();
  await expect(page.getByRole('heading', { name: 'Gas, ground floor' })).toBeVisible();
  // A system of another kind, planned by the procedures of its own.
  await page.reload();
  await page.getByText('Add a system').click();
  await page.getByLabel('Name').fill('Drains, ground floor');
  await page.getByLabel('Kind').selectOption('drain');
  await page.getByRole('button', { name: 'Add the system' }).click();
  await page.locator('section', { hasText: 'Drains, ground floor' }).getByRole('link', { name: 'Plan a test' }).last().click();
  await expect(page.getByRole('paragraph').filter({ hasText: 'Drain level hold, standing-level school' })).toBeVisible();
});

test('instruments: added, calibrated, and overdue ones said', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/instruments');
  await expect(page.getByText(/Overdue by \d+ days: tests would be invalid/)).toBeVisible();
  await page.getByText('Add an instrument').click();
  await page.getByLabel('Name').fill('Van 4 digital');
  await page.getByLabel('Smallest movement that it shows').fill('0,01');
  await page.getByLabel('Range to').fill('60');
  await page.getByLabel('Serial number').fill('DG-5001');
  await page.getByRole('button', { name: 'Add it' }).click();
  const added = page.getByRole('listitem').filter({ hasText: 'Van 4 digital' });
  await expect(added).toContainText('No calibration on file');
  await added.getByText('Record a calibration').click();
  await added.getByLabel('Calibrated on').fill('2026-01-05');
  await added.getByLabel('Next due').fill('2025-01-05');
  await added.getByLabel('Certificate’s reference').fill('CAL-1');
  await added.getByRole('button', { name: 'Record it' }).click();
  await expect(added.getByText('The next calibration must be due after this one.')).toBeVisible();
});

test('the plan answers at once, refuses what is out of scope, and warns of the gauge', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  await page.goto('/sites');
  await page.getByRole('link', { name: /Cannery Flats/ }).click();
  await page.locator('section', { hasText: 'Gas, flat 4' }).getByRole('link', { name: 'Plan a test' }).last().click();
  const sheet = page.getByRole('region', { name: 'Plan sheet' });
  await expect(sheet).toContainText('20–21');
  await page.getByLabel('Meter', { exact: true }).selectOption('diaphragm-6');
  await expect(sheet).toContainText('4.0');
  for (const [field, value, message] of [
    ['Supply pressure, up to', '75.1', /at most 75 mbar/],
    ['Supply pressure, up to', '-3', /must be above zero/],
    ['Working pressure', '37', /at most 21 mbar/],
  ] as const) {
    const before = await page.getByLabel(field, { exact: true }).inputValue();
    await page.getByLabel(field, { exact: true }).fill(value);
    await expect(sheet).toContainText(message);
    await expect(page.getByRole('button', { name: 'Start the test' })).toBeDisabled();
    await page.getByLabel(field, { exact: true }).fill(before);
  }
  await page.getByLabel('Fuel').selectOption('lpg');
  await expect(sheet).toContainText('natural gas only');
  await page.getByLabel('Fuel').selectOption('natural gas');
  await page.getByLabel('Pipe schedule').fill('42cu 2');
  await expect(sheet).toContainText('at most 35 mm');
  await page.getByLabel('Pipe schedule').fill('28cu 60');
  await expect(sheet).toContainText('ends at 35 L');
  await page.getByLabel('Pipe schedule').fill('22cu 8');
  // What does not suit stands in a fold with its reason; chosen all the same, the sheet says what it comes to.
  await page.getByText(/do not suit: see why/).click();
  await expect(page.getByText(/Does not fit: Calibration was due/).first()).toBeVisible();
  await page.getByRole('radio', { name: /Van 2 digital/ }).check();
  await expect(sheet).toContainText('This cannot give a pass. Calibration was due');
  await page.reload();
  await expect(page.getByLabel('Pipe schedule')).toHaveValue('22cu 8');
});

test('another firm’s ids in an address or an action answer 404, and leak nothing', async ({ app, browser }) => {
  const own = await app.device(browser, 'iola');
  await own.goto('/certificates');
  const certificate = await own.getByRole('main').last().getByRole('link').first().getAttribute('href');
  await own.goto('/sites');
  const site = await own.getByRole('main').last().getByRole('link').first().getAttribute('href');
  const testId = /test\/([0-9a-f-]+)/.exec(certificate ?? '')?.[1];
  const certificateId = /certificate=([0-9a-f-]+)/.exec(certificate ?? '')?.[1];
  const siteId = site?.split('/').pop();

  const other = await app.device(browser, 'ruben');
  for (const path of [certificate ?? '', site ?? '']) {
    const response = await other.goto(path);
    expect(response?.status()).toBe(404);
    await expect(other.getByText('Cannery')).toHaveCount(0);
  }
  const absent = '00000000-0000-4000-8000-00000000dead';
  for (const address of [`/api/certificates/ID/pdf`, `/api/certificates/ID/json`, `/api/certificates/ID/csv`, `/api/tests/ID/draft`]) {
    const [theirs, nobodys] = await Promise.all(
      [certificateId ?? '', absent].map((id) =>
        other.request.get(address.replace('ID', address.includes('tests') && id !== absent ? (testId ?? '') : id)),
      ),
    );
    expect(theirs.status()).toBe(404);
    expect(await theirs.text()).toBe(await nobodys.text());
  }
  for (const [address, data] of [
    [`/api/tests/${testId}/seal`, {}],
    [`/api/sites/${siteId}/systems`, { name: 'x', pipes: '22cu 1' }],
    [`/api/field/run/${absent}`, undefined],
  ] as const) {
    const response = data === undefined ? await other.request.get(address) : await other.request.post(address, asPage(app, data));
    expect(response.status()).toBe(404);
  }
  const synced = await other.request.post(
    '/api/field/sync',
    asPage(app, {
      items: [
        { kind: 'events', run: absent, events: [] },
        { kind: 'test', id: absent, systemId: absent, details: {} },
        { kind: 'mystery' },
      ],
    }),
  );
  expect((await synced.json()).receipts.map(({ code }: { code: string }) => code)).toEqual(['not-found', 'not-found', 'unknown-item']);
  const forged = await own.request.post(`/api/tests/${testId}/seal`, { data: {}, headers: { origin: 'https://elsewhere.invalid' } });
  expect(forged.status()).toBe(403);
  const signedOut = await (await browser.newContext({ baseURL: app.url })).request.get('/api/field/kit');
  expect(signedOut.status()).toBe(401);
});

test('sign-out with unsent readings is refused with the reason; both themes stand', async ({ app, browser }) => {
  const page = await app.device(browser, 'tomasz');
  await page.goto('/field');
  await page.getByRole('button', { name: /Gas, kiosk/ }).click();
  await page.getByRole('button', { name: 'Start the test' }).click();
  await page.waitForURL(/run=/);
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.route('**/api/field/sync', (route) => route.abort());
  await page.keyboard.press('n');
  await page.getByLabel('What is worth keeping?').fill('Cupboard locked');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByTestId('signal')).toContainText('no signal');
  await page.goto('/today');
  await page.getByRole('button', { name: 'Sign out' }).last().click();
  await expect(page.getByText(/not sent yet/)).toBeVisible();
  await page
    .getByRole('button', { name: /Change between the limestone and basalt/ })
    .last()
    .click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'basalt');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'basalt');
  await page.unroute('**/api/field/sync');
  await page.goto('/field');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.goto('/today');
  await page.getByRole('button', { name: 'Sign out' }).last().click();
  await expect(page).toHaveURL(/sign-in/);
});
