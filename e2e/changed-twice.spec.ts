import type { Page } from '@playwright/test';
import { Client } from 'pg';
import { type App, expect, test } from './app';

/* Two devices change the same from the same beginning, one of them with no signal: both are kept, and a person chooses. */

const siteName = 'Slab Annex';

async function openSite(page: Page): Promise<void> {
  await page.goto('/field?at=sites');
  await page.getByRole('searchbox').fill(siteName);
  await page
    .getByRole('main')
    .getByRole('link', { name: new RegExp(`^${siteName}`) })
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(siteName);
}

async function occupiedBy(page: Page, occupier: string): Promise<void> {
  await page.getByRole('button', { name: 'Change the site' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Occupier', { exact: true }).fill(occupier);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
}

const written = async (app: App, page: Page) => {
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  const owner = new Client({ connectionString: app.database.ownerUrl });
  await owner.connect();
  const { rows } = await owner.query('SELECT occupier FROM site WHERE name = $1', [siteName]);
  await owner.end();
  expect(rows).toHaveLength(1);
  return rows[0].occupier as string;
};

test('a site changed on two devices: what came second is kept beside what stands, and one press chooses', async ({ app, browser }) => {
  const first = await app.device(browser, 'iola', { viewport: { width: 390, height: 844 } });
  const second = await app.device(browser, 'tomasz');
  await openSite(first);
  await openSite(second);
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
  expect(await written(app, first)).toBe('Bram Oduya');
  await clash.getByRole('button', { name: /^Take what Iola/ }).click();
  await expect(clash).toHaveCount(0);
  await expect.poll(() => written(app, first)).toBe('Orla Penhale');
});
