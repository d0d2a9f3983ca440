import { expect, type Locator, type Page } from '@playwright/test';
import { procedures } from '../src/core/procedures';
import type { App } from './app';
import { choose, open, unfoldIfThere } from './choosing';

/** Whether a list shows an answer rather than asks for one. */
const isChosen = async (field: Locator): Promise<boolean> =>
  (await field.getAttribute('role')) === 'combobox' && (await field.innerText()).trim() !== 'Choose';

/** What a technician does on the field screens, in their own words. */
export class Technician {
  constructor(
    readonly app: App,
    readonly page: Page,
  ) {}

  /** From the device's sites to the open run; whatever is open is answered as usual. */
  async begin(system: string, gauge: string | RegExp = 'Simulated gauge', answers: Readonly<Record<string, string>> = {}): Promise<void> {
    const { page } = this;
    await this.openPlan(system);
    await this.answerAsUsual(answers);
    if (gauge === 'simulated') await this.takeSimulated();
    else await this.takeGauge(gauge);
    await page.getByRole('button', { name: 'Start the test' }).click();
    await page.waitForURL(/run=/);
  }

  /** Finds the system and opens the plan of a test of it; where several could be meant, the first unless one is named. */
  async openPlan(system: string, procedure?: string): Promise<void> {
    const { page } = this;
    await page.goto('/field?at=sites');
    await page.getByRole('searchbox').fill(system);
    await page.getByRole('main').getByRole('link').filter({ hasText: system }).first().click();
    const card = page.getByRole('region', { name: new RegExp(`^${system}`) });
    await card.getByRole('link', { name: 'Plan a test' }).click();
    const title = page.getByRole('heading', { level: 1 });
    await expect(title).toHaveText(/Plan|Which test/);
    if ((await title.innerText()).startsWith('Which test')) {
      const offered = page.getByRole('main').getByRole('listitem').getByRole('button');
      await (procedure === undefined ? offered : offered.filter({ hasText: procedure })).first().click();
    }
    await expect(title).toContainText('Plan');
  }

  /** Answers every open question by what is usual, or by what is named: its id and its value. */
  async answerAsUsual(answers: Readonly<Record<string, string>> = {}): Promise<void> {
    const { page } = this;
    const form = page.getByRole('form', { name: 'Questions' });
    const line = await page.getByRole('heading', { level: 1 }).locator('xpath=following-sibling::p').first().innerText();
    const procedure = procedures.find(({ title }) => line.startsWith(`${title},`));
    for (const parameter of procedure?.parameters ?? []) {
      const { id, label, usual } = parameter;
      if (answers[id] !== undefined) await open(form, label);
      const lines = form.getByRole('button', { name: `Type it as lines: ${label}`, exact: true });
      const field = form.locator(`[id="${id}"]`);
      if (answers[id] !== undefined && (await lines.count()) > 0) {
        await lines.click();
        await field.waitFor();
      }
      // A list that is searched is fetched first.
      const name = form.getByText(label, { exact: true });
      if (parameter.kind === 'choice' && (await name.count()) > 0)
        await field
          .or(form.getByRole('button', { name: label }))
          .first()
          .waitFor();
      if ((await field.count()) === 0) continue;
      const wanted = answers[id] ?? usual;
      if (parameter.kind === 'choice') {
        const isOpen = (await field.getByRole('radio', { checked: true }).count()) === 0 && !(await isChosen(field));
        const words = parameter.options.find(({ value }) => value === wanted)?.label;
        if (words !== undefined && (isOpen || answers[id] !== undefined)) await choose(form, label, words);
      } else if (answers[id] !== undefined || (await field.inputValue()) === '') await field.fill(wanted);
    }
  }

  /** One gauge by its name, wherever it is folded away. */
  async takeGauge(gauge: string | RegExp, label = 'Gauge'): Promise<void> {
    const set = this.page.getByRole('group', { name: label, exact: true });
    const radio = set.getByRole('radio', { name: gauge }).first();
    for (const fold of [/more( suits?)?$/, /not suit: why$/]) if (!(await radio.isVisible())) await unfoldIfThere(set, fold);
    await radio.check();
  }

  /** The simulated stand-in for everything that the plan reads. */
  private async takeSimulated(): Promise<void> {
    const { page } = this;
    await expect(page.getByRole('heading', { level: 1 })).toContainText('Plan');
    for (const set of await page.getByRole('form', { name: 'Questions' }).locator('fieldset').all()) {
      const simulated = set.getByRole('radio', { name: /^Simulated/ });
      if ((await simulated.count()) === 0) await unfoldIfThere(set, /more( suits?)?$/);
      if ((await simulated.count()) === 0) await unfoldIfThere(set, /not suit: why$/);
      if ((await simulated.count()) > 0) await simulated.first().check();
    }
  }

  async plant(label: string | RegExp): Promise<void> {
    const { page } = this;
    await this.understood();
    await choose(page, 'Plant', label);
  }

  /** Acknowledges the cautions of the open phase, where it has any. */
  async understood(): Promise<void> {
    const button = this.page.getByRole('button', { name: /^Understood/ });
    // Cautions stand alone; whatever is to be done shows only once they are acknowledged.
    const either = this.page.getByRole('button', {
      name: /^(Understood|Done|Plugged or capped|Seated|Shut|Sealed|Isolated|Off or|No bubbles|The rig is dry|Stamp|Read |Verdict$)/,
    });
    await either.first().waitFor();
    const there = await button.isVisible();
    if (there) await button.click();
    await expect(button).toBeHidden();
  }

  /** Works through the open checklist. */
  async tick(): Promise<void> {
    const { page } = this;
    const list = page
      .locator('ol')
      .filter({ has: page.getByRole('listitem') })
      .last();
    // What was open at the first look may give way to the next phase, with a caution of its own.
    await expect(async () => {
      await this.understood();
      await expect(list).toBeVisible({ timeout: 2000 });
    }).toPass();
    const name = (await list.getAttribute('aria-label')) ?? '';
    const open = page.getByRole('list', { name, exact: true });
    for (let count = 0; count < 14; count += 1) {
      // What the next step is, and how many are left, in one look.
      const [seen] = await open.evaluateAll((lists) =>
        lists.map((one) => ({
          left: one.querySelectorAll('li:not(:has([aria-label^="Undo"]))').length,
          // A step that reads a gauge fetches its form first.
          isThere: one.querySelector('li.border-l-4 button') !== null,
          fields: [...one.querySelectorAll('li.border-l-4 :is(input, textarea)')].map((field) => field.getAttribute('aria-label')),
        })),
      );
      if (seen === undefined || seen.left === 0) return;
      if (!seen.isThere) {
        await open.locator('li.border-l-4 button').first().waitFor();
        continue;
      }
      const next = open.locator('li.border-l-4');
      const there = next.getByRole('button', { name: /^It is there/ });
      if (await there.isVisible()) {
        await there.click();
        await page.getByRole('button', { name: 'Go on without the pause' }).click();
      } else if (seen.fields.length === 0) await page.keyboard.press('a');
      else {
        if (seen.fields.includes('Guard gauge')) {
          await next.getByRole('textbox', { name: 'Guard gauge' }).fill('2.00');
          await next.getByRole('textbox', { name: 'Pipe temperature' }).fill('16');
        } else await next.getByRole('textbox').fill('REF-77');
        await next.getByRole('button', { name: /^(Done|Plugged or capped|Seated|Shut|Sealed|Isolated|Off or)/ }).click();
      }
      const left = open.locator('li:not(:has([aria-label^="Undo"]))');
      await expect.poll(() => left.count(), { intervals: [20, 40, 80, 200] }).not.toBe(seen.left);
    }
  }

  async zero(): Promise<void> {
    const { page } = this;
    await page.getByRole('button', { name: /^Zero it/ }).click();
    await expect(page.getByTestId('simulated-reading')).toContainText(/^-?0(\.\d+)? /);
    await this.readSimulated();
  }

  /** Saves what was typed; a figure that closes its phase is confirmed, with its movement on the screen. */
  async enter(field: Locator = this.page.getByRole('textbox')): Promise<void> {
    const { page } = this;
    const typed = await field.inputValue();
    await field.press('Enter');
    const asked = page.getByTestId('confirm');
    const isSaved = async () => (await field.count()) === 0 || (await field.inputValue({ timeout: 500 }).catch(() => '')) !== typed;
    await expect(async () => expect((await asked.isVisible()) || (await isSaved())).toBe(true)).toPass();
    if (!(await asked.isVisible())) return;
    await page.waitForTimeout(450);
    await field.press('Enter');
  }

  /** Stamps and types a figure, as it is read by hand. */
  async stamped(button: RegExp, figure: string): Promise<void> {
    const { page } = this;
    await this.understood();
    await page.getByRole('button', { name: button }).click();
    await page.getByRole('textbox').fill(figure);
    await this.enter();
    await expect(page.getByRole('textbox')).toHaveCount(0);
  }

  async readSimulated(): Promise<void> {
    await this.page.getByRole('button', { name: /^Read the simulated gauge/ }).click();
  }

  async raise(): Promise<void> {
    const button = this.page.getByRole('button', { name: /^(Raise|Lower) to/ });
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
    const raise = this.page.getByRole('button', { name: /^(Raise|Lower) to/ });
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

  /**
   * Goes on with whatever the screen asks, as a good technician would, until `until` is open or the course is done.
   * @param sees what is answered where a phase asks to look: its option's words; else the first, which is seen when all is well
   * @param typed what real gauges show, by phase, in the order in which it is asked for; else the simulated gauge is read
   */
  async goOn({
    until,
    sees = {},
    typed,
  }: {
    readonly until?: string;
    readonly sees?: Readonly<Record<string, string | RegExp>>;
    readonly typed?: Readonly<Record<string, readonly string[]>>;
  } = {}): Promise<void> {
    this.figures = typed === undefined ? undefined : new Map(Object.entries(typed).map(([phase, figures]) => [phase, [...figures]]));
    const now = this.page.getByRole('region', { name: 'Now', exact: true });
    for (let pass = 0; pass < 90; pass += 1) {
      // Both at once: between two looks a settling time may end.
      const { phase, kind } = await now.evaluate((section: HTMLElement) => ({ phase: section.dataset.phase, kind: section.dataset.kind }));
      if (phase === 'over' || phase === until) return;
      await this.perform(now, phase ?? '', kind ?? '', sees);
    }
    throw new Error('the course never came to its end');
  }

  /** What is still to be typed, by phase. */
  private figures: Map<string, string[]> | undefined;

  /** Stamps what is asked for and types what the gauge shows; the second figure of a stamp is asked for at once. */
  private async typeNext(now: Locator, phase: string): Promise<void> {
    const { page } = this;
    const figure = this.figures?.get(phase)?.shift();
    if (figure === undefined) throw new Error(`no figure for ${phase}: ${await page.getByRole('main').last().innerText()}`);
    // Beside it there may be other things to fill in.
    const field = page.getByRole('textbox', { name: /, stamped / });
    if ((await field.count()) === 0) await now.getByRole('button', { name: /^(Stamp the|Read )/ }).click();
    await field.waitFor();
    const asked = () => field.evaluateAll((fields) => fields.map((one) => one.getAttribute('aria-label')).join());
    const before = await asked();
    await field.fill(figure);
    await this.enter(field);
    await expect.poll(asked).not.toBe(before);
  }

  private async perform(now: Locator, phase: string, kind: string, sees: Readonly<Record<string, string | RegExp>>): Promise<void> {
    const { page, app } = this;
    const understood = now.getByRole('button', { name: /^Understood/ });
    if (await understood.isVisible()) {
      await understood.click();
      await expect(understood).toBeHidden();
      return;
    }
    switch (kind) {
      case 'check':
        await this.tick();
        return;
      case 'observe': {
        const seen = sees[phase];
        const options = now.getByRole('button').filter({ hasNotText: /Undo|Pump|not read yet/ });
        await (seen === undefined ? options.first() : options.filter({ hasText: seen }).first()).click();
        await this.leaves(now, phase);
        return;
      }
      case 'settling':
        await this.letPass();
        return;
      case 'zero':
        if (this.figures === undefined) await this.zero();
        else await this.typeNext(now, phase);
        await this.leaves(now, phase);
        return;
      case 'measure': {
        if (this.figures !== undefined) {
          await this.typeNext(now, phase);
          return;
        }
        const move = now.getByRole('button', { name: /^(Open the supply|Pump|Draw down)/ });
        if (await move.isVisible()) await move.click();
        await app.pass(3);
        const taken = now.getByRole('list', { name: 'Readings of this phase' }).getByRole('listitem');
        const before = await taken.count();
        await this.readSimulated();
        await expect(async () => {
          const moved = (await now.getAttribute('data-phase')) !== phase;
          expect(moved || (await taken.count()) > before).toBe(true);
        }).toPass();
        return;
      }
      default:
        await this.oneHold(now, phase);
    }
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }

  /** The next thing of a hold: its start, its waiting, or its end; with temperature and barometer where they are asked for. */
  private async oneHold(now: Locator, phase: string): Promise<void> {
    const { page, app } = this;
    const button = (name: RegExp) => now.getByRole('button', { name });
    // A figure written just before may yet end it: then there is nothing to do here.
    const asked = button(/^(Stamp the|Note a reading)/);
    await expect.poll(async () => (await asked.first().isVisible()) || (await now.getAttribute('data-phase')) !== phase).toBe(true);
    if (!(await asked.first().isVisible())) return;
    if (await button(/^Note a reading/).isVisible()) {
      await this.conditions(now, /start,/);
      if (this.figures === undefined) await this.pumpBack(now);
      await this.letPass();
      await expect(button(/^Stamp the/)).toBeVisible();
      return;
    }
    if (await button(/^Stamp the end/).isVisible()) {
      await this.conditions(now, /end,/);
      if (this.figures === undefined) await this.readSimulated();
      else await this.typeNext(now, phase);
      await this.leaves(now, phase);
      return;
    }
    const move = button(/^((Raise|Lower) to|Open the supply)/);
    if (this.figures !== undefined) await this.typeNext(now, phase);
    else {
      if (await move.isVisible()) {
        await move.click();
        await app.pass(3);
      }
      await this.readSimulated();
    }
    // It runs, or settles, or the start beside it is asked for.
    await expect(async () => {
      const elsewhere = (await now.getAttribute('data-phase')) !== phase || (await now.getAttribute('data-kind')) === 'settling';
      expect(elsewhere || (await button(/^Note a reading/).isVisible())).toBe(true);
    }).toPass();
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }

  /** Waits until another phase is open; what the screen says instead is in the complaint. */
  private async leaves(now: Locator, phase: string): Promise<void> {
    const moved = expect(now).not.toHaveAttribute('data-phase', phase);
    await moved.catch(async () => {
      throw new Error(`still at ${phase}: ${await this.page.getByRole('main').last().innerText()}`);
    });
  }

  private async conditions(now: Locator, which: RegExp): Promise<void> {
    const wanted = now.getByRole('button', { name: /not read yet/ }).filter({ hasText: which });
    if (!(await wanted.isVisible())) return;
    await wanted.click();
    const dialog = this.page.getByRole('dialog');
    await expect(dialog.getByRole('textbox', { name: 'Barometer' })).toBeVisible();
    const pipe = dialog.getByRole('textbox', { name: 'Pipe temperature' });
    if (await pipe.isVisible()) await pipe.fill('15.0');
    await dialog.getByRole('textbox', { name: 'Barometer' }).fill('1013.2');
    await dialog.getByRole('button', { name: 'Keep it' }).click();
    await expect(wanted).toHaveCount(0);
    await expect(dialog).toHaveCount(0);
  }

  /** From a verdict: follows the advice on the simulated system until the leak is found. Answers how many steps it took. */
  async locate(start: string): Promise<number> {
    const { page, app } = this;
    await page.getByRole('button', { name: 'Find the leak' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Find the leak');
    const dry = page.getByRole('button', { name: 'The rig is dry' });
    if (await dry.isVisible()) await dry.click();
    await expect(dry).toHaveCount(0);
    const agrees = page.getByRole('button', { name: 'A second gauge agrees' });
    if (await agrees.isVisible()) await agrees.click();
    await expect(agrees).toHaveCount(0);
    const log = page.getByRole('region', { name: 'Search log' }).getByRole('listitem');
    for (let step = 1; step < 15; step += 1) {
      const before = await log.count();
      const advice = await page.getByTestId('recommended').innerText();
      if (advice.startsWith('Look')) await page.getByRole('button', { name: 'Look (simulated)' }).click();
      else if (await page.getByRole('button', { name: 'See (simulated)' }).isVisible())
        await page.getByRole('button', { name: 'See (simulated)' }).click();
      else {
        await page.getByLabel('Start reading').fill(start);
        await page.getByRole('button', { name: /^Start, / }).click();
        await app.pass(1300);
        await page.getByRole('button', { name: 'Read the simulated gauge' }).click();
      }
      await expect(log).toHaveCount(before + 1);
      if (await page.getByText(/^Found at/).isVisible()) return step;
    }
    throw new Error('the leak was not found');
  }

  /** Writes the repair down and begins the next attempt on the same instruments. */
  async repair(what: string): Promise<void> {
    const { page } = this;
    await page.getByRole('textbox', { name: 'What was repaired' }).fill(what);
    await page.getByRole('button', { name: 'Test again' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Plan attempt/);
    await page.getByRole('button', { name: 'Start the test' }).click();
    await page.getByRole('region', { name: 'Now', exact: true }).waitFor();
  }

  /** Pumps a main back every few minutes, before it has fallen too far. */
  private async pumpBack(now: Locator): Promise<void> {
    const { page, app } = this;
    const open = now.getByRole('button', { name: /^Pump back/ });
    if (!(await open.isVisible())) return;
    const taken = now.getByRole('list', { name: 'Readings of this phase' }).getByRole('listitem');
    for (let pumped = 1; (await this.secondsLeft()) > 700; pumped += 1) {
      await app.pass(600);
      await open.click();
      await page.getByRole('dialog').getByRole('button', { name: 'Pump the simulated main back' }).click();
      await expect(page.getByRole('dialog')).toHaveCount(0);
      await expect(taken).toHaveCount(1 + 2 * pumped);
    }
  }

  private async secondsLeft(): Promise<number> {
    const text = await this.page
      .getByTestId('countdown')
      .innerText({ timeout: 3000 })
      .catch(() => '0:00');
    const [minutes, seconds] = text.replace('+', '').split(':').map(Number);
    return text.startsWith('+') ? 0 : minutes * 60 + seconds;
  }

  /** Lets the time pass that the countdown shows. */
  private async letPass(): Promise<void> {
    // A settling time may have ended between two looks.
    if (await this.page.getByTestId('countdown').isVisible()) await this.app.pass((await this.secondsLeft()) + 1);
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
