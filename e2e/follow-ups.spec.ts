import { expect, test } from './app';
import { faults } from './axe';
import { sealedPaper } from './paper';
import { Technician } from './technician';

/* What is still to be done after a test: on Today, in a calendar, and at the tag on the gauge that stays on. */

test('a guard gauge is read by its tag, without an account: it fell, the firm sees it, and the follow-up ends by a word', async ({
  app,
  browser,
}) => {
  test.setTimeout(180_000);
  const page = await app.device(browser, 'wren');
  const work = new Technician(app, page);
  await work.begin('Underfloor heating, annex', 'simulated');
  await work.goOn();
  await work.toVerdict('Pass');
  await sealedPaper(page);
  const own = page.getByRole('region', { name: 'Follow-ups' });
  await expect(own).toContainText('Read the guard gauge: Underfloor heating, annex');
  await own.getByText('Tag for the gauge').click();
  const tag = /\/tag\/[A-Z2-9]{10}/.exec(await own.innerText())?.[0] ?? '';
  expect(tag).not.toBe('');

  const screeder = await app.device(browser, 'nobody', { viewport: { width: 390, height: 844 } });
  await screeder.goto('/tag/AAAAAAAAAA');
  await expect(screeder.getByRole('heading', { level: 1 })).toHaveText('No gauge has this tag');
  await screeder.goto(tag);
  await expect(screeder.getByRole('main')).toContainText('Underfloor heating, annex');
  expect(await faults(screeder)).toEqual([]);
  const left = /It was left at ([\d.]+)/.exec(await screeder.getByRole('main').innerText())?.[1] ?? '';
  const figure = screeder.getByRole('textbox', { name: /The gauge shows/ });
  await figure.fill('lots');
  await screeder.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(screeder.getByText(/Type the figure that the gauge shows, in bar/)).toBeVisible();
  await expect(figure).toHaveValue('lots');
  await app.pass(86_400);
  await figure.fill(left.replace('.', ','));
  await screeder.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(screeder.getByText(/in order$/).first()).toBeVisible();
  await app.pass(86_400);
  await figure.fill('0.50');
  await screeder.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(screeder.getByText(/It happened since .*Tell Lindqvay/)).toBeVisible();

  await page.goto('/today');
  await expect(page.getByText(/Guard gauge has fallen:/).first()).toBeVisible();
  const open = page.getByRole('region', { name: 'Follow-ups' });
  await open.getByText(/more, due later$/).click();
  const row = open.getByRole('listitem').filter({ hasText: 'Underfloor heating, annex' }).filter({ hasText: 'Read the guard gauge' });
  await row.getByRole('button', { name: /^Done/ }).click();
  await row.getByRole('button', { name: 'End it' }).click();
  await expect(row.getByText('Say in a few words what was done.')).toBeVisible();
  await row.getByLabel('What was done').fill('Pipe found drilled, loop replaced');
  await row.getByRole('button', { name: 'End it' }).click();
  await expect(row).toHaveCount(0);
  await screeder.reload();
  await expect(screeder.getByText(/This gauge is not watched any more/)).toBeVisible();

  // A private calendar address, which shows what is open.
  await open.getByRole('button', { name: 'My calendar address' }).click();
  const feed = new URL(await open.getByRole('textbox').inputValue()).pathname;
  const calendar = await screeder.request.get(feed);
  expect(calendar.headers()['content-type']).toContain('text/calendar');
  expect(await calendar.text()).toMatch(/^BEGIN:VCALENDAR/);
});
