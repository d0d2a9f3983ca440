import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { App, expect, openSite, setUpFirm, test } from './app';
import { faults } from './axe';
import { Technician } from './technician';

/* What comes into the firm from elsewhere and goes out of it: tables, all of its data, and programs that read. */

/** As an older spreadsheet writes it, in the letters of its Windows. */
const csv = (text: string) => ({ name: 'sites.csv', mimeType: 'text/csv', buffer: Buffer.from(text, 'latin1') });
const openData = async (page: Page) => {
  await page.goto('/firm');
  await page.getByRole('link', { name: 'Data in and out' }).click();
  await page.waitForURL(/firm\/data/);
};

test('a table of sites: columns found and set, a formula and a gap mended where they stand, through a reload; then the sites are there', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'pernilla');
  await openData(page);
  const sheet = page.getByRole('region', { name: 'Tables from elsewhere' });
  await expect(page.getByText('Supervisors take all of the firm’s data out or in')).toBeVisible();
  const file = sheet.getByLabel('Table of sites');
  await file.setInputFiles({ name: 'book.xlsx', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004') });
  await expect(sheet.getByRole('alert')).toContainText('Save it as CSV');
  await file.setInputFiles(
    csv(
      'Property;Where;Customer\nNet store;1 Slip Lane;Zoë Fennick\n=A2;2 Slip Lane;\nRope walk;;Sefa Dunmore\nSmoke house;"3 Slip Lane, rear";Ilja\n',
    ),
  );
  // The address has a head that nobody knows: it is said, and set.
  await expect(sheet.getByRole('button', { name: 'Its columns: Address to be set' })).toBeVisible();
  await sheet.getByRole('combobox', { name: /^Address/ }).selectOption({ label: 'Where (1 Slip Lane)' });
  await expect(sheet.getByRole('button', { name: 'Take in 2 sites' })).toBeEnabled();
  const rows = sheet.getByRole('region', { name: 'Rows of the table' });
  await expect(rows).toContainText('This is a formula (=A2)');
  await expect(rows).toContainText('Address is missing.');
  expect(await faults(page)).toEqual([]);
  await sheet.getByRole('radio', { name: 'Ready (2)' }).click();
  await expect(rows).toContainText('Zoë Fennick');
  await sheet.getByRole('radio', { name: 'To mend (2)' }).click();
  await rows.getByLabel('Address, line 4').fill('4 Slip Lane');
  await page.reload();
  await expect(rows.getByLabel('Address, line 4')).toHaveValue('4 Slip Lane');
  // Put away by mistake, it is taken back with all that was mended.
  await sheet.getByRole('button', { name: 'Put this table away' }).click();
  await expect(sheet.getByLabel('Table of sites')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(rows.getByLabel('Address, line 4')).toHaveValue('4 Slip Lane');
  await rows.getByLabel('Address, line 4').press('Enter');
  await expect(sheet.getByRole('button', { name: 'Take in 3 sites' })).toBeEnabled();
  await sheet.getByRole('button', { name: 'Take in 3 sites' }).click();
  await expect(sheet).toContainText('3 sites taken in; one row is left.');
  await rows.getByLabel('Name, line 3').fill('Boat shed');
  await rows.getByLabel('Name, line 3').blur();
  await sheet.getByRole('button', { name: 'Take in 1 site' }).click();
  await expect(sheet).toContainText('4 sites taken in; nothing is left of it.');
  await page.goto('/sites');
  await page.getByRole('searchbox').fill('Slip Lane');
  for (const name of ['Net store', 'Rope walk', 'Smoke house', 'Boat shed'])
    await expect(
      page
        .getByRole('main')
        .getByRole('link', { name: new RegExp(`^${name}`) })
        .first(),
    ).toBeVisible();
});

test('all of the firm’s data out, and into an empty firm of another installation; a program reads by a token until that ends', async ({
  app,
  browser,
}, info) => {
  test.setTimeout(240_000);
  const page = await app.device(browser, 'wren');
  await openData(page);
  const whole = page.getByRole('region', { name: 'All of the firm’s data' });
  await whole.getByRole('checkbox', { name: /Papers as PDF too/ }).uncheck();
  await whole.getByRole('button', { name: 'Export all of it' }).click();
  const link = whole.getByRole('link', { name: /^Save the file/ });
  await expect(link).toBeVisible({ timeout: 120_000 });
  // No firm that has data of its own takes another's in.
  await expect(whole.getByLabel('Take a firm’s export in')).toHaveCount(0);
  const [file] = await Promise.all([page.waitForEvent('download'), link.click()]);
  const data = await readFile(await file.path());

  const programs = page.getByRole('region', { name: 'Programs that read' });
  await programs.getByLabel('Which program it is for').fill('Accounts');
  await programs.getByRole('button', { name: 'Make a token' }).click();
  const token = await programs.getByLabel(/Copy it now/).inputValue();
  const other = await app.context(browser);
  const reads = (address: string) => other.request.get(address, { headers: { authorization: `Bearer ${token}` } });
  const certificates = await (await reads('/api/v1/certificates?limit=1')).json();
  expect(certificates.rows).toHaveLength(1);
  const record = await (await reads(`/api/v1/certificates/${certificates.rows[0].id}/record`)).json();
  expect(record.certificate.number).toBe(certificates.rows[0].number);
  expect((await reads(`/api/v1/certificates/${certificates.rows[0].id}/pdf`)).headers()['content-type']).toBe('application/pdf');
  const described = await (await other.request.get('/api/v1/openapi.json')).json();
  expect(Object.keys(described.paths)).toContain('/api/v1/tests');
  // A token opens nothing but what it reads.
  expect((await reads('/api/exchange')).status()).toBe(401);
  expect(await faults(page)).toEqual([]);
  await programs.getByRole('button', { name: 'End it: the token of Accounts' }).click();
  await expect(programs).toContainText('ended');
  expect((await reads('/api/v1/sites')).status()).toBe(401);

  const empty = await App.open(`into${info.workerIndex}`, 'empty');
  try {
    const there = await empty.device(browser, 'nobody');
    await setUpFirm(empty, there);
    await openData(there);
    const into = there.getByRole('region', { name: 'All of the firm’s data' });
    const zip = (buffer: Buffer) => ({ name: 'firm.zip', mimeType: 'application/zip', buffer });
    await into.getByLabel('Take a firm’s export in').setInputFiles(zip(data.subarray(0, data.length - 1000)));
    await expect(into).toContainText('cut short on its way', { timeout: 60_000 });
    await into.getByLabel('Take a firm’s export in').setInputFiles(zip(data));
    await expect(into).toContainText('every seal holds', { timeout: 120_000 });
    await expect(into).toContainText('the same verdicts');
    await expect(into).toContainText('people came in as put away');
    await expect(into.getByLabel('Take a firm’s export in')).toHaveCount(0);
    // Its papers are checked there by the same code, and say where they come from.
    await there.goto(`/check/${record.certificate.checkCode}`);
    await expect(there.getByRole('heading', { level: 1 })).toContainText(record.certificate.number);
    await expect(there.getByText(/It was sealed in another installation/)).toBeVisible();
    const paper = { name: 'record.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(record)) };
    await there.getByLabel('Certificate’s PDF or JSON').setInputFiles(paper);
    await expect(there.getByTestId('check-result')).toContainText('Genuine');
    await expect(there.getByTestId('check-result')).toContainText('with the same result');
  } finally {
    await empty.close();
  }
});

test('on a phone, one table after another: a site, its systems, what hangs on them, a gauge in psi; and then a test can be planned', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'iola', { viewport: { width: 390, height: 844 } });
  await page.goto('/firm/data');
  const sheet = page.getByRole('region', { name: 'Tables from elsewhere' });
  const take = async (kind: string, rows: string, press: string) => {
    await sheet.getByRole('radio', { name: kind }).click();
    await sheet
      .getByLabel(`Table of ${kind.toLowerCase()}`)
      .setInputFiles({ name: `${kind}.csv`, mimeType: 'text/csv', buffer: Buffer.from(rows) });
    await sheet.getByRole('button', { name: press }).click();
    await expect(sheet).toContainText('nothing is left of it.');
    await sheet.getByRole('button', { name: 'Another table' }).click();
  };
  const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  await take('Sites', 'Name,Address\nTar house,9 Tar Lane\n', 'Take in 1 site');
  // A system of a site that is not there waits with its reason; the rest goes in.
  await sheet.getByRole('radio', { name: 'Systems' }).click();
  const systems = 'Site,System,Kind,Pipes\nTar house,"Gas, tar house",Natural gas,3/4sch40 60ft\nNo such house,Gas,gas,\n';
  await sheet.getByLabel('Table of systems').setInputFiles({ name: 'systems.csv', mimeType: 'text/csv', buffer: Buffer.from(systems) });
  await expect(sheet.getByText('There is no site “No such house”.', { exact: false })).toBeVisible();
  expect(await overflow()).toBeLessThanOrEqual(0);
  await sheet.getByRole('button', { name: 'Take in 1 system' }).click();
  await expect(sheet).toContainText('1 system taken in; one row is left.');
  await sheet.getByLabel('Site, line 3').fill('Tar house');
  await sheet.getByLabel('Site, line 3').press('Enter');
  await sheet.getByRole('button', { name: 'Take in 1 system' }).click();
  await expect(sheet).toContainText('2 systems taken in; nothing is left of it.');
  await sheet.getByRole('button', { name: 'Another table' }).click();
  await take(
    'Components',
    'Property,Installation,Appliance,Manufacturer,Serial no\nTar house,"Gas, tar house",Boiler,Emberly,77-1\n',
    'Take in 1 component',
  );
  await take(
    'Gauges',
    'Gauge,Type,Units,Min,Max,Resolution,SN,Calibrated,Due,Certificate\nTar dial,dial,PSI,0,15,"0,1",TD-1,2026-05-04,2027-05-04,K-9\n',
    'Take in 1 gauge',
  );
  // What came in stands where it is used, with its parts and its calibration.
  await openSite(page, 'Tar house');
  await expect(page.getByRole('heading', { name: /^Gas, tar house/ })).toBeVisible();
  await expect(page.getByText('Boiler Emberly', { exact: false }).first()).toBeVisible();
  await page.goto('/field?at=instruments');
  const gauge = page.getByRole('listitem').filter({ hasText: 'TD-1' }).first();
  await expect(gauge).toContainText('Tar dial');
  await expect(gauge).toContainText('psi');
  await expect(gauge).not.toContainText('No calibration on file');
  // And a test can be planned on it, with that gauge.
  const work = new Technician(app, page);
  await work.openPlan('Gas, tar house');
  await work.takeGauge(/^Tar dial/);
  await expect(page.getByRole('button', { name: 'Start the test' })).toBeVisible();
});

test('an upload that loses its signal goes on where it was', async ({ browser }, info) => {
  test.setTimeout(180_000);
  const empty = await App.open(`lost${info.workerIndex}`, 'empty');
  try {
    const page = await empty.device(browser, 'nobody');
    await setUpFirm(empty, page);
    await page.goto('/firm/data');
    const places: string[] = [];
    let lost = 0;
    // The second piece is lost on its way, twice; then it gets through.
    await page.route('**/piece?at=*', async (route) => {
      const at = new URL(route.request().url()).searchParams.get('at') ?? '';
      if (at !== '0' && lost < 2) {
        lost += 1;
        await route.abort('internetdisconnected');
        return;
      }
      places.push(at);
      await route.continue();
    });
    const into = page.getByRole('region', { name: 'All of the firm’s data' });
    const noZip = Buffer.alloc(3 * 1024 * 1024, 'x');
    await into.getByLabel('Take a firm’s export in').setInputFiles({ name: 'firm.zip', mimeType: 'application/zip', buffer: noZip });
    // It arrives whole, and is then found to be none.
    await expect(into).toContainText('This file is no zip, or it was cut short on its way', { timeout: 60_000 });
    expect(lost).toBe(2);
    expect(places).toEqual(['0', String(2 * 1024 * 1024)]);
    await expect(into.getByLabel('Take a firm’s export in')).toBeEnabled();
  } finally {
    await empty.close();
  }
});
