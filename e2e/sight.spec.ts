import { expect, test } from './app';
import { choose, unfold, unfoldIfThere } from './choosing';
import { Technician } from './technician';

/* What a test can see: two figures at the plan, what sharpens them, the chance of a pass, and what is said where no figure can be given. */

test('a thermometer that the plan names sharpens what it is sure of; the chance of a pass is worked out, stopped, and kept', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Gas piping, new unit 7', 'Gas piping under air');
  await work.answerAsUsual();
  const sheet = page.getByRole('region', { name: 'Plan sheet' });
  const sight = sheet.getByTestId('sight').first();
  await expect(sight).toContainText('the pipe drifts no more than 0.5 K');
  // What may move unnoticed more than the limit itself is said before anything is connected.
  await expect(
    sheet.getByText(/In the controls, with the stops open, what may move unnoticed .* is more than the limit itself/),
  ).toBeVisible();
  const sure = async () => Number((await sight.locator('dd').first().innerText()).split(/\s/)[0]);
  const before = await sure();
  await page.getByRole('button', { name: /Take it: Read the pipe’s temperature on Pipe clip/ }).click();
  await expect(sight).toContainText('the pipe’s drift is known to 0.2 K by its thermometer');
  expect(await sure()).toBeLessThan(before);
  await expect(page.getByLabel('Thermometer')).toContainText('Pipe clip, van 1');
  await expect(page.getByText('Named, it must be read at both ends.').first()).toBeVisible();

  await sheet.getByText('How likely a leak passes, by its size').click();
  await sheet.getByRole('button', { name: /Work out the chance/ }).click();
  await expect(sheet.getByRole('progressbar', { name: 'Simulated tests done' })).toBeVisible();
  await sheet.getByRole('button', { name: 'Stop' }).click();
  await expect(sheet.getByRole('button', { name: /Work out the chance/ })).toBeVisible();
  await sheet.getByRole('button', { name: /Work out the chance/ }).click();
  await expect(sheet.getByTestId('detection')).toContainText('Caught 95 times in 100 from', { timeout: 60_000 });
  await expect(sheet.getByTestId('detection')).toContainText('Simulated: 200 tests of each size');
  await page.reload();
  // Kept by the plan: it stands there at once.
  await sheet.getByText('How likely a leak passes, by its size').click();
  await expect(sheet.getByTestId('detection')).toContainText('Caught 95 times in 100 from');
  // The other part has a curve of its own, which nobody has asked for yet.
  const parts = sheet.getByRole('radiogroup', { name: 'Part that is looked at' });
  await expect(parts.getByRole('radio', { name: 'the piping up to the stops' })).toBeChecked();
  await parts.getByRole('radio', { name: 'the controls, with the stops open' }).focus();
  await page.keyboard.press('Space');
  await expect(sheet.getByRole('button', { name: /Work out the chance/ })).toBeVisible();
});

test('where nobody knows the volume the limits stand without a rate; where they go by it, it is asked for', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Water, annex', 'Water isolation');
  await work.answerAsUsual();
  const sheet = page.getByRole('region', { name: 'Plan sheet' });
  await expect(sheet.getByTestId('sight').first()).toContainText('Sure of leaks above');
  await unfold(page, /^Pipes/);
  await choose(page, 'How the volume is known', 'Not known');
  await expect(sheet.getByText('Not known: limits stand without a rate.')).toBeVisible();
  await expect(sheet.getByTestId('sight').first()).toContainText(/nobody knows the volume/i);
  await sheet.getByText('How likely a leak passes, by its size').click();
  await expect(sheet.getByText(/a leak has no size to draw the chance against/)).toBeVisible();
});

test('run and verdict say what the test can see, and by how many degrees a fall is explained', async ({ app, browser }) => {
  const work = new Technician(app, await app.device(browser, 'iola'));
  const { page } = work;
  await work.begin('Gas, canteen', 'simulated');
  await work.plant('Leak in the pipework');
  await work.goOn({ until: 'hold' });
  await expect(page.getByTestId('can-see')).toContainText(
    /Sure of leaks above [\d.]+ L\/h; a smaller one may pass; if nothing else moves, leaks from [\d.]+ L\/h\./i,
  );
  await work.goOn();
  await work.toVerdict('Fail');
  await expect(page.getByTestId('sight').first()).toContainText('Sure of leaks above');
  await unfoldIfThere(page, /^Also noted/);
  await expect(
    page.getByText(/Hold: a fall of [\d.]+ mbar is what a pipe that cools by [\d.]+ °C makes by itself\./).first(),
  ).toBeAttached();
});

test('Procedures: what was proved of a claim, and that what never passes has no curve', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  await page.goto('/procedures/domestic-gas-millibar');
  await expect(page.getByTestId('proved')).toContainText(/of 400 leaks of 1\.05 to 1\.5 times what it is sure of, none passed/);
  await expect(page.getByTestId('proved')).toContainText(/of 400 sound systems [\d.]+ % passed/);
  await page.goto('/procedures/pool-dye-static');
  await expect(page.getByText('This procedure never passes anything')).toBeVisible();
});

test('Bench speaks the same two figures, and refuses what is absurd', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  await page.goto('/bench');
  await page.locator('#calculation-hold-time').click();
  await expect(page.getByText('Your hold is sure of leaks above')).toBeVisible();
  await expect(page.getByText('If nothing else moves, it shows leaks from')).toBeVisible();
  await page.getByLabel('The pipe may drift unnoticed by', { exact: true }).fill('30');
  await expect(page.getByText(/drift/i).filter({ hasText: /0 .*5/ }).first()).toBeVisible();
  await page.getByLabel('The pipe may drift unnoticed by', { exact: true }).fill('');
  await page.getByLabel('Valve before it watched for', { exact: true }).fill('5');
  await page.getByLabel('Pressure before that valve, where it is known', { exact: true }).fill('2');
  await expect(page.getByText('must be above that of the hold').first()).toBeVisible();
});
