import { expect, test, visitToday } from './app';
import { faults } from './axe';
import { save, scribble, toCertificate } from './paper';
import { Technician } from './technician';

/* What leaves the firm: one paper for a visit, signed elsewhere by a private link, countersigned, sent, and read by whoever gets it. */

test('a visit under one paper: signed by a private link, countersigned, sealed, sent and shown; the link never twice', async ({
  app,
  browser,
}) => {
  test.setTimeout(180_000);
  const office = await app.device(browser, 'wren');
  await office.goto('/firm');
  await office.getByLabel('Mail address for answers').fill('nowhere');
  await office.getByRole('button', { name: 'Keep it', exact: true }).click();
  await expect(office.getByText('This is no mail address: it looks like name@place.example.')).toBeVisible();
  await office.getByLabel('Mail address for answers').fill('desk@lindqvay.example');
  await office.getByLabel('A supervisor countersigns before a paper is sealed').check();
  await office.getByRole('button', { name: 'Keep it', exact: true }).click();
  await expect(office.getByText('Kept. Papers sealed from now on say it.').first()).toBeVisible();
  await office.getByLabel(/A picture/).setInputFiles({ name: 'logo.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(office.getByText('This file is not a picture that can be read. Use a JPEG, PNG or WebP.')).toBeVisible();

  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  for (const system of ['Gas, annex', 'Gas, unit 3']) {
    await work.toHold(system, 'Sound system');
    await work.judgeHold(120);
    await work.tick();
    await work.toVerdict('Pass');
    await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  }
  await toCertificate(page);
  await expect(page.getByRole('article')).toContainText('Gas, unit 3');
  // Another test of the same site stands ready to be gathered, where there is one; this paper is of one site.
  await expect(page.getByText('Still missing')).toBeVisible();
  await scribble(page, /Technician signs here/);
  await page.getByRole('button', { name: 'Sign as technician' }).click();
  await expect(page.getByRole('heading', { name: 'Customer or witness' })).toBeVisible();

  await page.getByText('They sign elsewhere: a private link').click();
  await page.getByLabel('Who is to sign').fill('Sefa Dunmore');
  await page.getByRole('button', { name: 'Make the link' }).click();
  const address = new URL(await page.getByLabel(/The link, until/).inputValue()).pathname;

  const customer = await app.device(browser, 'nobody', { viewport: { width: 390, height: 844 } });
  await customer.goto('/sign/not-a-link');
  await expect(customer.getByRole('heading', { level: 1 })).toHaveText('This link leads nowhere');
  await customer.goto(address);
  await expect(customer.getByRole('article')).toContainText('Pass');
  expect(await faults(customer)).toEqual([]);
  await customer.getByRole('button', { name: 'Sign' }).click();
  await expect(customer.getByText('Sign in the field above.')).toBeVisible();
  await scribble(customer, /Customer or witness signs here/);
  await customer.getByRole('button', { name: 'Sign' }).click();
  await expect(customer.getByText(/Thank you: your signature is kept/)).toBeVisible();
  await customer.goto(address);
  await expect(customer.getByText('This link was used already', { exact: false })).toBeVisible();
  await expect(customer.getByRole('article')).toHaveCount(0);

  await page.reload();
  await expect(page.getByText('Sefa Dunmore').first()).toBeVisible();
  await expect(page.getByText('The supervisor’s countersignature.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Seal the certificate' })).toBeDisabled();
  await office.goto(new URL(page.url()).pathname);
  await scribble(office, /Supervisor signs here/);
  await office.getByRole('button', { name: 'Countersign' }).click();
  await office.getByRole('button', { name: 'Seal the certificate' }).click();
  await expect(office.getByRole('heading', { level: 1 })).toHaveText(/Certificate \d{4}-\d{5}/);
  await expect(office.getByRole('article')).toContainText(/Sefa Dunmore, .* by private link/);
  await expect(office.getByRole('article')).toContainText(/Supervisor: Wren Adeyo/);

  await office.getByLabel('To', { exact: true }).fill('sefa@home.example, nonsense');
  await office.getByRole('button', { name: 'Send the paper' }).click();
  await expect(office.getByText('One of these is no mail address: it looks like name@place.example.')).toBeVisible();
  await office.getByLabel('To', { exact: true }).fill('sefa@home.example');
  await office.getByRole('button', { name: 'Send the paper' }).click();
  await expect(office.getByRole('region', { name: 'Send' })).toContainText('sefa@home.example');
  await expect(async () => {
    await office.reload();
    await expect(office.getByText(/Taken by the mail server/)).toBeVisible({ timeout: 2000 });
  }).toPass();
  await office.goto('/mail');
  await expect(office.getByText('Simulated', { exact: true }).first()).toBeVisible();
  await expect(office.getByRole('region', { name: /Mail server/ })).toContainText('To sefa@home.example');
  await expect(office.getByRole('region', { name: /Mail server/ })).toContainText(/certificate-\d{4}-\d{5}\.pdf/);

  await office.goBack();
  await office.getByRole('link', { name: 'Receipt strip' }).click();
  await expect(office.getByRole('article')).toContainText('This strip is not the certificate');
  await office.goBack();
  await office.waitForURL(/certificates\/test/);
  const pdf = await save(office, 'PDF', 'pdf');
  await customer.goto('/check');
  await customer.getByLabel(/PDF or JSON/).setInputFiles(pdf);
  await expect(customer.getByTestId('check-result')).toContainText('Genuine');
  await expect(customer.getByTestId('check-result')).toContainText('exactly what the record gives');
  expect(await faults(customer)).toEqual([]);

  await office.goto('/firm');
  await office.getByLabel('A supervisor countersigns before a paper is sealed').uncheck();
  await office.getByRole('button', { name: 'Keep it', exact: true }).click();
  await expect(office.getByText('Kept. Papers sealed from now on say it.').first()).toBeVisible();
});

test('two tests of one site under one paper, each with its own judgement; refused is not absent', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  const work = new Technician(app, page);
  await work.toHold('Gas, flat 1', 'Sound system');
  await work.judgeHold(120);
  await work.tick();
  await work.toVerdict('Pass');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await work.toHold('Gas, flat 2', 'Sound system');
  await work.judgeHold(120);
  await work.tick();
  await work.toVerdict('Pass');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  // The day's page knows what was done of it, and leads to one paper of all.
  const visit = await visitToday(app, page, ['Gas, flat 1', 'Gas, flat 2']);
  const run = page.url();
  await page.goto(`/field?at=visit&visit=${visit}`);
  await expect(page.getByRole('region', { name: 'Tests of the visit' }).getByText('Pass', { exact: true })).toHaveCount(2);
  await page.getByRole('link', { name: 'One paper of these tests' }).click();
  await page.waitForURL(/\/certificates\/test\/.*with=/);
  await expect(page.getByRole('article')).toContainText('Report of a visit');
  await page.goto(run);
  await toCertificate(page);
  const others = page.getByRole('group', { name: 'One paper with other tests of this site' });
  await others
    .getByRole('checkbox', { name: /Gas, flat 1: pass/ })
    .first()
    .check();
  await expect(page.getByRole('article')).toContainText('Report of a visit');
  await scribble(page, /Technician signs here/);
  await page.getByRole('button', { name: 'Sign as technician' }).click();
  await page.getByRole('radio', { name: 'Will not sign' }).click();
  await page.getByLabel('Name').fill('Sefa Dunmore');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Write why; the paper says it.')).toBeVisible();
  await page.getByLabel('Why they will not').fill('wants to ask first');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'Seal the certificate' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Certificate \d{4}-\d{5}/);
  const paper = page.getByRole('article');
  await expect(paper).toContainText('Sefa Dunmore would not sign: wants to ask first');
  await expect(paper.getByRole('table').first()).toContainText('Gas, flat 2');
  await expect(paper.getByRole('table').first()).toContainText('Gas, flat 1');
  await page.goto('/certificates');
  await expect(page.getByRole('main')).toContainText(/Gas, flat 2, Gas, flat 1|Gas, flat 1, Gas, flat 2/);
});
