import { expect, test } from './app';
import { choose } from './choosing';
import { Technician } from './technician';

/* The search for a leak by keys, on a system whose parts are counted on site. */

test('sections are counted on site, wrong ones refused and kept; the search follows them; what was mistaken is withdrawn', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'tomasz');
  const work = new Technician(app, page);
  const press = (key: string) => page.keyboard.press(key);
  await work.begin('Gas, unit 3', 'simulated');
  await work.plant('Leak in the pipework');
  await work.goOn();
  await work.toVerdict('Fail');
  await press('1');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Find the leak');
  const schematic = page.getByRole('region', { name: 'Schematic' });
  const share = async (section: string) =>
    Number(new RegExp(`${section} (\\d+) %`).exec((await schematic.locator('svg').getAttribute('aria-label')) ?? '')?.[1]);
  await press('1');
  await expect(page.getByText('Its own joints stayed dry.')).toBeVisible();
  await press('2');
  await expect(page.getByText('Checked against another gauge.')).toBeVisible();

  // A branch behind the wall, old, with many joints: first typed wrongly.
  await press('c');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sections');
  const form = page.getByRole('form', { name: 'Sections' });
  await press('n');
  const added = form.getByRole('listitem').last();
  await added.getByLabel('Joints').fill('a dozen');
  await form.getByRole('button', { name: 'Save the sections' }).click();
  await expect(added.getByText('Name the section, such as “Cooker branch”.')).toBeVisible();
  await expect(added.getByText(/^Count its joints as a whole number/)).toBeVisible();
  await page.reload();
  await expect(added.getByLabel('Joints')).toHaveValue('a dozen');
  await added.getByLabel('Name').fill('Old riser');
  await choose(added, 'Hangs on', 'Pipework');
  await added.getByLabel('Joints').fill('40');
  await added.getByLabel('Years').fill('60');
  await added.getByLabel('Hidden').check();
  await form.getByRole('button', { name: 'Save the sections' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Find the leak');
  await expect.poll(() => share('Old riser')).toBeGreaterThan(60);
  await expect(page.getByTestId('recommended')).toContainText('Old riser');

  // Looked at by key, the wrong one, and withdrawn.
  const log = page.getByRole('region', { name: 'Search log' });
  const looks = log.getByRole('listitem').filter({ hasText: 'Old riser' });
  const before = await share('Old riser');
  await press('o');
  await page.keyboard.press('Escape');
  await choose(page, 'Section', 'Old riser');
  await page.getByRole('heading', { name: 'Find the leak' }).click();
  await choose(page, 'Method', 'gas sniffer');
  await page.getByRole('heading', { name: 'Find the leak' }).click();
  await press('n');
  await expect(looks).toHaveCount(1);
  await expect.poll(() => share('Old riser')).toBeLessThan(before);
  await looks.getByRole('button', { name: 'Withdraw…' }).click();
  await looks.getByLabel('Why does it not stand?').fill('That was the cooker branch');
  await looks.getByRole('button', { name: 'Withdraw it' }).click();
  await expect(looks).toHaveCount(0);
  await expect.poll(() => share('Old riser')).toBe(before);
  await press('v');
  await expect(page.getByTestId('verdict')).toHaveText('Fail');

  // The office sees the section at the site; it was sent with the rest.
  await page.goto('/sites');
  await page.getByRole('searchbox').fill('Gas, unit 3');
  await page
    .getByRole('main')
    .last()
    .getByRole('link', { name: /Gas, unit 3/ })
    .first()
    .click();
  const system = page.locator('section', { has: page.getByRole('heading', { name: /^Gas, unit 3/ }) });
  await expect(system.getByRole('img', { name: /Old riser/ })).toBeVisible();
  await system.getByRole('link', { name: 'Change the sections' }).click();
  await page.getByRole('button', { name: 'Take away: Old riser' }).click();
  await page.getByRole('button', { name: 'Save the sections' }).click();
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText('Sections');
  await page.goto('/field');
  await page.reload();
  const kept = await page.evaluate(async () => {
    const response = await fetch('/api/field/along', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
    const { systems } = (await response.json()) as { systems: { name: string; sections: { name: string }[] }[] };
    return systems.find(({ name }) => name === 'Gas, unit 3')?.sections.map(({ name }) => name);
  });
  expect(kept).not.toContain('Old riser');
  expect(kept).toContain('Pipework');
});
