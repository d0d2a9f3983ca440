import { execFile } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, type Page } from '@playwright/test';

/** Signs by hand in the field of that name. */
export async function scribble(page: Page, label: RegExp): Promise<void> {
  const field = page.getByLabel(label);
  await field.scrollIntoViewIfNeeded();
  const box = await field.boundingBox();
  if (box === null) throw new Error('no field to sign in');
  await page.mouse.move(box.x + 20, box.y + 60);
  await page.mouse.down();
  for (let step = 1; step < 12; step += 1) await page.mouse.move(box.x + 20 + step * 15, box.y + 60 + (step % 2) * 25);
  await page.mouse.up();
}

/** Saves a file that the page offers; answers where. */
export async function save(page: Page, name: string, extension: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name, exact: true }).click()]);
  const path = join(tmpdir(), `certificate-${process.pid}.${extension}`);
  await file.saveAs(path);
  return path;
}

/** From a verdict to its certificate: waited for, since the page that is left has a form to sign of the same name. */
export async function toCertificate(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Certificate', exact: true }).click();
  await page.waitForURL(/\/certificates\/test\//);
}

/** From a verdict on the screen: signed on site, signed by the customer, sealed; answers what the paper says in its reading order, in one line. */
export async function sealedPaper(page: Page): Promise<string> {
  await scribble(page, /Technician signs here/);
  await page.getByRole('button', { name: 'Sign as technician' }).click();
  await expect(page.getByRole('heading', { name: 'Customer or witness' })).toBeVisible();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await toCertificate(page);
  await page.getByLabel('Name').fill('Sefa Dunmore');
  await scribble(page, /Customer or witness signs here/);
  await page.getByRole('button', { name: 'Keep the customer’s signature' }).click();
  await page.getByRole('button', { name: 'Seal the certificate' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Certificate \d{4}-\d{5}/);
  const { stdout } = await promisify(execFile)('pdftotext', ['-raw', await save(page, 'PDF', 'pdf'), '-']);
  return stdout.replace(/\s+/g, ' ');
}
