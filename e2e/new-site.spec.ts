import type { Locator, Page } from '@playwright/test';
import { App, expect, test } from './app';
import { choose } from './choosing';
import { Technician } from './technician';

/*
 * Every kind of job as it is met on a site that nobody has been to: site, system and gauges made on the phone, real gauges typed in the
 * units of the trade, to the verdict. Two of them have no signal from the first tap to the last.
 */

interface Gauge {
  readonly name: string;
  readonly unit: string;
  readonly step: string;
  readonly from?: string;
  readonly to: string;
}

interface Job {
  readonly kind: string;
  readonly procedure: string;
  readonly pipes?: string;
  readonly gauge?: Gauge;
  /** Beside the gauge: the label under which the plan asks for it. */
  readonly others?: Readonly<Record<string, Gauge>>;
  readonly answers?: Readonly<Record<string, string>>;
  readonly sees?: Readonly<Record<string, string | RegExp>>;
  readonly typed: Readonly<Record<string, readonly string[]>>;
  readonly verdict: string;
  /** A sentence of the verdict's that this job must come to. */
  readonly says: RegExp;
  readonly offline?: true;
}

const bar = (name: string, step: string, to: string): Gauge => ({ name, unit: 'bar (pressure)', step, to });
const psi = (name: string, step: string, to: string): Gauge => ({ name, unit: 'psi (pressure)', step, to });
const column: Gauge = { name: 'Own water column', unit: 'in WC (pressure)', step: '0.05', to: '30' };

const jobs: readonly Job[] = [
  {
    kind: 'Gas',
    procedure: 'Domestic low-pressure gas',
    pipes: '22cu 11\n15cu 7.5',
    gauge: { name: 'Own millibar', unit: 'mbar (pressure)', step: '0.01', from: '-5', to: '150' },
    typed: { zero: ['0.00'], 'let-by': ['8.50', '8.49'], settle: ['20.50'], hold: ['20.48', '20.40'] },
    verdict: 'Pass',
    says: /20\.48 to 20\.40 mbar/,
  },
  {
    kind: 'Gas',
    procedure: 'Meter set turn-on',
    pipes: '3/4sch40 35ft',
    gauge: column,
    others: { 'Meter’s test dial': { name: 'Own dial', unit: 'turn (meter dial)', step: '0.01', to: '1000' } },
    typed: { zero: ['0.00'], 'lock-up': ['8.00', '8.00'], seepage: ['5.50', '5.50'], hold: ['7.50', '7.50'], dial: ['3.20', '3.20'] },
    verdict: 'Pass',
    says: /7\.50 to 7\.50 in WC/,
  },
  {
    kind: 'Gas',
    procedure: 'Gas leak rate',
    pipes: '28cu 24',
    gauge: { name: 'Own millibar', unit: 'mbar (pressure)', step: '0.01', from: '-5', to: '150' },
    typed: { zero: ['0.00'], settle: ['22.50'], hold: ['22.50', '22.40'] },
    verdict: 'Pass',
    says: /L\/h/,
  },
  {
    kind: 'Propane',
    procedure: 'Propane in a vehicle',
    pipes: '10cu 6',
    gauge: column,
    typed: {
      zero: ['0.00'],
      'lock-up': ['12.00', '12.00'],
      settle: ['7.50'],
      hold: ['7.50', '7.30'],
      bleed: ['0.00'],
      creep: ['0.00', '0.00'],
      flow: ['11.00'],
    },
    verdict: 'Fail',
    says: /fell 0\.20 in WC/,
  },
  {
    kind: 'Propane',
    procedure: 'Propane, tank to appliance',
    pipes: '1/2sch40 30ft',
    gauge: psi('Tank gauge', '0.5', '200'),
    others: { 'Low-pressure gauge': column },
    answers: { low: 'yes' },
    typed: { zero: ['0.0'], tank: ['100.0'], hold: ['90.0', '90.0'], 'zero-low': ['0.00'], 'hold-low': ['8.00', '8.00'] },
    verdict: 'Pass',
    says: /8\.00 to 8\.00 in WC/,
  },
  {
    kind: 'Water',
    procedure: 'Water isolation hold',
    gauge: bar('Own bar', '0.05', '10'),
    typed: { zero: ['0.00'], supply: ['4.00'], 'let-by': ['3.60', '3.60'], hold: ['3.60', '3.60'] },
    verdict: 'Pass',
    says: /3\.60 to 3\.60 bar/,
    offline: true,
  },
  {
    kind: 'Water',
    procedure: 'Vehicle water',
    gauge: psi('Small needle', '0.5', '100'),
    typed: { zero: ['0.0'], hold: ['50.0', '50.0'] },
    verdict: 'Pass',
    says: /50\.0 to 50\.0 psi/,
  },
  {
    kind: 'Drains',
    procedure: 'Drain level hold',
    gauge: psi('Ball gauge', '1', '60'),
    others: { 'Rule or level mark': { name: 'Own rule', unit: 'mm (level)', step: '1', to: '1000' } },
    answers: { read: 'dip' },
    typed: { zero: ['0'], ball: ['45'], settle: ['36'], hold: ['37', '44'], 'ball-after': ['45'] },
    verdict: 'Fail',
    says: /fell 7 mm/,
    offline: true,
  },
  {
    kind: 'Heating, underfloor heating',
    procedure: 'Heating and water, hydraulic',
    pipes: '16x2pex 90',
    gauge: bar('Pump gauge', '0.05', '6'),
    answers: { air: 'no', pipe: 'multilayer', components: 'Manifold 6 bar' },
    typed: { zero: ['0.00'], 'stage-1': ['3.10', '3.00'], 'stage-1-again': ['3.05', '3.05'], 'stage-2': ['3.00', '3.00'] },
    verdict: 'Pass',
    says: /3\.00 to 3\.00 bar/,
  },
  {
    kind: 'Heating, underfloor heating',
    procedure: 'Underfloor heating',
    pipes: '16x2pex 320',
    gauge: bar('Manifold gauge', '0.05', '10'),
    answers: { loops: '1 Kitchen\n2 Hall', components: 'Manifold 8 bar' },
    typed: { zero: ['0.00'], 'stage-1': ['5.00', '4.80'], 'stage-1-again': ['5.00', '5.00'], hold: ['5.00', '4.95'] },
    verdict: 'Pass',
    says: /5\.00 to 4\.95 bar/,
  },
  {
    kind: 'Water main',
    procedure: 'Water main by make-up',
    gauge: psi('Main gauge', '1', '300'),
    others: { 'Measuring vessel': { name: 'Own vessel', unit: 'US gal (volume)', step: '0.01', to: '20' } },
    answers: { components: 'Hydrant 250 psi -6 ft' },
    typed: { zero: ['0'], hold: ['203', '200'], 'make-up': ['203', '200', '0.42'] },
    verdict: 'Pass',
    says: /0\.42/,
  },
  {
    kind: 'Refrigerant pipework',
    procedure: 'Refrigerant pipework, nitrogen',
    pipes: '28cu 22',
    gauge: bar('Low manifold', '0.1', '60'),
    answers: { refrigerant: 'R407F', 'low-ps': '14.8', 'high-ps': '27.5' },
    others: { 'High side’s gauge': bar('High manifold', '0.1', '60') },
    typed: {
      zero: ['0.0'],
      'zero-high': ['0.0'],
      'strength-low': ['16.4', '16.4'],
      'strength-high': ['30.4', '30.4'],
      'tightness-low': ['14.0', '14.0'],
      'tightness-high': ['27.0', '26.5'],
    },
    verdict: 'Fail',
    says: /fell 0\.5 bar/,
  },
  {
    kind: 'Pool or spa line',
    procedure: 'Pool and spa lines, pressure',
    gauge: psi('Pool gauge', '0.1', '30'),
    answers: { openings: 'Equipment end\nReturn 1\nReturn 2 hook' },
    typed: { zero: ['0.0'], hold: ['18.0', '18.0'] },
    verdict: 'Pass',
    says: /18\.0 to 18\.0 psi/,
  },
  {
    kind: 'Pool or spa line',
    procedure: 'Pool and spa lines, dye',
    answers: { openings: 'Main drain\nEquipment end' },
    typed: {},
    verdict: 'Inconclusive',
    says: /dye/,
  },
  {
    kind: 'Ducts',
    procedure: 'Duct tightness',
    gauge: { name: 'Duct manometer', unit: 'Pa (pressure)', step: '0.1', from: '-500', to: '500' },
    others: { 'Fan with its ring': { name: 'Own fan', unit: 'CFM (flow)', step: '0.1', to: '60' } },
    typed: { zero: ['0.0'], points: ['25.0', '11.0', '12.5', '7.2'] },
    verdict: 'Pass',
    says: /CFM/,
  },
];

const day = (from: number) => new Date(Date.now() + from * 86_400_000).toISOString().slice(0, 10);
const fillAll = async (scope: Page | Locator, fields: Readonly<Record<string, string>>) => {
  for (const [label, text] of Object.entries(fields)) await scope.getByLabel(label, { exact: true }).fill(text);
};

async function addGauge(page: Page, { name, unit, step, from = '0', to }: Gauge): Promise<void> {
  const dialog = page.getByRole('dialog');
  await page.goto('/field?at=instruments');
  await page.getByRole('button', { name: 'Add an instrument' }).click();
  await choose(dialog, 'Unit', unit);
  await fillAll(dialog, {
    Name: name,
    'Smallest movement that it shows': step,
    'Range from': from,
    'Range to': to,
    'Serial number': 'N-1',
    'Calibrated on': day(-30),
    'Next due': day(300),
    'Certificate’s reference': 'C-1',
  });
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('listitem').filter({ hasText: name }).first()).toContainText(`valid to ${day(300)} (C-1)`);
}

async function addSystem(page: Page, { kind, pipes }: Job, name: string): Promise<void> {
  const dialog = page.getByRole('dialog');
  await page.goto('/field?at=sites');
  await page.getByRole('button', { name: 'Add a site' }).click();
  await fillAll(dialog, { Name: 'Net loft', Address: '3 Slip Lane' });
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Net loft');
  await page.getByRole('button', { name: 'Add a system' }).click();
  await choose(dialog, 'Kind', kind);
  await fillAll(dialog, { Name: name, ...(pipes === undefined ? {} : { 'Pipe schedule': pipes }) });
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: new RegExp(`^${name}`) })).toBeVisible();
}

async function wholeJob(app: App, page: Page, job: Job, mark: string): Promise<void> {
  const work = new Technician(app, page);
  await page.goto('/field');
  if (job.offline === true) {
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Today');
    await page.context().setOffline(true);
  }
  // What is pressed from here to the start, gauges aside: one adds those once.
  await page.addInitScript(() =>
    addEventListener(
      'click',
      (event) => event.isTrusted && sessionStorage.setItem('taps', String(Number(sessionStorage.getItem('taps')) + 1)),
      true,
    ),
  );
  const taps = async () => Number(await page.evaluate(() => sessionStorage.getItem('taps') ?? '0'));
  const named = (gauge: Gauge): Gauge => ({ ...gauge, name: `${gauge.name} ${mark}` });
  await addSystem(page, job, `New system ${mark}`);
  const ofSite = await taps();
  for (const gauge of [job.gauge, ...Object.values(job.others ?? {})]) if (gauge !== undefined) await addGauge(page, named(gauge));
  const ofGauges = (await taps()) - ofSite;
  await work.openPlan(`New system ${mark}`, job.procedure);
  await work.answerAsUsual(job.answers);
  if (job.gauge !== undefined) await work.takeGauge(new RegExp(`^${named(job.gauge).name}`));
  for (const [label, gauge] of Object.entries(job.others ?? {})) await work.takeGauge(new RegExp(`^${named(gauge).name}`), label);
  await page.getByRole('button', { name: 'Start the test' }).click();
  await page.waitForURL(/run=/);
  const needed = (await taps()) - ofGauges;
  test.info().annotations.push({ type: 'taps from the sites to the start', description: String(needed) });
  expect(needed).toBeLessThanOrEqual(30);
  await work.goOn({ typed: job.typed, sees: job.sees ?? {} });
  await page.getByRole('button', { name: 'Verdict', exact: true }).click();
  const why = page.getByRole('region', { name: 'Why' });
  await why.waitFor();
  const said = await why.innerText();
  expect(await page.getByTestId('verdict').innerText(), said).toBe(job.verdict);
  expect(said).toMatch(job.says);
  if (job.offline === true) await expect(page.getByTestId('signal')).toContainText(/no signal · \d+ to send/);
}

test.use({ serviceWorkers: 'allow' });
// Gauges that are added here would stand beside those of other journeys.
let app: App;
test.beforeAll(async ({ browser: _ }, info) => {
  app = await App.open(`sites${info.workerIndex}`);
});
test.afterEach(() => app.putAway());
test.afterAll(() => app.close());

for (const [index, job] of jobs.entries())
  test(`${job.procedure}: ${job.verdict}${job.offline === true ? ', with no signal' : ''}`, async ({ browser }) => {
    const page = await app.device(browser, 'iola', {
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      serviceWorkers: job.offline === true ? 'allow' : 'block',
    });
    await wholeJob(app, page, job, String(index + 1));
  });
