import type { Page } from '@playwright/test';
import { expect, openSite, test } from './app';

/* Two devices change the same from the same beginning, one of them with no signal: both are kept, and a person chooses. */

const siteName = 'Slab Annex';

async function occupiedBy(page: Page, occupier: string): Promise<void> {
  await page.getByRole('button', { name: 'Change the site' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Occupier', { exact: true }).fill(occupier);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
}

/** What the register has, as somebody else's device sees it. */
async function occupier(page: Page): Promise<string> {
  await openSite(page, siteName);
  await page.getByRole('button', { name: 'Change the site' }).click();
  return await page.getByRole('dialog').getByLabel('Occupier', { exact: true }).inputValue();
}

test.use({ serviceWorkers: 'allow' });

test('a site changed on two devices: what came second is kept beside what stands, and one press chooses', async ({ app, browser }) => {
  const first = await app.device(browser, 'iola', { viewport: { width: 390, height: 844 }, serviceWorkers: 'allow' });
  const second = await app.device(browser, 'tomasz');
  await first.goto('/field');
  await first.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await expect.poll(() => first.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
  await openSite(first, siteName);
  await openSite(second, siteName);
  await first.context().setOffline(true);
  await occupiedBy(first, 'Orla Penhale');
  await expect(first.getByTestId('signal')).toContainText(/no signal · 1 to send/);
  await occupiedBy(second, 'Bram Oduya');
  await expect(second.getByTestId('signal')).toHaveText('Saved and sent');
  await first.context().setOffline(false);
  await expect(first.getByTestId('signal')).toHaveText('Saved and sent');

  const clash = first.getByRole('region', { name: `Two versions of ${siteName}` });
  await expect(clash).toContainText('Of Slab Annex the occupier stands as “Bram Oduya”; Iola');
  await expect(clash).toContainText('wrote “Orla Penhale”');
  await expect.poll(() => occupier(second)).toBe('Bram Oduya');
  await clash.getByRole('button', { name: /^Take what Iola/ }).click();
  await expect(clash).toHaveCount(0);
  await expect(first.getByTestId('signal')).toHaveText('Saved and sent');
  await expect.poll(() => occupier(second)).toBe('Orla Penhale');
});
