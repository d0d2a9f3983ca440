import { type ChildProcess, execFile, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { type Browser, type BrowserContext, test as base, expect, type Page, type Request } from '@playwright/test';
import { type TestDatabase, testDatabase } from '../ops/test-database';
import { type Along, making } from '../src/core/register';

const root = join(import.meta.dirname, '..');

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

/** One server on one database, with the clock that it and every page share. */
export class App {
  private server: ChildProcess | undefined;
  private offset = 0;
  private readonly pages = new Set<Page>();
  private readonly contexts: BrowserContext[] = [];
  private readonly errors: string[] = [];
  private readonly sending = new Set<Request>();

  private constructor(
    readonly database: TestDatabase,
    readonly port: number,
  ) {}

  static async open(label: string, of: 'demo' | 'empty' = 'demo'): Promise<App> {
    const app = new App(await testDatabase(of, label), await freePort());
    await app.start();
    return app;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    const env = {
      ...process.env,
      VAST_DATABASE_URL: this.database.appUrl,
      VAST_AUTH_DATABASE_URL: this.database.authUrl,
      VAST_ADDRESS: this.url,
      NODE_ENV: 'production' as const,
      PORT: String(this.port),
      // A device that reaches it in its first moments meets the shared time already.
      VAST_TEST_OFFSET: String(this.offset),
    };
    this.server = spawn(process.execPath, [join(process.env.NEXT_DIST ?? '.next-test', 'serve.mjs')], {
      cwd: root,
      env,
      stdio: 'ignore',
    });
    for (let attempt = 0; attempt < 200; attempt += 1) {
      const ready = await fetch(`${this.url}/api/health`).then(
        (response) => response.ok,
        () => false,
      );
      if (ready) return;
      await new Promise((resolve) => setTimeout(resolve, 150));
    }
    throw new Error('the server did not become ready');
  }

  /** As in a power cut: no time to finish anything. */
  kill(): Promise<void> {
    const { server } = this;
    if (server === undefined) return Promise.resolve();
    this.server = undefined;
    return new Promise((resolve) => {
      server.once('exit', () => resolve());
      server.kill('SIGKILL');
    });
  }

  async close(): Promise<void> {
    try {
      await this.putAway();
    } finally {
      await this.kill();
      await this.database.drop();
    }
  }

  /** Lets `seconds` pass for the server and every page at once, without waiting for them. */
  async pass(seconds: number): Promise<void> {
    // What is under way was sent before this time passed: it must not arrive after it.
    for (let look = 0; this.sending.size > 0 && look < 100; look += 1) await new Promise((resolve) => setTimeout(resolve, 20));
    // In steps of less than two minutes: what is sent between the two clocks' moves says a clock that lags by one step, and a clock that is
    // two minutes wrong has dated its readings wrongly.
    for (let left = seconds; left > 0; ) {
      const step = left > mostStepped ? left : Math.min(left, 100);
      left -= step;
      this.offset += step * 1000;
      if (this.server !== undefined) await this.moveServer();
      for (const page of this.pages) if (!page.isClosed()) await page.evaluate(moveClock, this.offset);
    }
  }

  /** The date that the server and every page share: near midnight not the machine's. */
  today(): string {
    return new Date(Date.now() + this.offset).toISOString().slice(0, 10);
  }

  /** Puts the devices away, so that none goes on asking behind the next test. */
  async putAway(): Promise<void> {
    await Promise.all(this.contexts.splice(0).map((context) => context.close()));
    this.pages.clear();
    expect(this.errors.splice(0)).toEqual([]);
  }

  /** A browser profile without a page, for what is asked by address alone. */
  async context(browser: Browser): Promise<BrowserContext> {
    const context = await browser.newContext({ baseURL: this.url });
    this.contexts.push(context);
    return context;
  }

  private async moveServer(): Promise<void> {
    await fetch(`${this.url}/api/test-clock`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ offset: this.offset }),
    });
  }

  /** A page of a new browser profile (a device of its own), signed in as a demo person. */
  async device(
    browser: Browser,
    who: 'iola' | 'tomasz' | 'wren' | 'pernilla' | 'ruben' | 'nobody',
    options: Parameters<Browser['newContext']>[0] = {},
  ): Promise<Page> {
    const context = await browser.newContext({ baseURL: this.url, ...options });
    await context.addInitScript(() => {
      // A reload begins at the shared time, not at the machine's.
      const offset = Number(globalThis.localStorage?.getItem('test-offset') ?? 0);
      (globalThis as { __vastStoneClock?: unknown }).__vastStoneClock = { wall: offset, mono: offset };
    });
    this.contexts.push(context);
    const page = await context.newPage();
    this.pages.add(page);
    page.on('request', (request) => request.url().endsWith('/api/field/sync') && this.sending.add(request));
    for (const over of ['requestfinished', 'requestfailed'] as const)
      page.on(over as 'requestfinished', (request) => this.sending.delete(request));
    // What went wrong within the page, its workers too, fails the journey even where nothing shows.
    page.on('pageerror', (error) => this.errors.push(`${who} at ${page.url()}: ${error.stack || error.message}`));
    page.on('domcontentloaded', () => page.evaluate(moveClock, this.offset).catch(() => undefined));
    if (who !== 'nobody') await signIn(context, who);
    return patient(page);
  }
}

/** Longer times pass at once, s: days between two jobs. */
const mostStepped = 3600;

const moveClock = (offset: number) => {
  (globalThis as { __vastStoneClock?: unknown }).__vastStoneClock = { wall: offset, mono: offset };
  localStorage.setItem('test-offset', String(offset));
};

/** Whoever opens a page presses nothing before it listens; on a busy machine that is a while after it is seen. */
function patient(page: Page): Page {
  const listens = () =>
    page
      .waitForFunction(() => document.contentType !== 'text/html' || document.documentElement.dataset.listens !== undefined, null, {
        timeout: 10_000,
      })
      .catch(() => undefined);
  const { goto, reload, waitForURL } = page;
  page.goto = async (...args) => {
    const response = await goto.apply(page, args);
    await listens();
    return response;
  };
  page.reload = async (...args) => {
    const response = await reload.apply(page, args);
    await listens();
    return response;
  };
  page.waitForURL = async (...args) => {
    await waitForURL.apply(page, args);
    await listens();
  };
  return page;
}

/** Makes the firm and the supervisor that an empty installation begins with, and signs them in on a page, on Today. */
export async function setUpFirm(app: App, page: Page): Promise<void> {
  const { stdout } = await promisify(execFile)(process.execPath, [join(root, 'node_modules/tsx/dist/cli.mjs'), 'ops/first-firm.ts'], {
    cwd: root,
    env: {
      ...process.env,
      VAST_DATABASE_URL: app.database.appUrl,
      VAST_AUTH_DATABASE_URL: app.database.authUrl,
      VAST_ADDRESS: app.url,
    },
  });
  const password = /password (\S+)/.exec(stdout)?.[1];
  if (password === undefined) throw new Error('no password was printed');
  await page.goto('/sign-in');
  await page.getByLabel('E-mail', { exact: true }).fill('supervisor@firm.invalid');
  await page.getByLabel('Password', { exact: true }).fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL(/today/);
}

/** Finds a site on the device by its name, and opens it. */
export async function openSite(page: Page, name: string): Promise<void> {
  await page.goto('/field?at=sites');
  await page.getByRole('searchbox').fill(name);
  await page
    .getByRole('main')
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
}

const firms = { ruben: 'ostrel' } as Record<string, string>;

export async function signIn(context: BrowserContext, who: string): Promise<void> {
  const response = await context.request.post('/api/sign-in', {
    data: { email: `${who}@${firms[who] ?? 'lindqvay'}.invalid`, password: 'harbour-demo-1' },
  });
  expect(response.ok()).toBe(true);
}

/** A write as our own pages send it. */
export const asPage = (app: App, data: unknown) => ({
  data,
  headers: { origin: app.url, 'command-id': randomUUID() },
});

/** What the firm of whoever is signed in has, as a device that takes all of it along gets it; sites are found by a word of theirs. */
export async function registerOf(app: App, context: BrowserContext, words = 'Brinehaven'): Promise<Along> {
  const found: readonly { site: { id: string } }[] = await (await context.request.get(`/api/field/search?words=${words}`)).json();
  const asked = asPage(app, { pinned: found.map(({ site }) => site.id) });
  return (await context.request.post('/api/field/along', asked)).json();
}

/** A visit of today to the site of these systems, to test their gas; answers which it is. */
export async function visitToday(app: App, by: Page, names: readonly string[]): Promise<string> {
  const found = await (await by.request.get(`/api/field/search?words=${encodeURIComponent(names[0])}`)).json();
  const [{ site }] = found.filter(({ systems }: { systems: readonly string[] }) => names.every((name) => systems.includes(name)));
  const along: Along = await (await by.request.post('/api/field/along', asPage(app, { pinned: [site.id] }))).json();
  const tests = names.flatMap((name) =>
    along.systems.flatMap((one) => (one.name === name ? [{ system: one.id, procedure: 'domestic-gas-millibar' }] : [])),
  );
  const id = randomUUID();
  const change = making('visit', id, { siteId: site.id, on: app.today(), tests });
  expect((await by.request.post('/api/things', asPage(app, { changes: [change] }))).ok()).toBe(true);
  return id;
}

export const test = base.extend<{ tidy: undefined }, { app: App }>({
  tidy: [
    async ({ app }, use) => {
      await use(undefined);
      await app.putAway();
    },
    { auto: true },
  ],
  app: [
    async ({ browserName: _ }, use, info) => {
      const app = await App.open(`w${info.workerIndex}`);
      await use(app);
      await app.close();
    },
    { scope: 'worker' },
  ],
});
export { expect };
