import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';

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
