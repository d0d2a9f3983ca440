import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { faults, themes } from './axe';
import { fill } from './choosing';
import { Technician } from './technician';

test('the office pages, in both themes', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/sites');
  const site = (await page.getByRole('main').last().getByRole('link').first().getAttribute('href')) ?? '';
  await page.goto('/certificates');
  const certificate = (await page.getByRole('main').last().getByRole('link').first().getAttribute('href')) ?? '';
  for (const theme of themes) {
    await page.evaluate((name) => localStorage.setItem('vast-stone-theme', name), theme);
    for (const path of [
      '/today',
      '/sites',
      site,
      '/certificates',
      certificate,
      `/certificates/${/certificate=([0-9a-f-]+)/.exec(certificate)?.[1]}/receipt`,
      '/firm',
      '/mail',
      '/instruments',
      '/procedures',
      '/procedures/domestic-gas-millibar',
      '/procedures/drain-level-hold',
      '/procedures/duct-tightness/kit',
      '/procedures/compare?first=domestic-gas-millibar&second=gas-leak-rate',
      '/check',
      '/bench',
      '/bench?sum=duct-points&limit=16',
      '/bench?sum=leak-rate&volume=none',
      '/check/00000000000000000000000000000000',
    ]) {
      await page.goto(path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      expect(await page.evaluate(() => document.documentElement.dataset.theme ?? 'limestone')).toBe(theme);
      expect({ theme, path, faults: await faults(page, theme) }).toEqual({ theme, path, faults: [] });
    }
  }
  const nobody = await app.device(browser, 'nobody');
  await nobody.goto('/sign-in');
  expect(await faults(nobody)).toEqual([]);
});

/** Says that a view has no faults, in both themes. */
const cleanIn = (page: Page) => async (where: string) => {
  for (const theme of themes) {
    await page.evaluate((name) => {
      document.documentElement.dataset.theme = name;
    }, theme);
    expect({ where, theme, faults: await faults(page, theme) }).toEqual({ where, theme, faults: [] });
  }
};

test('plan, run, keypad, dialogs and verdict, on a phone, in both themes', async ({ app, browser }) => {
  const page = await app.device(browser, 'tomasz', { viewport: { width: 390, height: 844 } });
  const work = new Technician(app, page);
  const clean = cleanIn(page);
  for (const place of ['/field', '/field?at=sites', '/field?at=instruments']) {
    await page.goto(place);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await clean(place);
  }
  await work.openPlan('Gas, flat 3');
  await clean('plan');
  await page.getByRole('button', { name: 'Start the test' }).click();
  await clean('plan, open questions');
  await work.answerAsUsual();
  const supply = await fill(page, 'Supply pressure, up to', '99');
  await clean('plan refused');
  await supply.fill('75');
  await work.begin('Gas, flat 3');
  await page.getByRole('button', { name: /^Understood/ }).waitFor();
  await clean('cautions');
  await work.plant('Sound system');
  await clean('checklist');
  for (const dialog of ['Disturbed', 'Photo', 'Note', 'Pipe °C', 'Leak seen', 'End early']) {
    await page.getByRole('button', { name: new RegExp(`^${dialog}`) }).click();
    await page.getByRole('dialog').waitFor();
    await clean(dialog);
    await page.keyboard.press('Escape');
  }
  await work.tick();
  await work.zero();
  await work.phase(/^Let-by/);
  await page.getByRole('button', { name: /^Stamp the start/ }).click();
  await page.getByRole('textbox').fill('114');
  await clean('keypad');
  await page.getByRole('button', { name: 'Discard this stamp' }).click();
  await work.readStart();
  await app.pass(20);
  await clean('let-by runs');
  await page.goto(`${page.url()}&view=verdict`);
  await page.getByTestId('verdict').waitFor();
  await clean('verdict');
});

test('several tests at once, a gauge’s log, the day, the search for a leak and its sections, in both themes', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  const work = new Technician(app, page);
  const clean = cleanIn(page);
  await work.begin('Ducts, bakehouse', 'simulated');
  const ducts = new URL(page.url()).searchParams.get('run');
  await work.plant('Leaky ducts');
  await work.goOn();
  await work.toVerdict('Fail');
  await clean('verdict of ducts');
  await page.keyboard.press('1');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Find the leak');
  await clean('locate');
  await page.keyboard.press('c');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sections');
  await page.keyboard.press('n');
  await page.getByRole('button', { name: 'Save the sections' }).click();
  await expect(page.getByText('Name the section, such as “Cooker branch”.')).toBeVisible();
  await clean('sections refused');
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
  await work.begin('Gas, flat 3');
  const gas = new URL(page.url()).searchParams.get('run');
  await work.understood();
  await page.goto(`/field?run=${ducts}&beside=${gas}`);
  await expect(page.getByRole('region', { name: 'Now', exact: true })).toHaveCount(2);
  await clean('side by side');
  await page.goto(`/field?run=${gas}`);
  await work.tick();
  await work.zero();
  await work.phase(/^Let-by/);
  await page.keyboard.press('f');
  await page.getByRole('dialog').waitFor();
  await clean('log file');
  await page.goto('/sites');
  await page.getByRole('link', { name: /^Slab Annex/ }).click();
  await page.getByRole('button', { name: 'Add a system' }).click();
  await page.getByRole('dialog').waitFor();
  await clean('a system to be added');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Plan a visit' }).click();
  for (const system of ['Drains, annex', 'Water, annex']) await page.getByRole('button', { name: `+ ${system}` }).click();
  await page.getByRole('region', { name: 'Alarms' }).waitFor();
  await clean('visit');
});
