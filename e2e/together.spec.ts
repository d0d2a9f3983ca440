import { App, expect, openSite, test } from './app';
import { Technician } from './technician';

/* Two tests at once on a site, and the day that they make. */

test('the isolation hold beside the drain’s: one clock, alarms in order, and the shut supply is defended', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  const now = page.getByRole('region', { name: 'Now', exact: true });
  await work.begin('Drains, annex', 'simulated');
  const drain = new URL(page.url()).searchParams.get('run') ?? '';
  await work.goOn({ until: 'fill' });
  await work.begin('Water, annex', 'simulated');
  const water = new URL(page.url()).searchParams.get('run') ?? '';
  await work.goOn({ until: 'let-by' });

  // The other test stands in the strip, and one tap puts the two together.
  const strip = page.getByRole('list', { name: 'Other tests under way' });
  await expect(strip).toContainText('Drains, annex');
  await strip.getByRole('button', { name: 'Side by side with Drains, annex' }).click();
  await expect(page).toHaveURL(new RegExp(`run=${water}&beside=${drain}`));
  const both = page.getByRole('region', { name: 'Tests side by side' });
  await expect(both.getByRole('alert')).toContainText(/Water, annex runs with the water shut; Drains, annex now needs it on/);

  // The water's hold begins; its alarm stands in the one list.
  const half = (name: string) => page.getByRole('main').filter({ hasText: name });
  await half('Water, annex')
    .getByRole('button', { name: /^(Raise|Lower) to/ })
    .click();
  await app.pass(3);
  await half('Water, annex')
    .getByRole('button', { name: /^Read the simulated gauge/ })
    .click();
  const alarms = both.getByRole('list', { name: 'Alarms in order' }).getByRole('listitem');
  await expect(alarms).toHaveCount(1);
  await expect(alarms).toContainText('Does the valve pass?, Water, annex');

  // Only the half that was touched last takes the keys.
  await half('Drains, annex').getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('n');
  await page.getByLabel('What is worth keeping?').fill('Neighbour flushes at ten');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByTestId('signal').first()).toHaveText('Saved and sent');
  const notes = async (run: string) =>
    (await (await page.request.get(`/api/field/run/${run}`)).json()).runs[0].events.filter(({ type }: { type: string }) => type === 'note')
      .length;
  await expect.poll(() => notes(drain)).toBe(1);
  expect(await notes(water)).toBe(0);

  // The drain goes on to its hold: two clocks, the nearer first.
  await page.goto(`/field?run=${drain}`);
  await work.goOn({ until: 'hold' });
  await work.readStart();
  await page.goto(`/field?run=${water}&beside=${drain}`);
  await expect(alarms).toHaveCount(2);
  await expect(alarms.first()).toContainText('Water, annex');
  await expect(alarms.last()).toContainText('Level hold, Drains, annex');
  await expect(both.getByRole('alert')).toHaveCount(0);
  await page.reload();
  await expect(alarms).toHaveCount(2);
  await expect(now).toHaveCount(2);

  // A third comes in from the strip; the key goes round; one that is put away runs on in the strip.
  await work.begin('Gas, bakehouse', 'simulated');
  const gas = new URL(page.url()).searchParams.get('run') ?? '';
  await work.goOn({ until: 'zero' });
  await strip.getByRole('button', { name: 'Side by side with Water, annex' }).click();
  await expect(now).toHaveCount(2);
  await strip.getByRole('button', { name: 'Side by side with Drains, annex' }).click();
  await expect(page).toHaveURL(new RegExp(`run=${gas}&beside=${water}(,|%2C)${drain}`));
  await expect(now).toHaveCount(3);
  await expect(alarms).toHaveCount(2);
  const toAdd = page.getByRole('button', { name: /^Side by side with/ });
  await expect(toAdd).toHaveCount(0);
  await page.keyboard.press('z');
  await expect(half('Gas, bakehouse').getByTestId('simulated-reading')).toHaveText(/^-?0\.00/);
  await page.keyboard.press('o');
  await page.keyboard.press('n');
  await page.getByLabel('What is worth keeping?').fill('Stopcock stiff');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect.poll(() => notes(water)).toBe(1);
  await half('Drains, annex').getByRole('button', { name: 'Put away' }).click();
  await expect(now).toHaveCount(2);
  await expect(toAdd).toHaveAccessibleName('Side by side with Drains, annex');
});

test('what is pressed does not move away under the finger when another test begins', async ({ browser }, info) => {
  // A server of its own: no other test is under way on it.
  const app = await App.open(`pressed${info.workerIndex}`);
  try {
    const page = await app.device(browser, 'tomasz');
    await new Technician(app, page).begin('Gas, annex');
    const [button, strip] = [page.getByRole('button', { name: /^Understood/ }), page.getByRole('list', { name: 'Other tests under way' })];
    await expect(button).toBeVisible();
    const other = await page.context().newPage();
    const work = new Technician(app, other);
    await work.openPlan('Drains, annex');
    await work.answerAsUsual();
    await work.takeGauge(/./);
    await page.bringToFront();
    await expect(strip).toHaveCount(0);
    await button.hover();
    const box = await button.boundingBox();
    await page.mouse.down();
    await other.getByRole('button', { name: 'Start the test' }).click();
    await other.waitForURL(/run=/);
    await page.waitForTimeout(1500);
    expect(await button.boundingBox()).toEqual(box);
    await page.mouse.up();
    await expect(button).toBeHidden();
    await expect(strip).toContainText('Drains, annex');
  } finally {
    await app.close();
  }
});

test('the site’s day: the shortest order, then one’s own; a second pair of hands; alarms with what to do until then', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'tomasz');
  await openSite(page, 'Slab Annex');
  await page.getByRole('button', { name: 'Plan a visit' }).click();
  await expect(page.getByText('Add the systems that are tested on this visit.')).toBeVisible();
  for (const system of ['Drains, annex', 'Water, annex', 'Underfloor heating, annex'])
    await page.getByRole('button', { name: `+ ${system}` }).click();
  const chart = page.getByRole('region', { name: 'Time chart' });
  const minutes = async () => {
    const text = await chart.locator('p').first().innerText();
    const [, hours = '0', rest] = /^(?:(\d+) h )?(\d+) min/.exec(text) ?? [];
    return Number(hours) * 60 + Number(rest);
  };
  // Each is written before it is shown: the day of all three is meant, not of the first two.
  await expect(page.getByRole('region', { name: 'Tests of the visit' }).locator('ol > li')).toHaveCount(3);
  await expect(chart.getByText('Underfloor heating, annex').first()).toBeVisible();
  const shortest = await minutes();
  const alarms = page.getByRole('region', { name: 'Alarms' }).getByRole('listitem');
  expect(await alarms.count()).toBeGreaterThan(2);
  await expect(page.getByRole('region', { name: 'Alarms' })).toContainText('Until then:');
  // The house holds the isolation 25 minutes: the day knows.
  await expect(alarms.filter({ hasText: 'Water, annex' }).first()).toBeVisible();

  // One's own order, by key: never shorter than the shortest.
  const later = page.getByRole('button', { name: 'Begin Drains, annex later' });
  await later.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('region', { name: 'Tests of the visit' }).locator('ol > li').nth(1)).toContainText('Drains, annex');
  await expect(later).toBeFocused();
  // One gauge for the water and the loops, and the water waits for the drain: begun in that order nothing goes on.
  await page.keyboard.press('ArrowDown');
  await expect(chart.getByText(/In this order one test waits for another that cannot begin/)).toBeVisible();
  const earlier = page.getByRole('button', { name: 'Begin Underfloor heating, annex earlier' });
  await earlier.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await page.getByRole('button', { name: 'Begin Drains, annex earlier' }).press('ArrowUp');
  await expect(chart).toContainText('begun in your order');
  expect(await minutes()).toBeGreaterThanOrEqual(shortest);
  await page.getByRole('button', { name: 'Find the shortest order again' }).click();
  await expect.poll(minutes).toBe(shortest);
  const wren = page.getByRole('group', { name: 'Who goes' }).getByRole('checkbox', { name: 'Wren Adeyo' });
  await wren.click();
  await expect(wren).toBeChecked();
  await expect.poll(minutes).toBeLessThanOrEqual(shortest);

  // By keys alone: a number goes to a test, arrows move it, X takes it off, N adds the next, F finds the shortest order.
  await page.getByRole('heading', { level: 1 }).click();
  const order = page.getByRole('region', { name: 'Tests of the visit' }).locator('ol > li');
  await page.keyboard.press('3');
  await expect(order.nth(2).getByRole('button', { name: /earlier$/ })).toBeFocused();
  const moved = await order.nth(2).locator('p').innerText();
  await page.keyboard.press('ArrowUp');
  await expect(order.nth(1)).toContainText(moved.replace(/^\d+\s*/, ''));
  await page.keyboard.press('f');
  await expect(page.getByRole('button', { name: /Find the shortest order/ })).toHaveCount(0);
  await page.keyboard.press('1');
  await page.keyboard.press('x');
  await expect(order).toHaveCount(2);
  await page.keyboard.press('n');
  await expect(order).toHaveCount(3);

  // The occupier is told when what is off.
  await expect(page.getByRole('region', { name: 'Notice to the occupier' })).toContainText(/No water from about \d\d:\d\d to \d\d:\d\d/);

  // It stands on Today, with this device and in the office, and a test is planned from it.
  await expect(page.getByRole('region', { name: 'Tests of the visit' })).toHaveAttribute('aria-busy', 'false');
  await page.reload();
  await expect(wren).toBeChecked();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.goto('/field');
  const visits = page.getByRole('region', { name: 'Visits' });
  await expect(visits).toContainText('Slab Annex');
  await expect(visits).toContainText('Tomasz Brandel, Wren Adeyo · 3 tests');
  const office = await app.device(browser, 'pernilla');
  await office.goto('/today');
  // Other journeys of the same worker may have visits of today too.
  await office
    .getByRole('region', { name: 'Visits' })
    .getByRole('listitem')
    .filter({ hasText: 'Slab Annex' })
    .getByRole('link', { name: 'Open' })
    .click();
  await expect(office.getByRole('region', { name: 'Time chart' })).toContainText('one after the other');
  await visits.getByRole('link', { name: 'Open' }).first().click();
  await page.getByRole('listitem').filter({ hasText: 'Water, annex' }).getByRole('link', { name: 'Plan it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Plan the test');
  await expect(page.getByRole('paragraph').filter({ hasText: 'Water isolation hold' })).toBeVisible();
});
