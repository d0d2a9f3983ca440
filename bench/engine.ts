import { calculations, startOf, work } from '@/core/bench';
import type { Criterion, HoldPhase, MeasureCriterion, Phase } from '@/core/course';
import { atStartTemperature, estimateHold, judge, outcomeOf, type RunEvent } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { makeUpPoints } from '@/core/limits';
import { type Plan, planTest } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { holdPhase, measurePhase } from '@/core/procedures/phase-shapes';
import { plantModel } from '@/core/simulation';
import { demoGauge, exampleFor, examplePlan, planFor } from '@/core/simulation/examples.fixture';
import type { Instrument } from '@/core/sizing';
import { median, paired, type Say } from './measures';

/** As they come from a store, a server or a record; objects that were put together by hand are slow to read. */
const asParsed = ({ events }: LogBuilder): readonly RunEvent[] => JSON.parse(JSON.stringify(events));

const sumOf = (chunks: readonly (readonly number[])[]): number => {
  let all = 0;
  for (const chunk of chunks) for (let index = 0; index < chunk.length; index += 1) all += chunk[index];
  return all;
};

const base = planFor({ answers: { work: 'new' }, gauge: { ...demoGauge, rangeHigh: '1000' } });
const other = (unit: Instrument['unit'], readability: string): Instrument => ({
  ...demoGauge,
  unit,
  readability,
  rangeLow: '0',
  rangeHigh: '100000',
  calibration: { needed: false },
});

const hold = (criterion: Criterion, more: Partial<HoldPhase> = {}): HoldPhase =>
  holdPhase({
    id: 'hold',
    title: 'Hold',
    say: '',
    purpose: 'tightness',
    band: { low: '0', high: '1000' },
    seconds: 86_400,
    limit: criterion,
    restartFrom: 'hold',
    ...more,
  });

const planOf = (phases: readonly Phase[], instruments?: Readonly<Record<string, Instrument>>): Plan => ({
  ...base,
  phases,
  conclusions: [],
  boundaries: [],
  judgedBy: 'hold',
  ...(instruments === undefined ? {} : { instruments }),
});

/** A sample a second for a day, as chunks of 600, into the open hold from its start reading on. */
function writeDay(log: LogBuilder, from: number): void {
  const startAt = log.events.at(-1)?.observedAt ?? 0;
  for (let chunk = 0; chunk < 144; chunk += 1)
    log.at(from + (chunk + 1) * 600).write({
      type: 'trace',
      phase: 'hold',
      round: 1,
      startAt: startAt + chunk * 600_000,
      stepMs: 1000,
      unit: 'mbar',
      scale: 2,
      values: Array.from({ length: 600 }, (_, index) => 2050 - ((chunk * 600 + index) % 7)),
      source: 'keypad',
    });
}

/** A day's hold, read at both ends, with pipe and barometer where they correct it. */
function dayOf(plan: Plan): LogBuilder {
  const [first] = plan.phases;
  const alongside = (log: LogBuilder, role: 'start' | 'end', celsius: string, hpa: string): LogBuilder =>
    first.kind === 'hold' && first.corrects !== undefined
      ? log.degrees('hold', role, celsius).figure('hold', role, 'barometer', hpa, 'hPa')
      : log;
  const log = alongside(new LogBuilder(plan).at(0).read('hold', 'start', '20.50'), 'start', '20.0', '1013.2');
  writeDay(log, 0);
  return alongside(log.at(86_401), 'end', '20.1', '1013.4').read('hold', 'end', '20.46');
}

async function kinds(say: Say): Promise<void> {
  const corrects = { atmosphereHpa: '1013.25', needed: 'both' } as const;
  const measured = (criterion: MeasureCriterion, points: number): Phase =>
    measurePhase({
      id: 'points',
      title: 'Points',
      say: '',
      fields:
        criterion.kind === 'make-up-at-most'
          ? [
              { quantity: 'pressure', label: '' },
              { quantity: 'volume', label: '', instrument: 'vessel' },
            ]
          : [
              { quantity: 'pressure', label: '' },
              { quantity: 'flow', label: '', instrument: 'flow' },
            ],
      points:
        criterion.kind === 'make-up-at-most'
          ? [
              { id: makeUpPoints.back, label: 'back', reads: ['pressure'] },
              { id: makeUpPoints.drawn, label: 'drawn' },
            ]
          : Array.from({ length: points }, (_, index) => ({ id: `p${index}`, label: `p${index}` })),
      limit: criterion,
      restartFrom: 'points',
    });
  const cases: readonly (readonly [string, Plan, (log: LogBuilder) => LogBuilder, string])[] = [
    ['no rise', planOf([hold({ kind: 'no-rise', threshold: '0.25' })]), (log) => log, 'steady'],
    ['no fall', planOf([hold({ kind: 'no-fall', threshold: '0.25' })]), (log) => log, 'tight'],
    ['no fall, corrected', planOf([hold({ kind: 'no-fall', threshold: '20' }, { corrects })]), (log) => log, 'tight'],
    ['at most', planOf([hold({ kind: 'at-most', limit: '21' })]), (log) => log, 'within'],
    ['keep', planOf([hold({ kind: 'keep', within: '5' })]), (log) => log, 'kept'],
    [
      'leak rate',
      planOf([hold({ kind: 'leak-rate', litres: '40', factor: '1', bands: [{ below: '1', outcome: 'low' }], beyond: 'high' })]),
      (log) => log,
      // A day's noise of three steps is a rise to a rate that one step decides.
      'rise',
    ],
    [
      'make-up after a day’s keep',
      planOf(
        [
          hold({ kind: 'keep' }),
          measured(
            {
              kind: 'make-up-at-most',
              hold: 'hold',
              material: 'iron',
              length: '400',
              lengthUnit: 'm',
              diameter: '200',
              diameterUnit: 'mm',
              seconds: 86_400,
              unit: 'L',
            },
            1,
          ),
        ],
        { vessel: other('L', '0.01') },
      ),
      (log) =>
        log
          .figure('points', 'point', 'pressure', '20.50', 'mbar', { point: makeUpPoints.back })
          .figure('points', 'point', 'pressure', '20.50', 'mbar', { point: makeUpPoints.drawn })
          .figure('points', 'point', 'volume', '0.01', 'L', { point: makeUpPoints.drawn }),
      'kept',
    ],
  ];
  for (const [name, plan, more, expected] of cases) {
    const events = asParsed(more(dayOf(plan)));
    if (outcomeOf(judge(plan, events).phases[0]) !== expected)
      throw new Error(`${name} was not judged as meant: ${outcomeOf(judge(plan, events).phases[0])}`);
    const values = events.flatMap((event) => (event.type === 'trace' ? [event.values] : []));
    const { reference, measured, ratio } = await paired(
      200,
      () => sumOf(values),
      () => judge(plan, events),
    );
    say(
      `Judge 86 400 readings, as trace: ${name}`,
      `${measured.toFixed(2)} ms`,
      `${reference.toFixed(2)} ms, a bare sum (${ratio.toFixed(1)} times)`,
      'at most 10 times',
    );
  }
  const duct = planOf([measured({ kind: 'flow-at-most', limit: '40', unit: 'CFM', reference: '25', baseline: '1' }, 200)], {
    flow: other('CFM', '0.1'),
  });
  const log = new LogBuilder({ ...duct, gauge: { ...duct.gauge, unit: 'Pa', readability: '0.1' } }).at(0);
  for (let point = 0; point < 200; point += 1) {
    const pa = 10 + point / 4;
    log
      .figure('points', 'point', 'pressure', pa.toFixed(1), 'Pa', { point: `p${point}` })
      .figure('points', 'point', 'flow', (5 * pa ** 0.6).toFixed(1), 'CFM', { point: `p${point}` });
  }
  const ducts = { ...duct, unit: 'Pa' as const, gauge: { ...duct.gauge, unit: 'Pa' as const, readability: '0.1' } };
  if (outcomeOf(judge(ducts, log.events).phases[0]) !== 'within') throw new Error('the duct was not judged as meant');
  say('Judge 200 flow points, fitted', `${(await median(200, () => judge(ducts, log.events))).toFixed(2)} ms`, '', '');
  const level = planOf([hold({ kind: 'no-fall', threshold: '1' }, { instrument: 'rule', unit: 'mm' })], { rule: other('mm', '1') });
  const dial = planOf([hold({ kind: 'dial', threshold: '0.02', litresPerTurn: '14.158' }, { instrument: 'dial', unit: 'turn' })], {
    dial: other('turn', '0.01'),
  });
  for (const [name, plan, quantity, unit] of [
    ['no fall', planOf([hold({ kind: 'no-fall', threshold: '0.25' })]), 'pressure', 'mbar'],
    ['no rise', planOf([hold({ kind: 'no-rise', threshold: '0.25' })]), 'pressure', 'mbar'],
    ['level', level, 'level', 'mm'],
    ['dial', dial, 'turns', 'turn'],
  ] as const) {
    const many = new LogBuilder(plan).at(0).figure('hold', 'start', quantity, '100', unit);
    for (let at = 1; at < 86_399; at += 1) many.at(at).figure('hold', 'between', quantity, '100', unit);
    many.at(86_401).figure('hold', 'end', quantity, '100', unit);
    const json = JSON.stringify(many.events);
    const events: readonly RunEvent[] = JSON.parse(json);
    const { reference, measured, ratio } = await paired(
      9,
      () => JSON.parse(json),
      () => judge(plan, events),
    );
    say(
      `Judge 86 400 readings, singly: ${name}`,
      `${measured.toFixed(0)} ms`,
      `${reference.toFixed(0)} ms, parsing them (${ratio.toFixed(2)} of it)`,
      'at most a tenth',
    );
  }
  const plan = planOf([hold({ kind: 'no-fall', threshold: '0.25' })]);
  const taken = new LogBuilder(plan).at(0).read('hold', 'start', '100');
  for (let at = 1; at <= 12_000; at += 1) taken.at(at).read('hold', 'between', '100');
  const ids = taken.events.flatMap((event) => (event.type === 'reading' && event.role === 'between' ? [event.id] : []));
  for (const reading of ids) taken.write({ type: 'withdrawn', reading, reason: 'Mistyped' });
  const withdrawn = asParsed(taken);
  say(
    'Judge 12 000 readings and their withdrawals',
    `${(await median(9, () => judge(plan, withdrawn))).toFixed(0)} ms`,
    '',
    'under 100 ms',
  );
}

/** Hours of plant that a second of computing simulates, asked ten times a second. */
async function plants(say: Say): Promise<void> {
  for (const procedure of procedures) {
    const plan = examplePlan(procedure.id);
    const acts = [{ atMs: 0, action: 'raise' as const, pa: 20_000 }];
    const time = await median(5, () => {
      const track = plantModel(plan).track(plan, 'sound', 5, acts);
      let last = '';
      for (let at = 0; at < 3_600_000; at += 100) last = track.shownAt(at);
      return last;
    });
    say(`An hour of plant at 10 Hz: ${procedure.id}`, `${time.toFixed(0)} ms, ${(1000 / time).toFixed(0)} h/s`, '', 'under 100 ms');
  }
}

/** What a new part of the engine must keep to. */
export async function engine(say: Say): Promise<void> {
  await kinds(say);
  await plants(say);
  for (const procedure of procedures) {
    const input = exampleFor(procedure.id);
    say(`Plan: ${procedure.id}`, `${(await median(100, () => planTest(input))).toFixed(2)} ms`, '', 'under 5 ms');
  }
  const seen = Array.from({ length: 36_000 }, (_, index) => ({
    seconds: index / 10,
    value: 20.5 - index * 1e-6 + ((index * 7) % 5) * 0.002,
  }));
  const warmth = [0, 1800, 3600].map((seconds) => ({ seconds, kelvin: 293 + seconds / 3600 }));
  say(
    'Live estimate at an hour of 10 Hz, corrected, per reading',
    `${(await median(30, () => estimateHold(atStartTemperature(seen, warmth, 'mbar', 101_325), 0.01, 0.25, 3600))).toFixed(2)} ms`,
    '',
    'within a frame, 16 ms',
  );
  const times: number[] = [];
  for (const calculation of calculations) times.push(await median(200, () => work(calculation, startOf(calculation))));
  say(`A calculation on Bench, the slowest of ${calculations.length}`, `${Math.max(...times).toFixed(2)} ms`, '', 'within a frame, 16 ms');
}
