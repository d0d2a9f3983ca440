import { expect, test } from './app';
import { Technician } from './technician';

/* Two circuits held at the same time, each on its own gauge (DOMAIN 5.13): typed by hand, on one screen. */

test('both sides’ tightness at once: one is disturbed and repeated, the other’s clock runs on, a reload keeps both', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Cold room, refrigerant');
  await work.answerAsUsual();
  await work.takeGauge(/^Van 3 nitrogen set, 60 bar/);
  // One gauge cannot stand on both sides.
  await work.takeGauge(/^Van 3 nitrogen set, second gauge/, 'High side’s gauge');
  await expect(page.getByRole('list', { name: 'Timed phases' })).toContainText('at the same time');
  await page.getByRole('button', { name: 'Start the test' }).click();
  await page.waitForURL(/run=/);
  await work.tick();
  await work.stamped(/^Read zero/, '0.0');
  await work.phase(/^Zero the high/);
  await work.stamped(/^Read zero/, '0.0');
  for (const [side, figure] of [
    ['Low', '16.4'],
    ['High', '30.4'],
  ] as const) {
    await work.phase(new RegExp(`^${side} side: raise`));
    await work.tick();
    await work.phase(new RegExp(`^${side} side: strength`));
    await work.stamped(/^Stamp the start/, figure);
    await app.pass(901);
    await work.stamped(/^Stamp the end/, figure);
    await page.keyboard.press('1');
    await work.phase(new RegExp(`^${side} side: does its gauge see`));
    await page.keyboard.press('1');
    await work.phase(new RegExp(`^${side} side: .*(down|PS)`));
    await work.tick();
  }

  await work.phase(/^Low side: tightness/);
  await work.stamped(/^Stamp the start/, '14.6');
  // The second is asked for at once; the first's clock is beside it.
  await work.phase(/^High side: tightness/);
  const holds = page.getByRole('radiogroup', { name: 'Holds at the same time' });
  const [low, high] = [holds.getByRole('radio', { name: /^Low side/ }), holds.getByRole('radio', { name: /^High side/ })];
  await expect(high).toContainText('start not read');
  await app.pass(60);
  await work.stamped(/^Stamp the start/, '27.2');
  await expect(low).toContainText(/^Low side: tightness5[89]:/);
  await expect(high).toContainText(/(60:00|59:)/);

  // From here on there is no signal, so that nobody vouches for the clock after the reload.
  await page.route('**/api/**', (route) => route.abort());
  await page.reload();
  await expect(high).toContainText(/59:/);
  await work.phase(/^Low side: tightness/);
  await page.keyboard.press('h');
  await work.phase(/^High side: tightness/);
  await high.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(low).toBeFocused();
  await page.keyboard.press('Enter');
  await work.phase(/^Low side: tightness/);

  // The low side's gauge was knocked; the high side's stands elsewhere.
  await app.pass(600);
  await page.keyboard.press('d');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('checkbox', { name: 'High side: tightness' }).uncheck();
  await dialog.getByRole('radio', { name: 'Gauge touched' }).check();
  await dialog.getByRole('button', { name: 'Write it down' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(low).toContainText('to be done again');
  await page.getByRole('button', { name: 'Repeat from low side: tightness' }).click();
  await work.phase(/^Low side: tightness, round 2/);
  await work.stamped(/^Stamp the start/, '14.6');
  await expect(high).toContainText(/4\d:/);
  await app.pass(3000);
  // Whichever is due first has the screen.
  await work.phase(/^High side: tightness$/);
  await work.stamped(/^Stamp the end/, '27.2');
  await app.pass(700);
  await work.phase(/^Low side: tightness, round 2/);
  await work.stamped(/^Stamp the end/, '14.6');
  await expect(holds).toHaveCount(0);
  // It was reloaded while it held: its time is proved at the next contact.
  await work.phase(/^Leave it safe/);
  await page.unroute('**/api/**');
  await work.phase(/^Restore/);
  await work.tick();
  await work.toVerdict('Pass');
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Strength and tightness held');
});
