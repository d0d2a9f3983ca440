import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { Technician } from './technician';

/** Sums up, in kB as a server packs it, all script that a page began to fetch before its first button worked; all of it where it has none. */
async function weighed(page: Page, address: string): Promise<number> {
  const bodies = new Map<string, Promise<number>>();
  page.on('response', (response) => {
    if (/\.m?js(\?|$)/.test(response.url()))
      bodies.set(
        response.url(),
        response.body().then((body) => gzipSync(body).length),
      );
  });
  await page.addInitScript(() => {
    const look = () => {
      const works = [...document.querySelectorAll<HTMLButtonElement>('main button')].find((button) => !button.disabled);
      if (works !== undefined) performance.mark('first button', { detail: works.textContent });
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await page.goto(address);
  await page.waitForLoadState('networkidle');
  const begun = await page.evaluate(() => {
    const [mark] = performance.getEntriesByName('first button');
    return performance
      .getEntriesByType('resource')
      .filter(({ startTime }) => mark === undefined || startTime <= mark.startTime)
      .map(({ name }) => name);
  });
  const sizes = await Promise.all(begun.map((name) => bodies.get(name)));
  return sizes.reduce<number>((sum, one) => sum + (one ?? 0), 0) / 1000;
}

test('a run waits for at most 90 kB of script above an empty page until its first button works', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola', { viewport: { width: 390, height: 844 } });
  await new Technician(app, page).begin('Gas, annex', /^(?!Simulated)/);
  const empty = await weighed(await page.context().newPage(), `${app.url}/check/nothing/here`);
  // Opened as from the home screen: nothing of it is in the page yet.
  const run = await weighed(await page.context().newPage(), page.url());
  console.log(`script of a run: ${(run - empty).toFixed(1)} kB above ${empty.toFixed(1)} kB`);
  expect(empty).toBeGreaterThan(100);
  expect(run - empty).toBeLessThanOrEqual(90);
});
