import { execFile } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { choose } from './choosing';
import { save, scribble, sealedPaper, toCertificate } from './paper';
import { Technician } from './technician';

const run = promisify(execFile);
const program = join(import.meta.dirname, '..', 'cli', 'vast-stone.mjs');

test('from the gauge to a sealed certificate that anyone can check, and a correction that names it', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  const work = new Technician(app, page);
  await work.toHold('Gas, annex', 'Sound system');
  await work.judgeHold(120);
  await work.tick();
  await work.toVerdict('Pass');

  // The technician signs on site; the customer on the certificate's page.
  await scribble(page, /Technician signs here/);
  await page.getByRole('button', { name: 'Sign as technician' }).click();
  await expect(page.getByRole('heading', { name: 'Customer or witness' })).toBeVisible();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await toCertificate(page);
  await expect(page.getByRole('button', { name: 'Seal the certificate' })).toBeDisabled();
  await expect(page.getByRole('article', { name: /^Certificate of a tightness test/ })).toContainText('Draft, not sealed');
  await page.getByRole('button', { name: 'Keep the customer’s signature' }).click();
  await expect(page.getByText('Sign in the field above.')).toBeVisible();
  await page.getByLabel('Name').fill('Sefa Dunmore');
  await scribble(page, /Customer or witness signs here/);
  await page.getByRole('button', { name: 'Keep the customer’s signature' }).click();
  await page.getByRole('button', { name: 'Seal the certificate' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Certificate \d{4}-\d{5}/);

  // Its files, and what the command line says of them.
  const pdf = await save(page, 'PDF', 'pdf');
  const json = await save(page, 'JSON', 'json');
  const csv = await readFile(await save(page, 'CSV', 'csv'), 'utf8');
  expect(csv.split('\r\n').length).toBeGreaterThan(100);
  const record = JSON.parse(await readFile(json, 'utf8'));
  expect(record.tests[0].attempts[0].judgement.verdict).toBe('pass');
  expect(record.signatures).toHaveLength(2);
  const verified = JSON.parse((await run(process.execPath, [program, 'verify', pdf])).stdout);
  expect(verified).toMatchObject({ state: 'intact, signer unknown', pages: { state: 'as sealed' }, verdict: 'pass' });
  const known = JSON.parse((await run(process.execPath, [program, 'verify', json, '--signer', verified.signer])).stdout);
  expect(known).toMatchObject({ state: 'genuine' });
  const { stdout: words } = await run('pdftotext', [pdf, '-']);
  expect(words).toContain('SIMULATED');
  expect(words).toContain('Sefa Dunmore');
  const altered = join(tmpdir(), `altered-${process.pid}.json`);
  await writeFile(altered, (await readFile(json, 'utf8')).replace('Sefa Dunmore', 'Sefa Dunmoor'));
  await expect(run(process.execPath, [program, 'verify', altered])).rejects.toMatchObject({ code: 1 });

  // Anyone, without an account.
  const code = await page.getByRole('link', { name: 'Public check page' }).getAttribute('href');
  const anyone = await app.device(browser, 'nobody', { viewport: { width: 390, height: 844 } });
  await anyone.goto(code ?? '');
  await expect(anyone.getByRole('heading', { level: 1 })).toContainText('is on file');
  await expect(anyone.getByText('Pass', { exact: true })).toBeVisible();
  await expect(anyone.getByText('Simulated', { exact: true })).toBeVisible();
  await expect(anyone.getByText('Sefa Dunmore')).toHaveCount(0);
  await anyone.getByLabel(/PDF or JSON/).setInputFiles(pdf);
  await expect(anyone.getByTestId('check-result')).toContainText('Genuine');
  await expect(anyone.getByTestId('check-result')).toContainText('exactly what the record gives');
  await expect(anyone.getByTestId('check-result')).toContainText('checked in this browser too, with the same result');
  await expect(anyone.getByRole('article')).toContainText('Sefa Dunmore');
  await anyone.getByLabel(/PDF or JSON/).setInputFiles(altered);
  await expect(anyone.getByTestId('check-result')).toContainText('Altered');
  await anyone.getByLabel(/PDF or JSON/).setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{') });
  await expect(anyone.getByText(/The file is not JSON/)).toBeVisible();
  await anyone.goto('/check/00000000000000000000000000000000');
  await expect(anyone.getByRole('heading', { level: 1 })).toHaveText('No certificate has this code');

  // A supervisor corrects the meter number: a new certificate.
  await page.getByText('Correct its particulars').click();
  await page.getByLabel('Meter number').fill('M-9999');
  await page.getByLabel('What is corrected, and why').fill('Meter number mistyped on site');
  await page.getByRole('button', { name: 'Issue the correction' }).click();
  await expect(page.getByText(/Corrects \d{4}-\d{5}: Meter number mistyped/)).toBeVisible();
  await anyone.goto(code ?? '');
  await expect(anyone.getByText(/corrects this one/)).toBeVisible();

  // And withdraws it: it stays on file, and whoever checks it is told.
  await page.getByText('Withdraw it', { exact: true }).click();
  await page.getByLabel('Why nobody is to rely on it').fill('Tested the wrong flat');
  await page.getByRole('button', { name: 'Withdraw the certificate' }).click();
  await expect(page.getByText(/Withdrawn on .*: Tested the wrong flat/)).toBeVisible();
  await anyone.goto('/check');
  await anyone.getByLabel(/PDF or JSON/).setInputFiles(await save(page, 'PDF', 'pdf'));
  await expect(anyone.getByTestId('check-result')).toContainText(
    'The firm has withdrawn this certificate: do not rely on it. Tested the wrong flat',
  );
});

test('a signature is voided by what is written after it', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.toHold('Gas, flat above', 'Sound system');
  await work.judgeHold(120);
  await work.tick();
  await work.toVerdict('Pass');
  await scribble(page, /Technician signs here/);
  await page.getByRole('button', { name: 'Sign as technician' }).click();
  await expect(page.getByRole('heading', { name: 'Customer or witness' })).toBeVisible();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  // Gas is smelt after the signature: another verdict, which nobody has signed yet.
  const address = page.url();
  await page.goto(address.replace('&view=verdict', ''));
  await work.phase(/^All phases are done/);
  await page.getByRole('button', { name: /^Smell of gas/ }).click();
  await page.getByRole('button', { name: /^Gas was smelt/ }).click();
  await work.phase(/^Smell of gas/);
  await work.tick();
  await work.phase(/^Leave it safe/);
  await work.tick();
  await work.toVerdict('Fail');
  await expect(page.getByRole('heading', { name: 'Technician' })).toBeVisible();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await toCertificate(page);
  await expect(page.getByText(/Something was written after Iola Marsh signed/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Seal the certificate' })).toBeDisabled();
});

test.describe('by hand in psi and °F, on a phone: the paper claims what was read, and nothing else', () => {
  /** Ten minutes at 50 psi on a real gauge, the start's temperature typed with no signal, and a reload before the end. */
  const toEnd = async (work: Technician) => {
    const { app, page } = work;
    await work.openPlan('Water, coffee van', 'Vehicle water');
    await work.answerAsUsual();
    await work.takeGauge(/^Main gauge/);
    await choose(page, 'Thermometer', 'Pipe clip, van 1, steps of 0.1 °C');
    await page.getByRole('button', { name: 'Start the test' }).click();
    await page.waitForURL(/run=/);
    await work.tick();
    await work.tick();
    await work.stamped(/^Read zero/, '0');
    await work.stamped(/^Stamp the start/, '50');
    await page.route('**/api/field/sync', (route) => route.abort());
    await degrees(page, 'start', '64.4 F');
    await page.reload();
    await expect(page.getByTestId('countdown')).toBeVisible();
    await page.unroute('**/api/field/sync');
    await app.pass(601);
    await work.stamped(/^Stamp the end/, '50');
    await expect(page.getByTestId('say')).toHaveText('The end is in. Read the temperature now: it belongs to this hold.');
  };
  const degrees = async (page: Page, end: string, typed: string) => {
    // What the plan names is wanted; a barometer that it does not name is not.
    await page.getByRole('button', { name: `Hold, ${end}, not read yet: pipe temperature, barometer (if there is one)` }).click();
    await page.getByRole('textbox', { name: 'Pipe temperature' }).fill(typed);
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
  };
  const phone = { viewport: { width: 390, height: 844 } };

  test('read at both ends, the thermometer sharpens the claim and stands on the paper with its serial', async ({ app, browser }) => {
    const work = new Technician(app, await app.device(browser, 'wren', phone));
    const { page } = work;
    await toEnd(work);
    await degrees(page, 'end', '64.4 F');
    await work.goOn();
    await work.toVerdict('Pass');
    await expect(page.getByTestId('sight').first()).toContainText('the pipe’s drift is known to 0.2 K by its thermometer');
    const words = await sealedPaper(page);
    expect(words).toMatch(/In the plumbing: sure of leaks above [\d.]+ L\/h; a smaller one may pass; if nothing else moves/);
    expect(words).toMatch(/Pipe clip, van 1 \S+ steps of 0\.1 °C/);
    expect(words).not.toContain('SIMULATED');
  });

  test('left out at the end, the hold proves nothing and its paper claims nothing', async ({ app, browser }) => {
    const work = new Technician(app, await app.device(browser, 'wren', phone));
    const { page } = work;
    await toEnd(work);
    await page.getByRole('button', { name: /^Not read at the end: go on without the temperature/ }).click();
    await expect(page.getByText(/needs the pipe’s temperature at start and end/).first()).toBeVisible();
    await page.getByRole('button', { name: 'End the test here' }).click();
    await page.getByLabel('Why?').fill('The clip was left in the van');
    await page.getByRole('button', { name: /^End the whole test/ }).click();
    await work.goOn();
    await work.toVerdict('Inconclusive');
    const words = await sealedPaper(page);
    expect(words).toContain('In the plumbing: it was not tested to an answer, and nothing is claimed of it.');
    expect(words).not.toMatch(/sure of leaks above/i);
  });
});
