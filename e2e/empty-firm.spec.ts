import type { Locator, Page } from '@playwright/test';
import { App, expect, setUpFirm, test } from './app';
import { choose } from './choosing';
import { sealedPaper } from './paper';
import { Technician } from './technician';

/* A whole job as a new firm does it: nothing is there before, a real gauge is typed, in psi, with no signal from the plan to the verdict. */

const fillAll = async (scope: Page | Locator, fields: Readonly<Record<string, string>>) => {
  for (const [label, text] of Object.entries(fields)) await scope.getByLabel(label, { exact: true }).fill(text);
};
const day = (from: number) => new Date(Date.now() + from * 86_400_000).toISOString().slice(0, 10);

/** A site with its system and a gauge, as they are made on a phone; all of it before there is any signal again. */
async function register(page: Page): Promise<void> {
  const dialog = page.getByRole('dialog');
  const save = async () => {
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
  };
  await page.goto('/field?at=sites');
  await page.getByRole('button', { name: 'Add a site' }).click();
  await fillAll(dialog, { Name: 'Net loft', Address: '3 Slip Lane' });
  await save();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Net loft');
  await page.getByRole('button', { name: 'Add a system' }).click();
  await choose(dialog, 'Kind', 'Gas');
  await fillAll(dialog, { Name: 'Gas, loft', 'Pipe schedule': '3/4sch40 60ft\n1/2sch40 40ft' });
  await save();
  await expect(page.getByRole('heading', { name: /^Gas, loft/ })).toBeVisible();

  await page.goto('/field?at=instruments');
  await page.getByRole('button', { name: 'Add an instrument' }).click();
  await fillAll(dialog, { Name: 'Van gauge', 'Smallest movement that it shows': '0.05', 'Range to': '6', 'Serial number': 'VG-1' });
  await choose(dialog, 'Unit', 'psi (pressure)');
  await save();
  await expect(page.getByText('No calibration on file: tests would be invalid')).toBeVisible();
}

async function calibrated(page: Page): Promise<void> {
  await page.goto('/field?at=instruments');
  await page.getByRole('button', { name: 'Record a calibration' }).first().click();
  const dialog = page.getByRole('dialog');
  await fillAll(dialog, { 'Calibrated on': day(-30), 'Next due': day(300), 'Certificate’s reference': 'C-1' });
  await dialog.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText('No calibration on file')).toHaveCount(0);
}

test.describe('from an empty firm', () => {
  test.use({ serviceWorkers: 'allow' });

  test('site, system, gauge; the plan, the hold and the verdict with no signal, typed in psi; the sealed paper', async ({
    browser,
  }, info) => {
    const app = await App.open(`empty${info.workerIndex}`, 'empty');
    try {
      const page = await app.device(browser, 'nobody', { serviceWorkers: 'allow', viewport: { width: 390, height: 844 } });
      const work = new Technician(app, page);
      await setUpFirm(app, page);
      await expect(page.getByText(/^No systems yet\. Add a site and its systems, then your gauges/)).toBeVisible();

      // From here on there is no signal: the site, its system and the gauge are made on the device.
      await page.goto('/field');
      await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
      await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Today');
      await page.context().setOffline(true);
      await register(page);
      await page.goto('/field');
      await expect(page.getByRole('region', { name: 'Needs a hand' })).toContainText('No calibration on file: Van gauge VG-1');
      await expect(page.getByRole('region', { name: 'Next' })).toContainText('never tested here');

      // Never calibrated: the plan says so, in words, and not as a date.
      await work.openPlan('Gas, loft', 'Gas piping under air');
      await expect(page.getByRole('radio', { name: /Van gauge/ }).first()).toHaveAccessibleName(/no calibration on file/);
      await expect(page.getByText('0001')).toHaveCount(0);
      await calibrated(page);

      await work.openPlan('Gas, loft', 'Gas piping under air');
      await work.answerAsUsual({ stages: 'first', building: 'single dwelling' });
      await page
        .getByRole('radio', { name: /Van gauge/ })
        .first()
        .check();
      await page.getByRole('button', { name: /The plan$/ }).click();
      const sheet = page.getByRole('dialog');
      await expect(sheet).toContainText('3.00–3.50 psi');
      await expect(sheet).toContainText('No perceptible fall: 0.05 psi or more counts.');
      await sheet.getByRole('button', { name: 'Close' }).click();
      await page.getByRole('button', { name: 'Start the test' }).click();
      await page.waitForURL(/run=/);
      await work.tick();
      await work.stamped(/^Read zero/, '0.00');
      await work.phase(/^Stage 1 hold/);
      // Above the band nothing begins; what to do is said instead, and the figure stays on record.
      await page.getByRole('button', { name: /^Stamp the start/ }).click();
      await page.getByRole('textbox').fill('4.10');
      await work.enter();
      await expect(page.getByText('4.10: bleed to 3.00–3.50 psi, then read again.')).toBeVisible();
      await expect(page.getByRole('textbox')).toHaveCount(0);
      await expect(page.getByTestId('countdown')).toHaveCount(0);
      await work.stamped(/^Stamp the start/, '3.45');
      await expect(page.getByTestId('countdown')).toBeVisible();
      await app.pass(901);
      await work.stamped(/^Stamp the end/, '3.45');
      await work.tick();
      await work.toVerdict('Pass');
      await expect(page.getByTestId('signal')).toContainText(/no signal · \d+ to send/);

      await page.context().setOffline(false);
      await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
      await expect(page.getByTestId('verdict')).toHaveText('Pass');
      const words = await sealedPaper(page);
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(/-00001$/);
      for (const said of ['Net loft', 'Van gauge VG-1', '3.45', `calibrated ${day(-30)}, due ${day(300)}`, 'Sefa Dunmore'])
        expect(words).toContain(said);
      // A gauge was read by hand: nothing of it was simulated, and the paper does not say so.
      expect(words).not.toMatch(/simulated/i);
    } finally {
      await app.close();
    }
  });
});
