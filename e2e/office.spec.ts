import { randomUUID } from 'node:crypto';
import { making } from '../src/core/register';
import { asPage, expect, test } from './app';
import { choose, fill, unfold } from './choosing';
import { Technician } from './technician';

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
  const dialog = page.getByRole('dialog');
  const save = () => dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('button', { name: 'Add a site' }).click();
  await save();
  await expect(dialog.getByText('Name the site.')).toBeVisible();
  await dialog.getByLabel('Name').fill('Ropewalk House');
  await dialog.getByLabel('Address').fill('12 Ropewalk, Brinehaven');
  await save();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ropewalk House');
  await page.getByRole('button', { name: 'Add a system' }).click();
  await dialog.getByLabel('Name').fill('Gas, ground floor');
  await save();
  await expect(dialog.getByText('Choose one of these.')).toBeVisible();
  await choose(dialog, 'Kind', 'Gas');
  await dialog.getByLabel('Appliances').fill('Boiler Vello 24, serial KB-1\nHob');
  await dialog.getByLabel('Pipe schedule').fill('22cu 6\n23cu 4');
  await save();
  await expect(dialog.getByText(/Line 2: 23 is not in the table/)).toBeVisible();
  await expect(dialog.getByLabel('Pipe schedule')).toHaveValue('22cu 6\n23cu 4');
  await dialog.getByLabel('Pipe schedule').fill('22cu 6');
  await save();
  // It is said what was saved, and the form is gone: a second press makes no twin.
  await expect(page.getByText('Saved: Gas, ground floor').first()).toBeVisible();
  await expect(dialog).toHaveCount(0);
  const gas = page.getByRole('region', { name: /^Gas, ground floor/ });
  await expect(gas).toContainText('Boiler Vello 24, serial KB-1');
  // A system of another kind is asked for what that kind needs, and planned by the procedures of its own.
  await page.getByRole('button', { name: 'Add a system' }).click();
  await choose(dialog, 'Kind', 'Drains');
  await expect(dialog.getByLabel('Pipe schedule')).toHaveCount(0);
  await dialog.getByLabel('Name').fill('Drains, ground floor');
  await save();
  const drains = page.getByRole('region', { name: /^Drains, ground floor/ });
  await drains.getByRole('link', { name: 'Plan a test' }).click();
  await expect(page.getByRole('paragraph').filter({ hasText: 'Drain level hold, standing-level school' })).toBeVisible();
});

test('what was added by mistake is taken back; what is no longer there is put away, and can be taken out again', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/sites');
  await page.getByRole('link', { name: /Slate Yard/ }).click();
  const dialog = page.getByRole('dialog');
  await page.getByRole('button', { name: 'Add a system' }).click();
  await choose(dialog, 'Kind', 'Water');
  await dialog.getByLabel('Name').fill('Water, by mistake');
  await dialog.getByRole('button', { name: 'Save' }).click();
  const made = page.getByRole('region', { name: /^Water, by mistake/ });
  await expect(made).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).first().click();
  await expect(made).toHaveCount(0);
  await page.getByRole('button', { name: /put away: show/ }).click();
  await made.getByRole('button', { name: 'Put away' }).click();
  await dialog.getByLabel('Name').fill('Water, yard');
  await dialog.getByRole('button', { name: 'Save' }).click();
  const yard = page.getByRole('region', { name: /^Water, yard/ });
  await yard.getByRole('button', { name: 'Put away' }).click();
  await dialog.getByRole('button', { name: 'Take it out again' }).click();
  await expect(yard.getByRole('link', { name: 'Plan a test' })).toBeVisible();
});

test('instruments: added, calibrated, and overdue ones said', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/instruments');
  await expect(page.getByText(/Overdue by \d+ days: tests would be invalid/)).toBeVisible();
  const dialog = page.getByRole('dialog');
  await page.getByRole('button', { name: 'Add an instrument' }).click();
  await dialog.getByLabel('Name').fill('Van 4 digital');
  await dialog.getByLabel('Smallest movement that it shows').fill('0,01');
  await dialog.getByLabel('Range to').fill('60');
  await dialog.getByLabel('Serial number').fill('DG-5001');
  await dialog.getByLabel('Calibrated on').fill('2026-01-05');
  await dialog.getByRole('button', { name: 'Save' }).click();
  // Half a calibration is none: nothing is made, and what was typed stands.
  await expect(dialog.getByText('Give the date when the next is due.')).toBeVisible();
  await expect(page.getByText('DG-5001')).toHaveCount(0);
  await dialog.getByLabel('Calibrated on').fill('');
  await dialog.getByRole('button', { name: 'Save' }).click();
  const added = page.getByRole('listitem').filter({ hasText: 'DG-5001' }).first();
  await expect(added).toContainText('No calibration on file');
  await added.getByRole('button', { name: 'Record a calibration' }).click();
  await dialog.getByLabel('Calibrated on').fill('2026-01-05');
  await dialog.getByLabel('Next due').fill('2025-01-05');
  await dialog.getByLabel('Certificate’s reference').fill('CAL-1');
  await dialog.getByRole('button', { name: 'Record it' }).click();
  await expect(dialog.getByText('The next calibration must be due after this one.')).toBeVisible();
});

test('the plan answers at once, refuses what is out of scope, and warns of the gauge', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Gas, flat 4', 'Domestic');
  await work.answerAsUsual();
  const sheet = page.getByRole('region', { name: 'Plan sheet' });
  await expect(sheet).toContainText('20–21');
  await choose(page, 'Meter', /6 m³\/h.*diaphragm|[Dd]iaphragm.*6 m³\/h/);
  await expect(sheet).toContainText('4.0');
  for (const [field, value, message] of [
    ['Supply pressure, up to', '75.1', /at most 75 mbar/],
    ['Supply pressure, up to', '-3', /must be above zero/],
    ['Working pressure', '37', /at most 21 mbar/],
  ] as const) {
    const input = await fill(page, field, value);
    await expect(sheet).toContainText(message);
    await input.fill('21');
  }
  await choose(page, 'Fuel', 'LPG');
  await expect(sheet).toContainText('natural gas only');
  await choose(page, 'Fuel', 'Natural gas');
  await unfold(page, /^Pipes/);
  await page.getByLabel('Pipe schedule').fill('42cu 2');
  await expect(sheet).toContainText('at most 35 mm');
  await page.getByLabel('Pipe schedule').fill('28cu 60');
  await expect(sheet).toContainText('ends at 35 L');
  await page.getByLabel('Pipe schedule').fill('22cu 8');
  // What does not suit stands in a fold with its reason; chosen all the same, the sheet says what it comes to.
  await page
    .getByRole('button', { name: /not suit: why/ })
    .first()
    .click();
  await expect(page.getByText(/Does not fit: Calibration was due/).first()).toBeVisible();
  await page.getByRole('radio', { name: /Van 2 digital/ }).check();
  await expect(sheet).toContainText('This cannot give a pass. Calibration was due');
  await page.reload();
  await unfold(page, /^Pipes/);
  await expect(page.getByLabel('Pipe schedule')).toHaveValue('22cu 8');
});

test('a figure and its unit are two things: another unit converts, and clearing the figure keeps it', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Ducts, bakehouse');
  await work.answerAsUsual();
  const floor = await fill(page, 'Floor area served', '40');
  await choose(page, 'Unit of floor area served', 'm²');
  await expect(floor).toHaveValue('3.716');
  await page.getByRole('button', { name: /It was 40 before: keep the number, 40 m²/ }).click();
  await expect(floor).toHaveValue('40');
  await floor.fill('');
  await floor.fill('50');
  const sheet = page.getByRole('region', { name: 'Plan sheet' });
  // 50 m² are 538.2 ft²: 4 CFM for each hundred.
  await expect(sheet).toContainText('21.52');
  await page.reload();
  await expect(floor).toHaveValue('50');
  await expect(page.getByRole('combobox', { name: 'Unit of floor area served' })).toHaveText('m²');
});

test('another firm’s ids in an address or an action answer 404, and leak nothing', async ({ app, browser }) => {
  const own = await app.device(browser, 'iola');
  await own.goto('/certificates');
  const certificate = await own.getByRole('main').last().getByRole('link').first().getAttribute('href');
  const wren = await app.device(browser, 'wren');
  await wren.goto('/sites');
  const site = await wren.getByRole('main').last().getByRole('link').first().getAttribute('href');
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
    ['/api/things', { changes: [making('system', randomUUID(), { siteId, name: 'x', pipes: '22cu 1' })] }],
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
  const signedOut = await (await browser.newContext({ baseURL: app.url })).request.get('/api/field/search?words=x');
  expect(signedOut.status()).toBe(401);
});

test('sign-out with unsent readings is refused with the reason; both themes stand', async ({ app, browser }) => {
  const page = await app.device(browser, 'tomasz');
  await new Technician(app, page).begin('Gas, kiosk', /Van 1 digital/);
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.route('**/api/field/sync', (route) => route.abort());
  await page.keyboard.press('n');
  await page.getByLabel('What is worth keeping?').fill('Cupboard locked');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByTestId('signal')).toContainText('no signal');
  await page.goto('/field');
  await page.getByRole('button', { name: 'Sign out' }).last().click();
  await expect(page.getByText(/not sent yet/)).toBeVisible();
  await page
    .getByRole('button', { name: /Change between the limestone, basalt/ })
    .last()
    .click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'basalt');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'basalt');
  await page.unroute('**/api/field/sync');
  await page.goto('/field');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.getByRole('button', { name: 'Sign out' }).last().click();
  await expect(page).toHaveURL(/sign-in/);
});
