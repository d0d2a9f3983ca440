import { readFile } from 'node:fs/promises';
import { Client } from 'pg';
import { App, expect, signIn, test } from './app';
import { Technician } from './technician';

/* What a device keeps, sends and says while nobody answers, or will not take it. */

test('a text that is too long to be kept is said to be, and stays whole in its field', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.openPlan('Gas, annex', 'Domestic');
  await work.answerAsUsual();
  await page.getByText(/^For the record/).click();
  const origin = page.getByLabel('Job origin');
  await origin.fill('call-out '.repeat(40));
  // Folded away, it is opened and pointed at by whoever presses Start.
  await page.getByText(/^For the record/).click();
  await work.takeGauge(/^Simulated gauge/);
  await page.getByRole('button', { name: 'Start the test' }).click();
  await expect(origin).toBeFocused();
  await expect(page.getByText('Keep it to 200 characters; there are 360.')).toBeVisible();
  await origin.fill('call-out');
  await page.getByRole('button', { name: 'Start the test' }).click();
  await page.waitForURL(/run=/);
  await page.getByRole('button', { name: /^Note N/ }).click();
  const [field, dialog] = [page.getByLabel('What is worth keeping?'), page.getByRole('dialog')];
  const long = 'Key with the neighbour. '.repeat(200);
  await field.fill(long);
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByText('It is too long to be kept. Shorten it.')).toBeVisible();
  await expect(dialog).toBeVisible();
  await expect(field).toHaveValue(long);
  await field.fill('Key with the neighbour.');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(dialog).toHaveCount(0);
});

test('what the server will not take stays on the device, with the reason, until it is sent or saved', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola');
  const work = new Technician(app, page);
  await work.begin('Gas, annex');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  // As if the device's program and the server's did not agree on what an event is.
  await page.route('**/api/field/sync', (route) =>
    route.continue({ postData: (route.request().postData() ?? '').replace('"type":"note"', '"type":"remark"') }),
  );
  await page.getByRole('button', { name: /^Note N/ }).click();
  await page.getByLabel('What is worth keeping?').fill('Key with the neighbour');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await page.getByRole('button', { name: /^1 not taken by the server/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Readings or notes');
  await expect(dialog).toContainText(/This is no event that can be read: type/);
  await expect(dialog.getByRole('button', { name: 'Remove from this device' })).toBeDisabled();
  const [file] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Save to a file' }).click()]);
  expect(await readFile(await file.path(), 'utf8')).toContain('Key with the neighbour');
  await expect(dialog.getByRole('button', { name: 'Remove from this device' })).toBeEnabled();
  await page.unroute('**/api/field/sync');
  await dialog.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('button', { name: /not taken by the server/ })).toHaveCount(0);
  const run = new URL(page.url()).searchParams.get('run') ?? '';
  await expect
    .poll(async () => {
      const remote = await (await page.request.get(`/api/field/run/${run}`)).json();
      return remote.runs[0].events.filter(
        ({ type, text }: { type: string; text: string }) => type === 'note' && text === 'Key with the neighbour',
      ).length;
    })
    .toBe(1);
  // The office sees that something could not be read.
  const office = await app.device(browser, 'pernilla');
  await office.goto('/today');
  await expect(office.getByText(/1 thing that a device sent could not be read/)).toBeVisible();
});

test('a device that can keep nothing more says so; what was typed stays, and is kept once there is room', async ({ app, browser }) => {
  const page = await app.device(browser, 'tomasz');
  const work = new Technician(app, page);
  const fill = () =>
    page.evaluate(() => {
      const { add } = IDBObjectStore.prototype;
      Object.assign(globalThis, { makeRoom: () => Object.assign(IDBObjectStore.prototype, { add }) });
      IDBObjectStore.prototype.add = () => {
        throw new DOMException('no room', 'QuotaExceededError');
      };
    });
  const makeRoom = () => page.evaluate(() => (globalThis as unknown as { makeRoom: () => void }).makeRoom());
  // A test that could not be begun is begun by the same press, once there is room.
  await work.openPlan('Gas, flat 4', 'Domestic');
  await work.answerAsUsual();
  await work.takeGauge(/^Simulated gauge/);
  await fill();
  const start = page.getByRole('button', { name: 'Start the test' });
  await start.click();
  const notKept = page.getByText(/This device could not keep what you just did/);
  await expect(notKept).toBeVisible();
  await page.getByRole('button', { name: 'Understood', exact: true }).click();
  await makeRoom();
  await start.click();
  await page.waitForURL(/run=/);
  await work.understood();
  await fill();
  await page.keyboard.press('n');
  const note = page.getByLabel('What is worth keeping?');
  await note.fill('Meter box key with the caretaker');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(notKept).toBeAttached();
  await expect(note).toHaveValue('Meter box key with the caretaker');
  await makeRoom();
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // A reading that was not kept is asked for again: the button is not spent.
  await work.tick();
  await work.phase(/^Zero/);
});

test('a person put away: what was worked on is delivered under their name, a change of the register waits for whoever signs in', async ({
  app,
  browser,
}) => {
  const page = await app.device(browser, 'tomasz');
  const work = new Technician(app, page);
  await work.begin('Gas, annex');
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  const run = new URL(page.url()).searchParams.get('run') ?? '';
  const client = new Client({ connectionString: app.database.authUrl });
  await client.connect();
  const putAway = (at: Date | null) => client.query('update auth."user" set put_away_at = $1 where email like $2', [at, 'tomasz@%']);
  try {
    await page.route('**/api/field/sync', (route) => route.abort());
    await page.getByRole('button', { name: /^Note N/ }).click();
    await page.getByLabel('What is worth keeping?').fill('Written after the last signal');
    await page.getByRole('button', { name: 'Keep the note' }).click();
    await page.goto('/field?at=instruments');
    await page.getByRole('button', { name: 'Add a plug, ball or ring set' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name').fill('Ball, van 7');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
    const { offset } = await (await page.request.get('/api/test-clock')).json();
    await putAway(new Date(Date.now() + offset));
    // A session is looked at anew every few seconds.
    await expect.poll(async () => (await page.request.get('/api/field/search?words=annex')).status()).toBe(401);
    await page.unroute('**/api/field/sync');
    await expect(page.getByTestId('signal')).toHaveText('Saved on this device · sign in again to send 1');
    await expect(page.getByText('You are signed out. What you do is kept on this device')).toBeVisible();
    const office = await app.device(browser, 'wren');
    const { runs } = await (await office.request.get(`/api/field/run/${run}`)).json();
    const note = runs[0].events.find(({ type }: { type: string }) => type === 'note');
    expect(note).toMatchObject({ text: 'Written after the last signal' });
    expect(note.author).toBe(await page.evaluate(() => JSON.parse(localStorage.getItem('vast-stone-person') ?? '{}').userId));
    await office.goto('/instruments');
    await expect(office.getByText('Ball, van 7')).toHaveCount(0);
  } finally {
    await putAway(null);
    await client.end();
  }
  await signIn(page.context(), 'tomasz');
  await page.reload();
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
});

test.describe('with no signal', () => {
  test.use({ serviceWorkers: 'allow' });

  test('the server dies in mid-hold: finish, reload; the next contact proves the time; sync twice: the same verdict, nothing twice', async ({
    browser,
  }, info) => {
    const app = await App.open(`offline${info.workerIndex}`);
    try {
      const page = await app.device(browser, 'iola', { serviceWorkers: 'allow' });
      const work = new Technician(app, page);
      await page.goto('/field');
      await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
      await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
      await work.toHold('Gas, flat 2', 'Sound system');
      await work.readSimulated();
      await expect(page.getByTestId('countdown')).toBeVisible();
      await app.kill();
      await app.pass(60);
      await page.reload();
      await expect(page.getByTestId('countdown')).toHaveText(/0:5\d|1:00/);
      // The estimate's worker starts from what is kept here, too.
      await expect(page.getByText(/^Forecast fall .* when due/)).toBeVisible();
      await app.pass(61);
      await work.readEnd();
      await expect(page.getByTestId('signal')).toContainText(/no signal · \d+ to send/);
      // Reloaded within the hold, and nobody there to vouch for the clock: no pass before the next contact.
      await work.phase(/^Leave it safe/);
      const verdict = page.url();
      await page.getByRole('button', { name: 'Verdict so far' }).click();
      await expect(page.getByTestId('verdict')).toHaveText('Inconclusive');
      await expect(page.getByText(/The time of Hold is not proved.*settled when the devices next reach the server/)).toBeVisible();
      await page.reload();
      await expect(page.getByTestId('verdict')).toHaveText('Inconclusive');
      await expect(page.getByTestId('signal')).toContainText('no signal');

      await app.start();
      await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
      await expect(page.getByTestId('verdict')).toHaveText('Pass');
      await page.goto(verdict);
      await work.phase(/^Restore/);
      await work.tick();
      await work.toVerdict('Pass');
      await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
      const run = new URL(page.url()).searchParams.get('run') ?? '';
      const count = async () => {
        const client = new Client({ connectionString: app.database.ownerUrl });
        await client.connect();
        // The owner is bound by the policies too, so the count comes from the table's own statistics-free scan as the app.
        await client.end();
        const asApp = new Client({ connectionString: app.database.appUrl });
        await asApp.connect();
        const firm = await page.evaluate(() => JSON.parse(localStorage.getItem('vast-stone-person') ?? '{}').firmId as string);
        await asApp.query('begin');
        await asApp.query(`select set_config('app.firm_id', $1, true)`, [firm]);
        const { rows } = await asApp.query(
          'select count(*)::int as count, count(distinct id)::int as distinct from event where run_id = $1',
          [run],
        );
        await asApp.query('rollback');
        await asApp.end();
        return rows[0] as { count: number; distinct: number };
      };
      const before = await count();
      expect(before.count).toBeGreaterThan(25);
      // The same sync again, as after an answer that was lost on the way.
      const remote = await (await page.request.get(`/api/field/run/${run}`)).json();
      const again = await page.request.post('/api/field/sync', {
        data: {
          items: [{ kind: 'events', run, events: remote.runs[0].events.filter(({ device }: { device: string }) => device !== 'server') }],
        },
      });
      expect((await again.json()).receipts).toEqual([{ ok: true, quarantined: [] }]);
      expect(await count()).toEqual(before);
      await page.reload();
      await expect(page.getByTestId('verdict')).toHaveText('Pass');
    } finally {
      await app.close();
    }
  });

  test('an answer lost between sync and receipt is asked again, and nothing is there twice', async ({ app, browser }) => {
    const page = await app.device(browser, 'iola');
    const work = new Technician(app, page);
    await work.begin('Gas, bakehouse');
    await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
    let lost = 0;
    let losing = true;
    await page.route('**/api/field/sync', async (route) => {
      if (!losing) return route.continue();
      // The server has it; the answer never arrives.
      await route.fetch();
      lost += 1;
      return route.abort();
    });
    await work.understood();
    await work.tick();
    await expect.poll(() => lost).toBeGreaterThan(0);
    await expect(page.getByTestId('signal')).toContainText('no signal');
    losing = false;
    await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
    const run = new URL(page.url()).searchParams.get('run') ?? '';
    const remote = await (await page.request.get(`/api/field/run/${run}`)).json();
    const ids = remote.runs[0].events.map(({ id }: { id: string }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(remote.runs[0].events.filter(({ type }: { type: string }) => type === 'check')).toHaveLength(7);
  });
});
