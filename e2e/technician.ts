import { expect, type Page } from '@playwright/test';
import type { App } from './app';

/** What a technician does on the field screens, in their own words. */
export class Technician {
  constructor(
    readonly app: App,
    readonly page: Page,
  ) {}

  /** From Today to the open run. Answers the number of taps it took. */
  async begin(system: string, gauge: string | RegExp = 'Simulated gauge'): Promise<number> {
    const { page } = this;
    await page.goto('/sites');
    await page.getByRole('searchbox').fill(system);
    // The strip of running holds may name the system too. A press while the list still narrows may miss its link.
    const found = page
      .getByRole('main')
      .last()
      .getByRole('link', { name: new RegExp(system) });
    await expect(found).toHaveCount(1);
    await expect(async () => {
      if (new URL(page.url()).pathname === '/sites') await found.click({ timeout: 5000 });
      await page.waitForURL(/\/sites\/./, { timeout: 15_000 });
    }).toPass({ timeout: 120_000 });
    await page
      .locator('section', { has: page.getByRole('heading', { name: system, exact: true }) })
      .getByRole('link', { name: 'Plan a test' })
      .click();
    await page.getByRole('radio', { name: gauge }).check();
    await page.getByRole('button', { name: 'Start the test' }).click();
    await page.waitForURL(/run=/);
    return 3;
  }

  async plant(label: string): Promise<void> {
    const { page } = this;
    await this.understood();
    await page.getByLabel('Plant').selectOption({ label });
  }

  /** Acknowledges the cautions of the open phase, where it has any. */
  async understood(): Promise<void> {
    const button = this.page.getByRole('button', { name: /^Understood/ });
    // Cautions stand alone; whatever is to be done shows only once they are acknowledged.
    const either = this.page.getByRole('button', { name: /^(Understood|Done|Plugged or capped|No bubbles|Stamp|Read zero|Verdict$)/ });
    await either.first().waitFor();
    const there = await button.isVisible();
    if (there) await button.click();
    await expect(button).toBeHidden();
  }

  /** Works through the open checklist. */
  async tick(): Promise<void> {
    const { page } = this;
    await this.understood();
    const list = page
      .locator('ol')
      .filter({ has: page.getByRole('listitem') })
      .last();
    const name = await list.getAttribute('aria-label');
    for (let count = 0; count < 12; count += 1) {
      const open = page.getByRole('list', { name: name ?? '', exact: true });
      const next = open.locator('li.border-l-4');
      if ((await open.count()) === 0 || (await next.count()) === 0) return;
      const text = await next.locator('p').first().innerText();
      const field = next.getByRole('textbox');
      if ((await field.count()) > 0) await field.fill('REF-77');
      await next.getByRole('button', { name: /^(Done|Plugged or capped)/ }).click();
      await expect(open.locator('li.border-l-4 p').filter({ hasText: text.replace(/^\d+\s*/, '') })).toHaveCount(0);
    }
  }

  async zero(): Promise<void> {
    const { page } = this;
    await page.getByRole('button', { name: /^Zero it/ }).click();
    await expect(page.getByTestId('simulated-reading')).toContainText(/^-?0\.\d+/);
    await this.readSimulated();
  }

  async readSimulated(): Promise<void> {
    await this.page.getByRole('button', { name: /^Read the simulated gauge/ }).click();
  }

  async raise(): Promise<void> {
    const button = this.page.getByRole('button', { name: /^Raise to/ });
    const aim = Number(/[\d.]+/.exec(await button.innerText())?.[0]);
    await button.click();
    await this.app.pass(2);
    // It is read once it is there, as one would; a leak may have taken a little of it.
    const reading = this.page.getByTestId('simulated-reading');
    await expect.poll(async () => Math.abs(Number.parseFloat(await reading.innerText()) - aim)).toBeLessThan(aim / 4);
  }

  /** Raises, reads the start, lets the time pass, reads the end. */
  async hold(title: RegExp, seconds: number): Promise<void> {
    await this.phase(title);
    await this.readStart();
    await this.app.pass(seconds + 1);
    await this.readEnd();
  }

  async readStart(): Promise<void> {
    const raise = this.page.getByRole('button', { name: /^Raise to/ });
    if (await raise.isVisible()) await this.raise();
    await this.readSimulated();
    await expect(this.page.getByTestId('countdown')).toBeVisible();
  }

  async readEnd(): Promise<void> {
    const stamp = this.page.getByRole('button', { name: /^Stamp the end/ });
    await expect(stamp).toBeVisible();
    await this.readSimulated();
    // The phase is over once its end was read; whatever comes next has the screen then.
    await expect(stamp).toHaveCount(0);
  }

  /** Raises and settles; the time passes, and the hold is ready to start. */
  async settle(seconds: number): Promise<void> {
    await this.phase(/^Stabilise/);
    await this.raise();
    await this.readSimulated();
    await expect(this.page.getByTestId('say')).toContainText('settle');
    await this.app.pass(seconds + 1);
    await this.phase(/^Hold/);
  }

  async phase(title: RegExp): Promise<void> {
    await expect(this.page.getByRole('heading', { level: 1 })).toHaveText(title);
  }

  /** The hold after settling: re-adjusted only where the gauge drifted out of the band. */
  async judgeHold(seconds: number): Promise<void> {
    const shown = Number.parseFloat(await this.page.getByTestId('simulated-reading').innerText());
    if (shown < 20 || shown > 21) await this.raise();
    await this.readSimulated();
    await expect(this.page.getByTestId('countdown')).toBeVisible();
    await this.app.pass(seconds + 1);
    await this.readEnd();
  }

  async toVerdict(expected: string): Promise<void> {
    const { page } = this;
    await page.getByRole('button', { name: 'Verdict', exact: true }).click();
    await expect(page.getByTestId('verdict')).toHaveText(expected);
  }

  /** The whole course up to the hold's end reading, on a plant that passes the let-by test. */
  async toHold(system: string, plant: string): Promise<void> {
    await this.begin(system);
    await this.plant(plant);
    await this.tick();
    await this.phase(/^Zero/);
    await this.zero();
    await this.hold(/^Let-by/, 60);
    await this.settle(90);
  }
}
