import type { Page } from '@playwright/test';
import { calculations } from '../src/core/bench';
import { App, expect, test } from './app';
import { choose } from './choosing';

const answer = (page: Page) => page.getByRole('region', { name: 'Answer' });
const figure = (page: Page) => answer(page).locator('dd .figures').first();

test('a sum signed out: live, in other units, by its address, and back again', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  await page.goto('/sign-in');
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(figure(page)).toHaveText('3.553');

  await page.getByLabel('Gas volume', { exact: true }).fill('1,2');
  await page.getByLabel('Gauge at the start', { exact: true }).fill('20.5');
  await page.getByLabel('Gauge at the end', { exact: true }).fill('20');
  await page.getByLabel('Time between', { exact: true }).fill('5');
  await expect(figure(page)).toHaveText('0.007106');
  await choose(answer(page), 'Unit of leak', 'mL/min');
  await expect(figure(page)).toHaveText('0.1184');
  // Another unit of what was typed converts it; it may have been meant so.
  await choose(page, 'Unit of time between', 's');
  await expect(page.getByLabel('Time between', { exact: true })).toHaveValue('300');
  await expect(figure(page)).toHaveText('0.1184');
  await page.getByRole('button', { name: /keep the number, 5 s/ }).click();
  await expect(figure(page)).toHaveText('7.106');
  await expect(answer(page).getByRole('img')).toHaveAccessibleName(/Leak rate from a fall: Leak, L\/h against Volume, L.*Marked/);
  await expect(answer(page).getByText(/^q = V × Δp/)).toBeVisible();

  const address = page.url();
  expect(decodeURIComponent(address)).toContain('volume=1,2');
  const other = await app.device(browser, 'nobody');
  await other.goto(address);
  await expect(other.getByLabel('Gas volume', { exact: true })).toHaveValue('1,2');
  await expect(figure(other)).toHaveText('0.4264');

  await page.getByRole('link', { name: 'Stored energy and end thrust' }).click();
  await expect(figure(page)).toHaveText('120.2');
  await expect(answer(page).getByText(/stay clear, one person at the valve/)).toBeVisible();
  await page.goBack();
  await expect(page.getByLabel('Time between', { exact: true })).toHaveValue('5');
});

test('by the keyboard alone', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  await page.goto('/bench');
  await expect(figure(page)).toHaveText('3.553');
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Volume of pipework');
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Hold time and what it can see');
  await page.keyboard.press('e');
  await page.keyboard.type('120');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('0.05 psi');
  // 120 L, a step of 0.05 psi twice, half a kelvin, and from an hour on the barometer.
  await expect(figure(page)).toHaveText('73');
  await page.keyboard.press('Escape');
  await page.keyboard.press('r');
  await expect(page.getByLabel('Gas volume', { exact: true })).toHaveValue('60');
  await page.goBack();
  await expect(page.getByLabel('Gas volume', { exact: true })).toHaveValue('120');
  await page.keyboard.press('b');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Volume of pipework');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys on Bench' })).toBeVisible();
});

test('every calculation opens by its address with an answer, its picture, its sum and its limits', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody', { viewport: { width: 390, height: 844 } });
  await page.goto('/bench');
  await expect(figure(page)).toBeVisible();
  expect(calculations).toHaveLength(11);
  for (const { id, title } of calculations) {
    await choose(page, 'Calculation', title);
    if (id !== calculations[0].id) await expect(page).toHaveURL(new RegExp(`sum=${id}`));
    await expect(figure(page)).toHaveText(/^\d/);
    await expect(answer(page).getByRole('img')).toBeVisible();
    await expect(answer(page).getByText('Where it holds')).toBeVisible();
    // Nothing runs over the side of a phone.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  }
});

test('what cannot be is said beside its field, and what was typed stays', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  const said = async (address: string, sentence: RegExp) => {
    await page.goto(address);
    await expect(page.getByText(sentence).first()).toBeVisible();
    await expect(figure(page)).toHaveCount(0);
  };
  await said('/bench?sum=leak-rate&volume=0', /it must lie between 0.001 and 1000000 L/);
  await said('/bench?sum=leak-rate&volume=-3', /Gas volume: it must be above zero/);
  await expect(page.getByLabel('Gas volume', { exact: true })).toHaveValue('-3');
  await said('/bench?sum=leak-rate&volume=3+psi', /“psi” is not a unit of volume known here/);
  await said(
    '/bench?sum=refrigerant&fluid=R744&temperature=40',
    /R744 has no saturation pressure. Take the permitted pressure from the nameplate/,
  );
  await said('/bench?sum=make-up&material=PE', /Polyethylene creeps/);
  await said('/bench?sum=duct-points&points=25', /Line 1: “25” is no point/);
  await page.goto('/bench?sum=duct-points&points=50+20%0A25+19');
  await expect(answer(page).getByText(/physically impossible/)).toBeVisible();
  await page.goto('/bench?sum=gibberish');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Leak rate from a fall');
});

test('a key is answered within a frame', async ({ app, browser }) => {
  const page = await app.device(browser, 'nobody');
  for (const [id, label] of [
    ['hold-time', 'Gas volume'],
    ['duct-points', 'Reference pressure'],
    ['refrigerant', 'Design temperature of the side'],
  ]) {
    await page.goto(`/bench?sum=${id}`);
    await page.getByLabel(label, { exact: true }).waitFor();
    const taken = await page.getByLabel(label, { exact: true }).evaluate(async (field: HTMLInputElement) => {
      const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
      const times: number[] = [];
      for (let key = 0; key < 40; key += 1) {
        write?.call(field, String(20 + (key % 9)));
        const before = performance.now();
        field.dispatchEvent(new Event('input', { bubbles: true }));
        // React answers a key at once, before the event's microtasks are over.
        await Promise.resolve();
        times.push(performance.now() - before);
        await new Promise((resolve) => requestAnimationFrame(resolve));
      }
      return times.sort((a, b) => a - b)[20];
    });
    // A frame is 16 ms; the rest is room for a machine that others use too. The figure itself is printed.
    expect(taken, `${id}: ${taken} ms`).toBeLessThan(50);
    console.log(`Bench answers a key: ${id} ${taken.toFixed(1)} ms`);
  }
});

test.describe('with no signal', () => {
  test.use({ serviceWorkers: 'allow' });

  test('Bench opens and works, for somebody who never signed in', async ({ browser }, info) => {
    const app = await App.open(`bench${info.workerIndex}`);
    try {
      const page = await app.device(browser, 'nobody', { serviceWorkers: 'allow' });
      await page.goto('/bench');
      await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
      await page.waitForFunction(() =>
        caches
          .keys()
          .then(async (names) =>
            (await Promise.all(names.map(async (name) => (await (await caches.open(name)).keys()).length))).some((count) => count > 5),
          ),
      );
      await page.context().setOffline(true);
      await page.goto('/bench?sum=test-dial');
      await expect(figure(page)).toHaveText('0.06');
      await page.getByLabel('Turned by', { exact: true }).fill('0.04');
      await expect(figure(page)).toHaveText('0.12');
    } finally {
      await app.close();
    }
  });
});
