import { expect, test } from './app';
import { Technician } from './technician';

const dir = '/tmp/w/shots';
test('wide', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  const shot = (name: string) => page.screenshot({ path: `${dir}/${name}.png` });
  await work.openPlan('Heating, stair A');
  await shot('plan');
  await work.begin('Gas, unit 3', 'simulated');
  await work.plant('Leak in the pipework');
  await work.goOn();
  await work.toVerdict('Fail');
  await page.waitForTimeout(500);
  await shot('verdict');
  await page.screenshot({ path: `${dir}/verdict-full.png`, fullPage: true });
  await page.keyboard.press('1');
  await page.keyboard.press('1');
  await page.keyboard.press('2');
  await page.waitForTimeout(300);
  await shot('locate');
  await page.keyboard.press('c');
  await page.keyboard.press('n');
  await page.waitForTimeout(300);
  const form = page.getByRole('form', { name: 'Sections' });
  await form.getByRole('listitem').last().getByLabel('Joints').fill('x');
  await form.getByRole('button', { name: 'Save the sections' }).click();
  await page.waitForTimeout(300);
  await shot('sections');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.waitForTimeout(300);
  await shot('sections-phone');
  await page.setViewportSize({ width: 1280, height: 800 });
  await work.begin('Gas, flat 4', /Van 1 digital/);
  await work.goOn({ until: 'zero' });
  await page.getByRole('button', { name: /^Read zero/ }).click();
  await page.waitForTimeout(500);
  await shot('keypad');
});
test('guard', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  const shot = (name: string) => page.screenshot({ path: `${dir}/${name}.png` });
  await work.begin('Heating, stair A', 'simulated');
  await work.goOn({ until: 'restore' });
  await page.waitForTimeout(300);
  await shot('guard-step');
  await work.goOn();
  await work.toVerdict('Pass');
  const guard = page.getByRole('region', { name: 'Guard gauge' });
  await guard.getByRole('textbox', { name: 'Guard gauge' }).fill('1.00');
  await guard.getByRole('button', { name: 'Write the look down' }).click();
  await page.waitForTimeout(500);
  await guard.scrollIntoViewIfNeeded();
  await shot('guard-watch');
});
for (const [system, until, key] of [
  ['Drains, annex', 'hold', 'level'],
  ['Gas meter set, shop', 'dial', 'dial'],
  ['Ducts, bakehouse', 'points', 'ducts'],
  ['Water main, Quay Road', 'make-up', 'make-up'],
  ['Main drain, main pool', 'dye', 'dye'],
  ['Returns, main pool', 'map', 'map'],
  ['Underfloor heating, annex', 'loops', 'loops'],
  ['Propane tank, glazing shed', 'round', 'round'],
  ['Cold room, refrigerant', 'strength-low', 'rise'],
] as const)
  test(`phone ${key}`, async ({ app, browser }) => {
    const page = await app.device(browser, 'iola', { viewport: { width: 390, height: 844 } });
    const work = new Technician(app, page);
    await work.begin(system, 'simulated');
    const seen: string[] = [];
    const now = page.getByRole('region', { name: 'Now' });
    for (let pass = 0; pass < 40; pass += 1) {
      const { phase, kind } = await now.evaluate((section: HTMLElement) => ({
        phase: section.dataset.phase ?? '',
        kind: section.dataset.kind,
      }));
      if (!seen.includes(phase)) seen.push(phase);
      if (phase === 'over' || phase.startsWith(until)) break;
      await (work as never as { perform: (...a: unknown[]) => Promise<void> }).perform(now, phase, kind ?? '', {});
    }
    console.log(key, seen.join(' '));
    const understood = now.getByRole('button', { name: /^Understood/ });
    if (await understood.isVisible()) await understood.click();
    if (key === 'level') {
      await work.readStart();
      await app.pass(300);
    }
    await page.waitForTimeout(600);
    await page.screenshot({ path: `${dir}/phone-${key}.png` });
    expect(seen.length).toBeGreaterThan(0);
  });
