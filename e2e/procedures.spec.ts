import { procedures } from '@/core/procedures';
import { expect, test } from './app';
import { choose, unfold } from './choosing';
import { Technician } from './technician';

/* The library as people read it, and the firm's own rules as supervisors keep them. */

test('found by words of the trade, read with its course, and its kit listed for the printer', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  await page.goto('/today');
  await page.getByRole('link', { name: 'Procedures' }).click();
  await expect(page.getByText(`${procedures.length} procedures`)).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search' }).fill('manifold flow meters');
  await expect(page.getByText(`1 of ${procedures.length}`)).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search' }).fill('zeppelin');
  await expect(page.getByText(/Nothing here has all of these words/)).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search' }).fill('dial seepage');
  await page.getByRole('link', { name: 'Meter set turn-on' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Meter set turn-on');
  const course = page.getByRole('img', { name: /the course of a sound test/ });
  await expect(course).toHaveAccessibleName(/3, Lock-up, 3 min from 6.5 to 8.6 in WC.*Manometer hold, 10 min from 6.5 to 8.5/);
  for (const section of ['What it tells', 'What it cannot tell', 'What to do on each outcome', 'Where schools differ', 'Boundaries'])
    await expect(page.getByRole('heading', { name: section })).toBeVisible();
  const seepage = page.getByRole('listitem').filter({ hasText: 'Seepage of the inlet stop' }).first();
  await seepage.getByText('Seepage of the inlet stop').click();
  await expect(seepage.getByText('Begins when: “Lock-up”: within.')).toBeVisible();
  // A technician reads the rules and sets none.
  await expect(page.getByText('Supervisors set house rules.')).toBeVisible();
  await expect(page.getByText('Set one')).toHaveCount(0);
  await page.getByRole('link', { name: 'Kit list to print' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Kit: meter set turn-on');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeHidden();
  await expect(page.getByText('Leak-detection fluid').first()).toBeVisible();
});

test('what is typed before the page listens is searched for once it does', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  let go: () => void = () => undefined;
  const typed = new Promise<void>((resolve) => {
    go = resolve;
  });
  await page.route('**/*.js', async (route) => {
    await typed;
    await route.continue();
  });
  const opening = page.goto('/procedures', { waitUntil: 'commit' });
  const field = page.getByRole('searchbox', { name: 'Search' });
  await field.fill('manifold flow meters');
  await expect(page.getByText(`${procedures.length} procedures`)).toBeVisible();
  go();
  await opening;
  await expect(page.getByText(`1 of ${procedures.length}`)).toBeVisible();
  await expect(field).toHaveValue('manifold flow meters');
});

test('two schools side by side: rows that differ are marked, lines of one alone lie on their side', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/procedures');
  await page.getByRole('checkbox', { name: 'Compare Domestic low-pressure gas' }).check();
  await expect(page.getByText('Tick a second one')).toBeVisible();
  await page.getByRole('checkbox', { name: 'Compare Gas leak rate' }).check();
  await page.getByRole('link', { name: 'Put side by side' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Side by side');
  await expect(page.getByRole('img', { name: /the course of a sound test/ })).toHaveCount(2);
  const decides = page.getByRole('row').filter({ hasText: 'Holds that decide' });
  await expect(decides.getByRole('img', { name: 'differs' })).toBeVisible();
  await expect(decides).toContainText('A fall from 0.25 up to and including 4.0 mbar is permitted');
  await expect(decides).toContainText('Under 1 L/h unrestricted, under 5 L/h reduced');
  await expect(page.getByRole('img', { name: 'only in the first' }).first()).toBeVisible();
  await choose(page, 'beside this', 'Domestic low-pressure gas');
  await expect(page.getByText(/^0 rows differ/)).toBeVisible();
});

test('a house rule: looser is refused and kept, stricter stands and moves the course, lifted it is gone, all by version', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/procedures/pool-lines-pressure');
  const row = () => page.getByRole('row').filter({ has: page.getByRole('rowheader', { name: 'Hold', exact: true }) });
  await row().getByText('Set one').click();
  await row().getByLabel('Figure, s').fill('300');
  await row().getByLabel('Code or reason').fill('House practice 9');
  await row().getByRole('button', { name: 'Set the house rule' }).click();
  await expect(row().getByText(/a house rule may only be higher, not 300/)).toBeVisible();
  await expect(row().getByLabel('Code or reason')).toHaveValue('House practice 9');
  await row().getByLabel('Figure, s').fill('1200');
  await row().getByRole('button', { name: 'Set the house rule' }).click();
  await expect(row().getByText('20 min')).toBeVisible();
  await expect(page.getByRole('img', { name: /Hold, 20 min/ })).toBeVisible();
  await row().getByLabel('Why it is lifted').fill('Asked for no more');
  await row().getByRole('button', { name: 'Lift it' }).click();
  await expect(page.getByRole('img', { name: /Hold, 10 min/ })).toBeVisible();
  await expect(row().getByText(/Version 2: lifted \(Asked for no more\), Wren Adeyo/)).toBeVisible();
  await expect(row().getByText(/Version 1: 1200 s/)).toBeVisible();
});

test('an own procedure: out of bounds at its field, published, planned by its name; the next version leaves the test as it ran', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'wren');
  await page.goto('/procedures/domestic-gas-millibar');
  const own = page.getByRole('region', { name: 'Own procedures' });
  await own.getByText('Publish an own procedure').click();
  const form = own.locator('form').last();
  await form.getByLabel('Title').fill('Ropewalk flats');
  await form.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(form.getByText('Name the code that your own procedure follows.')).toBeVisible();
  await form.getByLabel('The firm’s code').fill('Ropewalk code 3');
  await form.getByLabel('Hold, s').fill('60');
  await form.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(form.getByText('Hold: 60 s is looser than is safe; give at least 120 s.')).toBeVisible();
  await form.getByLabel('Hold, s').fill('180');
  await form.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(own.getByText(/Version 1, Wren Adeyo.*Hold 180 s \(procedure 120\)/)).toBeVisible();

  const field = await app.device(browser, 'iola');
  const work = new Technician(app, field);
  await work.openPlan('Gas, bakehouse');
  await unfold(field, /^Another procedure/);
  await choose(field, 'Procedure', 'Ropewalk flats');
  await expect(field.getByText('Version 1, Ropewalk code 3; a copy of Domestic low-pressure gas.')).toBeVisible();
  await work.answerAsUsual();
  const sheet = field.getByRole('region', { name: 'Plan sheet' });
  await expect(sheet.getByText(/Hold 180 s \(procedure 120/)).toBeVisible();
  await work.takeGauge(/^Simulated gauge/);
  await field.getByRole('button', { name: 'Start the test' }).click();
  await field.waitForURL(/run=/);
  await work.understood();

  await page.goto('/procedures/domestic-gas-millibar');
  const standing = own.getByRole('listitem').filter({ hasText: 'Ropewalk flats' }).first();
  await standing.getByText('Publish the next version, or withdraw it').click();
  await standing.getByLabel('Hold, s').fill('240');
  await standing.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(standing.getByText(/Version 2, Wren Adeyo/)).toBeVisible();
  await standing.getByRole('button', { name: 'Withdraw it', exact: true }).click();
  await expect(standing.getByText('Withdrawn: it can be planned no more')).toBeVisible();
  const run = new URL(field.url()).searchParams.get('run');
  const kept = () =>
    field.evaluate(async (id) => {
      const response = await fetch(`/api/field/run/${id}`);
      const { runs } = response.ok ? await response.json() : { runs: [] };
      const plan = runs[0]?.plan;
      return [plan?.procedure.variant?.version, plan?.phases.find((phase: { id: string }) => phase.id === 'hold')?.seconds];
    }, run);
  await expect.poll(kept).toEqual(['1', 180]);
});

test('on a phone: no sideways scrolling, the course within it', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola', { viewport: { width: 360, height: 740 } });
  for (const path of [
    '/procedures',
    '/procedures/pool-lines-pressure',
    '/procedures/compare?first=pool-lines-pressure&second=pool-dye-static',
  ]) {
    await page.goto(path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    expect({ path, width: await page.evaluate(() => document.documentElement.scrollWidth) }).toEqual({ path, width: 360 });
  }
});

test('every procedure, worked with wrong answers: each is refused beside its question, kept, and the rest still stands', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'iola');
  const wrong: readonly (readonly [id: string, label: string, typed: string, says: RegExp])[] = [
    ['domestic-gas-millibar', 'Working pressure', '22', /may be at most 21 mbar/],
    ['domestic-gas-millibar', 'Fuel', 'LPG', /for natural gas only/],
    ['meter-turn-on-inches', 'Static pressure expected', '20', /must lie between 3 and 13/],
    ['meter-turn-on-inches', 'Fuel', 'Propane', /Use a propane procedure/],
    ['gas-piping-psi', 'Working pressure', '2.5', /ends at 2 psi/],
    ['gas-piping-psi', 'Test gas', 'Oxygen', /Never oxygen/],
    ['propane-vehicle', 'Regulator', 'Another pressure', /use the leak-rate procedure/],
    ['propane-tank-check', 'Appliances', '2.5', /give a whole number/],
    ['gas-leak-rate', 'Operating pressure', '101', /must lie between 5 and 100/],
    ['gas-leak-rate', 'Tested with', 'Oxygen', /Never oxygen/],
    ['water-isolation-hold', 'Supply pressure', '20', /must lie between 0.5 and 16/],
    ['drain-level-hold', 'An indoor opening below the fill level', 'There is one', /would flood/],
    ['vehicle-water-air', 'Air', 'From a compressor with oil', /Oil stays in drinking-water pipes/],
    ['heating-hydraulic', 'Test pressure, if more is asked', '5', /at most 2 times the nominal/],
    ['underfloor-manifold', 'Test pressure', '7', /must lie between 4 and 6/],
    ['water-main-make-up', 'Main', 'PE', /creeps/],
    ['refrigerant-nitrogen', 'Regulator’s outlet range', '20', /Take one that reaches it/],
    ['pool-lines-pressure', 'Tested with', 'Air', /only to locate|Air/],
    ['pool-dye-static', 'Water is lost', 'Only with the pump running', /Use the pressure test/],
    ['duct-tightness', 'Rig’s own leakage at the reference', '-1', /cannot be below zero/],
  ];
  let open = '';
  for (const [id, label, typed, says] of wrong) {
    if (open !== id) {
      await page.goto(`/procedures/${id}`);
      await page.getByText('Change the example').click();
      open = id;
    }
    const course = page.getByRole('region', { name: 'Course' });
    const field = course.getByLabel(label, { exact: true });
    await expect(field).toBeVisible();
    const choice =
      (await field.evaluate((element) => element.tagName)) !== 'INPUT' && !(await field.evaluate((element) => element.matches('textarea')));
    if (choice) await choose(course, label, typed);
    else await field.fill(typed);
    await expect(course.getByRole('alert').filter({ hasText: says }).first()).toBeVisible();
    await expect(field).toHaveAttribute(choice ? 'data-invalid' : 'aria-invalid', choice ? '' : 'true');
    if (!choice) await expect(field).toHaveValue(typed);
    await expect(course.getByText('This cannot be planned')).toBeVisible();
    await course.getByRole('button', { name: 'As it was' }).click();
    await expect(course.getByText('This cannot be planned')).toBeHidden();
  }
});

test('a longer pipe moves the picture at once', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  await page.goto('/procedures/gas-leak-rate');
  await expect(page.getByRole('img', { name: /Stabilise, 10 min.*Measure, 5 min/ })).toBeVisible();
  await page.getByText('Change the example').click();
  await page.getByLabel('Pipe schedule').fill('54cu 80');
  await expect(page.getByRole('img', { name: /Stabilise, 30 min.*Measure, 10 min/ })).toBeVisible();
  await page.getByLabel('Pipe schedule').fill('54cu');
  await expect(page.getByText(/Line 1/).first()).toBeVisible();
  await expect(page.getByLabel('Pipe schedule')).toHaveValue('54cu');
});
