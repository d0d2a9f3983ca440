import fc from 'fast-check';
import type { Gauge } from '../planning/gauge';
import type { Plan } from '../planning/plan';
import { canonical } from '../record/canonical';
import { demoGauge, eventsFor, planFor } from '../simulation/fixtures';
import { type Body, dateText, type RunEvent } from './events';
import { judge } from './judge';
import { LogBuilder } from './log-builder';
import { reasons } from './reasons';

const tight = planFor({ answers: { work: 'new' } });
const permitting = planFor({});
const one = planFor({ answers: { work: 'new' }, gauge: { ...demoGauge, readability: '0.1' } });
const build = (plan: Plan) => new LogBuilder(plan);
const codes = (plan: Plan, events: readonly RunEvent[]) => judge(plan, events).reasons.map(({ code }) => code as string);
const outcomeOf = (plan: Plan, events: readonly RunEvent[], phase: string) =>
  judge(plan, events).phases.find(({ id }) => id === phase)?.outcome;
const upToHold = (plan: Plan) => build(plan).proved().settled();
const said = (plan: Plan, log: LogBuilder) => judge(plan, log.events).provisional;

describe('the threshold', () => {
  test('below passes, at it is perceptible: 0.24 and 0.25 on two decimals', () => {
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.26').events, 'hold')).toBe('tight');
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.25').events, 'hold')).toBe('fall');
  });

  test('one decimal: 0.1 passes, 0.2 does not, at every start where binary would err', () => {
    for (let tenths = 200; tenths <= 210; tenths += 1) {
      const text = (value: number) => (value / 10).toFixed(1);
      const log = (fall: number) =>
        build(one)
          .at(0)
          .tick('prepare')
          .at(20)
          .read('zero', 'zero', '0.0')
          .at(30)
          .read('let-by', 'start', '8.5')
          .at(91)
          .read('let-by', 'end', '8.5')
          .at(100)
          .read('settle', 'start', '20.5')
          .held(text(tenths), text(tenths - fall));
      expect(outcomeOf(one, log(1).events, 'hold')).toBe('tight');
      expect(outcomeOf(one, log(2).events, 'hold')).toBe('fall');
    }
  });

  test('at a permitted drop is permitted, above it is a fall', () => {
    expect(outcomeOf(permitting, upToHold(permitting).held('20.50', '16.50').events, 'hold')).toBe('permitted');
    expect(outcomeOf(permitting, upToHold(permitting).held('20.50', '16.49').events, 'hold')).toBe('fall');
    expect(outcomeOf(permitting, upToHold(permitting).held('20.50', '20.26').events, 'hold')).toBe('tight');
  });

  test('let-by: a rise at the threshold counts, one step below does not, a fall is noted and the test goes on', () => {
    expect(outcomeOf(tight, build(tight).proved('8.74').events, 'let-by')).toBe('steady');
    expect(outcomeOf(tight, build(tight).proved('8.75').events, 'let-by')).toBe('rise');
    const fell = build(tight).proved('8.20');
    expect(codes(tight, fell.events)).toContain('let-by-fall');
    expect(judge(tight, fell.events).current).toBe('settle');
  });

  test('a gauge in another unit is compared exactly: 25 Pa is 0.25 mbar', () => {
    const plan = planFor({
      answers: { work: 'new' },
      gauge: { ...demoGauge, unit: 'Pa', readability: '1', rangeLow: '-100', rangeHigh: '15000' },
    });
    const log = (end: string) =>
      build(plan)
        .at(0)
        .tick('prepare')
        .at(20)
        .read('zero', 'zero', '0')
        .at(30)
        .read('let-by', 'start', '850')
        .at(91)
        .read('let-by', 'end', '850')
        .at(100)
        .read('settle', 'start', '2050')
        .held('2050', end);
    expect(outcomeOf(plan, log('2026').events, 'hold')).toBe('tight');
    expect(outcomeOf(plan, log('2025').events, 'hold')).toBe('fall');
  });
});

describe('bands and times', () => {
  test.each([
    ['19.95', true],
    ['19.94', false],
    ['21.04', true],
    ['21.05', false],
    ['20.00', true],
    ['21.00', true],
  ])('a start of %s is in 20–21 after rounding to 0.1: %s', (start, accepted) => {
    const log = upToHold(tight).at(170).read('hold', 'start', start);
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')?.startAt !== undefined).toBe(accepted);
    if (!accepted) expect(codes(tight, log.events)).toContain('start-out-of-band');
  });

  test('10.01 is in the let-by band, 10.05 is not', () => {
    const start = (value: string) =>
      judge(
        tight,
        build(tight).tick('prepare').at(20).read('zero', 'zero', '0.00').at(30).read('let-by', 'start', value).events,
      ).phases.find(({ id }) => id === 'let-by')?.startAt;
    expect(start('10.01')).toBeDefined();
    expect(start('10.05')).toBeUndefined();
  });

  test('an end reading a millisecond early does not end the hold; on the due time it does', () => {
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.50', 289.999).events, 'hold')).toBeUndefined();
    expect(codes(tight, upToHold(tight).held('20.50', '20.50', 289.999).events)).toContain('early-end');
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.50', 290).events, 'hold')).toBe('tight');
  });

  test('a hold started before the settling time was over does not count', () => {
    const early = build(tight).proved().settled().at(159.999).read('hold', 'start', '20.50').at(300).read('hold', 'end', '20.50');
    expect(outcomeOf(tight, early.events, 'hold')).toBeUndefined();
    expect(codes(tight, early.events)).toContain('start-too-soon');
    expect(judge(tight, early.events).provisional).toBe('in progress');
  });

  test('late by more than 10 s: a pass stands, a fall is inconclusive', () => {
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.50', 900).events, 'hold')).toBe('tight');
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.10', 300).events, 'hold')).toBe('fall');
    const late = upToHold(tight).held('20.50', '20.10', 300.001);
    expect(outcomeOf(tight, late.events, 'hold')).toBe('unclear');
    expect(codes(tight, late.events)).toContain('late-fall');
  });

  test('late, with readings around the due time: the straight line between them decides', () => {
    const around = (before: string, after: string) =>
      upToHold(tight)
        .at(170)
        .read('hold', 'start', '20.50')
        .at(285)
        .read('hold', 'between', before)
        .at(295)
        .read('hold', 'between', after)
        .at(400)
        .read('hold', 'end', '19.90');
    expect(outcomeOf(tight, around('20.30', '20.28').events, 'hold')).toBe('tight');
    expect(outcomeOf(tight, around('20.26', '20.24').events, 'hold')).toBe('fall');
    // Rounded up to the gauge's step, so that rounding never helps a pass: 0.245 counts as 0.25.
    expect(outcomeOf(tight, around('20.26', '20.25').events, 'hold')).toBe('fall');
  });

  test('a trace around the due time does the same', () => {
    const log = upToHold(tight).at(170).read('hold', 'start', '20.50');
    log.write({
      type: 'trace',
      phase: 'hold',
      round: 1,
      startAt: log.events.at(-1)?.observedAt ?? 0,
      stepMs: 1000,
      unit: 'mbar',
      scale: 2,
      values: Array.from({ length: 131 }, (_, second) => 2050 - Math.floor(second / 10)),
      source: 'simulated gauge',
    });
    log.at(500).read('hold', 'end', '20.00');
    const judged = judge(tight, log.events);
    expect(judged.phases.find(({ id }) => id === 'hold')).toMatchObject({ outcome: 'tight', fall: '0.12' });
    expect(codes(tight, log.events)).not.toContain('moved-meanwhile');
  });
});

test('a trace that left what start and end showed is noted, and decides nothing', () => {
  const log = upToHold(tight).at(170).read('hold', 'start', '20.50');
  const startAt = log.events.at(-1)?.observedAt ?? 0;
  log.write({
    type: 'trace',
    phase: 'hold',
    round: 1,
    startAt,
    stepMs: 1000,
    unit: 'mbar',
    scale: 2,
    values: [2050, 2045, 2061, 2050],
    source: 'keypad',
  });
  const judged = judge(tight, log.at(291).read('hold', 'end', '20.50').events);
  expect(judged.phases.find(({ id }) => id === 'hold')?.outcome).toBe('tight');
  expect(judged.reasons.find(({ code }) => code === 'moved-meanwhile')?.data).toMatchObject({ lowest: '20.45', highest: '20.61' });
});

describe('stopped early, disturbed, mistyped', () => {
  const running = () => upToHold(tight).at(170).read('hold', 'start', '20.50');
  const stop: Body = { type: 'hold-stopped', phase: 'hold', round: 1, reason: 'clear fall' };

  test('a fall already over the limit fails there and then; a forecast alone is inconclusive', () => {
    expect(outcomeOf(tight, running().at(200).read('hold', 'between', '20.20').write(stop).events, 'hold')).toBe('fall');
    const judged = judge(tight, running().at(200).read('hold', 'between', '20.30').write(stop).events);
    expect(judged.phases.find(({ id }) => id === 'hold')).toMatchObject({ outcome: 'stopped', spoilt: true });
  });

  test.each(['gas used', 'water drawn', 'valve moved', 'gauge touched'] as const)(
    '“%s” voids the hold whatever anyone writes beside it',
    (what) => {
      const log = running().at(200).write({ type: 'disturbance', phase: 'hold', round: 1, what, text: '' });
      log.write({ type: 'waived', disturbance: log.lastId, reason: 'surely nothing' }).at(291).read('hold', 'end', '20.50');
      expect(outcomeOf(tight, log.events, 'hold')).toBe('void');
      expect(codes(tight, log.events)).toContain('waiver-refused');
    },
  );

  test('another disturbance may be set aside with a written reason, not without', () => {
    const disturbed = (reason: string) => {
      const log = running().at(200).write({ type: 'disturbance', phase: 'hold', round: 1, what: 'vibration', text: 'lorry' });
      return log.write({ type: 'waived', disturbance: log.lastId, reason }).at(291).read('hold', 'end', '20.50');
    };
    expect(outcomeOf(tight, disturbed('passed in a second').events, 'hold')).toBe('tight');
    expect(outcomeOf(tight, disturbed('  ').events, 'hold')).toBe('void');
  });

  test('a disturbed hold is restarted from settling; the spoilt round stays in the log', () => {
    const log = running()
      .at(200)
      .write({ type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' })
      .at(210)
      .write({ type: 'restart', phase: 'settle', round: 2, reason: 'gas used' });
    log
      .at(220)
      .read('settle', 'start', '20.50', { round: 2 })
      .at(285)
      .read('hold', 'start', '20.60', { round: 2 })
      .at(406)
      .read('hold', 'end', '20.60', { round: 2 });
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')).toMatchObject({ round: 2, outcome: 'tight' });
    expect(log.events.some(({ type }) => type === 'disturbance')).toBe(true);
  });

  test('two devices restarting at once make one new round', () => {
    const log = running()
      .write({ type: 'restart', phase: 'settle', round: 2, reason: 'a' })
      .write({ type: 'restart', phase: 'settle', round: 2, reason: 'b' });
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'settle')?.round).toBe(2);
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'let-by')?.round).toBe(1);
  });

  test('a reading may be withdrawn while its phase is open, and not after', () => {
    const open = running();
    open
      .at(180)
      .write({ type: 'withdrawn', reading: open.lastId, reason: 'wrong digit' })
      .at(190)
      .read('hold', 'start', '20.80')
      .at(311)
      .read('hold', 'end', '20.80');
    expect(judge(tight, open.events).phases.find(({ id }) => id === 'hold')).toMatchObject({ start: '20.80', outcome: 'tight' });
    const over = upToHold(tight).held('20.50', '20.00');
    over.at(300).write({ type: 'withdrawn', reading: over.lastId, reason: 'I do not like it' });
    expect(outcomeOf(tight, over.events, 'hold')).toBe('fall');
    expect(codes(tight, over.events)).toContain('withdrawal-late');
  });

  test('a second ending is shown and changes nothing, whichever device wrote it', () => {
    const log = upToHold(tight).held('20.50', '20.50');
    log.write(
      {
        type: 'reading',
        phase: 'hold',
        round: 1,
        role: 'end',
        quantity: 'pressure',
        value: '19.00',
        unit: 'mbar',
        typed: '19',
        source: 'keypad',
      },
      { id: 'ffffffff-0000-4000-8000-000000000002', device: 'device-2', clock: [1_795_000_295_000, 0], observedAt: 1_795_000_295_000 },
    );
    expect(outcomeOf(tight, log.events, 'hold')).toBe('tight');
    expect(codes(tight, log.events)).toContain('second-end');
  });

  test('readings out of order, off the scale, finer than the gauge or in another unit do not count', () => {
    expect(codes(tight, running().at(150).read('hold', 'end', '20.50').events)).toContain('reading-order');
    for (const [value, unit] of [
      ['-20.00', 'mbar'],
      ['900.00', 'mbar'],
      ['20.505', 'mbar'],
      ['0.30', 'psi'],
    ] as const) {
      const log = running().at(291).read('hold', 'end', value, { unit });
      expect(outcomeOf(tight, log.events, 'hold')).toBeUndefined();
      expect(codes(tight, log.events)).toContain('reading-refused');
    }
  });

  test('a clock that jumped makes the hold void; a gap is only noted', () => {
    const jumped = running()
      .at(200)
      .write({ type: 'clock-jump', phase: 'hold', round: 1, milliseconds: 60_000 })
      .at(291)
      .read('hold', 'end', '20.50');
    expect(outcomeOf(tight, jumped.events, 'hold')).toBe('void');
    const back = running()
      .at(291)
      .write(
        {
          type: 'reading',
          phase: 'hold',
          round: 1,
          role: 'end',
          quantity: 'pressure',
          value: '20.50',
          unit: 'mbar',
          typed: '20.50',
          source: 'keypad',
        },
        { mono: 170_000 + 200_000 },
      );
    expect(outcomeOf(tight, back.events, 'hold')).toBe('void');
    const slept = running()
      .at(250)
      .write({ type: 'gap', phase: 'hold', round: 1, milliseconds: 50_000 })
      .at(291)
      .read('hold', 'end', '20.50');
    expect(outcomeOf(tight, slept.events, 'hold')).toBe('tight');
    expect(codes(tight, slept.events)).toContain('gap');
  });
});

describe('verdicts', () => {
  const finished = (plan: Plan, log: LogBuilder, closing: string) => judge(plan, log.at(2000).tick(closing).events).verdict;

  test('in progress until the closing steps are done, whatever the gauge said', () => {
    const log = upToHold(tight).held('20.50', '20.50');
    expect(judge(tight, log.events)).toMatchObject({ verdict: 'in progress', provisional: 'pass', current: 'restore' });
    expect(finished(tight, log, 'restore')).toBe('pass');
  });

  test('a fall is charged to the system only after the rig was soaped', () => {
    const log = upToHold(tight).held('20.50', '20.00');
    expect(judge(tight, log.events)).toMatchObject({ provisional: 'in progress', current: 'rig' });
    expect(said(tight, upToHold(tight).held('20.50', '20.00').observe('rig', 'bubbles'))).toBe('inconclusive');
    expect(finished(tight, log.observe('rig', 'dry'), 'make-safe')).toBe('fail');
  });

  test('permitted drop: only with the pipework alone tight', () => {
    const first = () =>
      upToHold(permitting).held('20.50', '18.00').at(300).tick('isolate').at(310).read('settle-pipework', 'start', '20.50');
    expect(judge(permitting, first().events).provisional).toBe('in progress');
    const tightPipework = first().at(371).read('hold-pipework', 'start', '20.50').at(492).read('hold-pipework', 'end', '20.40');
    expect(finished(permitting, tightPipework, 'restore')).toBe('pass with permitted drop');
    const leaking = first()
      .at(371)
      .read('hold-pipework', 'start', '20.50')
      .at(492)
      .read('hold-pipework', 'end', '20.25')
      .observe('rig-pipework', 'dry');
    expect(finished(permitting, leaking, 'make-safe')).toBe('fail');
  });

  test('any rise in the second hold reopens the let-by', () => {
    const rose = upToHold(permitting)
      .held('20.50', '18.00')
      .at(300)
      .tick('isolate')
      .at(310)
      .read('settle-pipework', 'start', '20.50')
      .at(371)
      .read('hold-pipework', 'start', '20.50')
      .at(492)
      .read('hold-pipework', 'end', '20.75');
    expect(judge(permitting, rose.events).next[0]).toMatchObject({ code: 'restart', phase: 'let-by' });
  });

  test('let-by: seat with bubbles fails and needs the report; without, repeated once, a second rise fails', () => {
    const rose = () => build(tight).proved('8.90');
    expect(judge(tight, rose().events).current).toBe('let-by-seat');
    const bubbles = rose().observe('let-by-seat', 'bubbles');
    expect(judge(tight, bubbles.events).current).toBe('let-by-report');
    expect(finished(tight, bubbles.tick('let-by-report'), 'make-safe')).toBe('fail');
    const again = (end: string) =>
      rose().observe('let-by-seat', 'dry').at(200).read('let-by-again', 'start', '8.50').at(261).read('let-by-again', 'end', end);
    expect(judge(tight, again('8.50').events).current).toBe('settle');
    expect(finished(tight, again('8.90').tick('let-by-report'), 'make-safe')).toBe('fail');
  });

  test('smell of gas and a leak seen override every gauge', () => {
    const good = () => upToHold(tight).held('20.50', '20.50');
    expect(judge(tight, good().write({ type: 'smell', text: '' }).events)).toMatchObject({
      provisional: 'fail',
      current: 'smell-response',
    });
    expect(finished(tight, good().write({ type: 'smell', text: '' }).tick('smell-response'), 'make-safe')).toBe('fail');
    expect(finished(tight, good().write({ type: 'leak-seen', phase: 'hold', round: 1, where: 'system', text: 'tee' }), 'make-safe')).toBe(
      'fail',
    );
  });

  test('bubbles on the rig spoil the hold, and are not the system’s fail', () => {
    const log = upToHold(tight)
      .at(170)
      .read('hold', 'start', '20.50')
      .at(200)
      .write({ type: 'leak-seen', phase: 'hold', round: 1, where: 'rig', text: '' });
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')).toMatchObject({ outcome: 'void', spoilt: true });
  });

  test('ended early: inconclusive', () =>
    expect(finished(tight, upToHold(tight).write({ type: 'stopped', reason: 'called away' }), 'make-safe')).toBe('inconclusive'));

  test('a gauge out of calibration on the day: invalid, also with a fall', () => {
    const gauge: Gauge = { ...demoGauge, calibration: { needed: true, last: '2024-01-01', due: '2025-01-01' } };
    const plan = planFor({ answers: { work: 'new' }, gauge });
    expect(finished(plan, upToHold(plan).held('20.50', '20.50'), 'make-safe')).toBe('invalid');
    expect(finished(plan, upToHold(plan).held('20.50', '19.00').observe('rig', 'dry'), 'make-safe')).toBe('invalid');
  });

  test('a coarse gauge proves no tightness, but a gross fall is a fail', () => {
    const plan = planFor({ answers: { work: 'new' }, gauge: { ...demoGauge, kind: 'needle', readability: '0.5' } });
    const log = (end: string) =>
      build(plan)
        .tick('prepare')
        .at(20)
        .read('zero', 'zero', '0.0')
        .at(30)
        .read('let-by', 'start', '8.5')
        .at(91)
        .read('let-by', 'end', '8.5')
        .at(100)
        .read('settle', 'start', '20.5')
        .held('20.5', end);
    expect(finished(plan, log('20.5'), 'make-safe')).toBe('inconclusive');
    expect(finished(plan, log('15.0').observe('rig', 'dry'), 'make-safe')).toBe('fail');
  });

  test('a gauge that shows pressure while disconnected holds everything up, and what was read anyway is invalid', () => {
    const log = build(tight).tick('prepare').at(20).read('zero', 'zero', '0.01');
    expect(judge(tight, log.events)).toMatchObject({ current: 'zero', provisional: 'in progress' });
    log.at(30).read('let-by', 'start', '8.50').at(91).read('let-by', 'end', '8.50').write({ type: 'stopped', reason: 'gauge' });
    expect(finished(tight, log, 'make-safe')).toBe('invalid');
  });

  test('an unproved boundary cannot give a pass', () => {
    const log = upToHold(tight)
      .at(12)
      .write({ type: 'check', phase: 'prepare', item: 'open-ends', state: 'unproved' }, { clock: [1_795_000_005_000, 0] })
      .held('20.50', '20.50');
    expect(finished(tight, log, 'make-safe')).toBe('inconclusive');
    expect(codes(tight, log.events)).toContain('boundary-unproved');
  });

  test('“does not apply” needs a reason, and only where it may', () => {
    const answered = (item: string, text?: string) =>
      judge(
        tight,
        build(tight).write({ type: 'check', phase: 'prepare', item, state: 'not-applicable', ...(text === undefined ? {} : { text }) })
          .events,
      ).phases[0].items?.length;
    expect(answered('appliances-off', 'none fitted')).toBe(1);
    expect(answered('appliances-off')).toBe(0);
    expect(answered('voltage', 'no meter')).toBe(0);
  });

  test('temperatures are shown and the raw movement decides in so short a hold', () => {
    const log = upToHold(tight);
    const degrees = (role: 'start' | 'end', value: string) =>
      log.write({
        type: 'reading',
        phase: 'hold',
        round: 1,
        role,
        quantity: 'temperature',
        value,
        unit: 'C',
        typed: value,
        source: 'keypad',
      });
    log.at(170).read('hold', 'start', '20.50');
    degrees('start', '15.0');
    log.at(290);
    degrees('end', '15.1');
    log.at(291).read('hold', 'end', '20.50');
    expect(outcomeOf(tight, log.events, 'hold')).toBe('tight');
    expect(judge(tight, log.events).reasons.find(({ code }) => code === 'temperature')?.data.effect).toBe('0.36');
  });

  test('house rules are named beside the procedure’s figure', () => {
    const plan = planFor({
      houseRules: [{ procedure: 'domestic-gas-millibar', figure: 'settle-seconds', value: '90', reference: 'Practice 3' }],
    });
    expect(judge(plan, build(plan).proved().events).reasons.find(({ code }) => code === 'house-rule')?.sentence).toContain(
      'house rule 90 s (procedure 60; Practice 3)',
    );
  });
});

describe('properties', () => {
  const scenarioLogs = ['sound', 'small-leak', 'let-by', 'masked-leak', 'gross-leak', 'warming', 'unzeroed', 'sticky'].map((fault) => ({
    fault,
    events: eventsFor(permitting, fault),
  }));

  test.each([
    ['sound', 'pass'],
    ['small-leak', 'pass with permitted drop'],
    ['pipework-leak', 'fail'],
    ['gross-leak', 'fail'],
    ['let-by', 'fail'],
    ['masked-leak', 'fail'],
    ['warming', 'inconclusive'],
    ['unzeroed', 'invalid'],
    ['sticky', 'invalid'],
  ])('simulated plant “%s” comes to %s, at ten seeds', (fault, expected) => {
    for (let seed = 1; seed <= 10; seed += 1) expect(judge(permitting, eventsFor(permitting, fault, seed)).verdict).toBe(expected);
  });

  test('the order and repetition in which events are handed in change nothing', () => {
    fc.assert(
      fc.property(fc.constantFrom(...scenarioLogs), fc.infiniteStream(fc.nat()), ({ events }, keys) => {
        const shuffled = events
          .map((event) => ({ event, key: keys.next().value ?? 0 }))
          .sort((a, b) => a.key - b.key)
          .map(({ event }) => event);
        return canonical(judge(permitting, [...shuffled, ...shuffled.slice(0, 3)])) === canonical(judge(permitting, events));
      }),
      { numRuns: 60 },
    );
  });

  test('no part of a sound log is a pass, only the whole: every prefix is in progress', () => {
    const events = eventsFor(permitting, 'sound');
    for (let count = 0; count < events.length; count += 1) expect(judge(permitting, events.slice(0, count)).verdict).toBe('in progress');
    expect(judge(permitting, events).verdict).toBe('pass');
  });

  test('leaving out any one reading or check of a sound log never gives a pass', () => {
    const events = eventsFor(permitting, 'sound');
    for (const [index, event] of events.entries())
      if (event.type === 'reading' || event.type === 'check')
        expect(
          judge(
            permitting,
            events.filter((_, place) => place !== index),
          ).verdict,
        ).not.toMatch(/^pass/);
  });

  test('nothing that a log can hold makes the judge throw, and what it answers is canonical', () => {
    const phase = fc.constantFrom(...permitting.phases.map(({ id }) => id), 'nowhere');
    const body = fc.oneof(
      fc.record({
        type: fc.constant('reading'),
        phase,
        round: fc.integer({ min: 1, max: 3 }),
        role: fc.constantFrom('zero', 'start', 'between', 'end'),
        quantity: fc.constantFrom('pressure', 'temperature'),
        value: fc.constantFrom('0.00', '8.50', '20.50', '-3', '1e9', ''),
        unit: fc.constantFrom('mbar', 'C', 'psi'),
        typed: fc.string(),
        source: fc.constant('keypad'),
      }),
      fc.record({ type: fc.constant('observation'), phase, round: fc.constant(1), option: fc.constantFrom('dry', 'bubbles', 'x') }),
      fc.record({ type: fc.constant('check'), phase, item: fc.string(), state: fc.constantFrom('done', 'undone') }),
      fc.record({ type: fc.constantFrom('smell', 'pen', 'note', 'stopped'), text: fc.string(), reason: fc.string() }),
      fc.record({ type: fc.constant('restart'), phase, round: fc.integer({ min: 0, max: 4 }), reason: fc.string() }),
      fc.record({ type: fc.constant('withdrawn'), reading: fc.string(), reason: fc.string() }),
    );
    fc.assert(
      fc.property(fc.array(fc.record({ body, at: fc.integer({ min: 0, max: 900_000 }) }), { maxLength: 25 }), (steps) => {
        const log = build(permitting);
        for (const step of steps) log.at(step.at / 1000).write(step.body as unknown as Body);
        const judged = judge(permitting, log.events);
        return canonical(judged).length > 0 && !/^pass/.test(judged.verdict);
      }),
      { numRuns: 300 },
    );
  });

  test('every reason says something, whatever its data', () => {
    for (const reason of Object.values(reasons))
      expect((reason.say as (data: Record<string, string>) => string)({ text: '' }).length).toBeGreaterThan(20);
  });
});

test('civil dates without the engine’s calendar agree with it', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -60_000_000_000_000, max: 250_000_000_000_000 }),
      (ms) => dateText(ms) === new Date(ms).toISOString().replace(/^\+00/, '').slice(0, 10) || ms < -62_135_596_800_000,
    ),
  );
});
