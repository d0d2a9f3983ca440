import { demoGauge, planFor } from '../simulation/examples.fixture';
import { build, codes, heldOf, oneDecimal, outcomeOf, permitting, tight, upToHold } from './cases.fixture';
import type { Body } from './events';
import { judge } from './judge';

describe('the threshold', () => {
  test('below passes, at it is perceptible: 0.24 and 0.25 on two decimals', () => {
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.26').events, 'hold')).toBe('tight');
    expect(outcomeOf(tight, upToHold(tight).held('20.50', '20.25').events, 'hold')).toBe('fall');
  });

  test('one decimal: 0.1 passes, 0.2 does not, at every start where binary would err', () => {
    for (let tenths = 200; tenths <= 210; tenths += 1) {
      const text = (value: number) => (value / 10).toFixed(1);
      const log = (fall: number) =>
        build(oneDecimal)
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
      expect(outcomeOf(oneDecimal, log(1).events, 'hold')).toBe('tight');
      expect(outcomeOf(oneDecimal, log(2).events, 'hold')).toBe('fall');
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
    expect(heldOf(tight, log.events, 'hold') !== undefined).toBe(accepted);
    if (!accepted) expect(codes(tight, log.events)).toContain('start-out-of-band');
  });

  test('10.01 is in the let-by band, 10.05 is not', () => {
    const start = (value: string) =>
      heldOf(
        tight,
        build(tight).tick('prepare').at(20).read('zero', 'zero', '0.00').at(30).read('let-by', 'start', value).events,
        'let-by',
      );
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
    expect(outcomeOf(tight, late.events, 'hold')).toBe('late');
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
    expect(judged.phases.find(({ id }) => id === 'hold')).toMatchObject({ outcome: 'tight' });
    expect(heldOf(tight, log.events, 'hold')?.fall).toBe('0.12');
    // The figures were typed: what a simulated gauge only drew is said all the same.
    expect(judged.reasons.map(({ code }) => code)).toContain('simulated');
  });
});

describe('stopped early, disturbed, mistyped', () => {
  const running = () => upToHold(tight).at(170).read('hold', 'start', '20.50');
  const stop: Body = { type: 'hold-stopped', phase: 'hold', round: 1, reason: 'clear fall' };

  test('a fall already over the limit fails there and then; a forecast alone is inconclusive', () => {
    expect(outcomeOf(tight, running().at(200).read('hold', 'between', '20.20').write(stop).events, 'hold')).toBe('fall');
    const judged = judge(tight, running().at(200).read('hold', 'between', '20.30').write(stop).events);
    expect(judged.phases.find(({ id }) => id === 'hold')).toMatchObject({ is: 'spoilt', outcome: 'stopped' });
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
      .write({ type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' })
      .write({ type: 'restart', phase: 'settle', round: 2, reason: 'a' })
      .write({ type: 'restart', phase: 'settle', round: 2, reason: 'b' });
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'settle')?.round).toBe(2);
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'let-by')?.round).toBe(1);
  });

  test('a restart that does not name the next round changes nothing', () => {
    for (const round of [0, 1, 3, 9])
      expect(
        judge(tight, running().write({ type: 'restart', phase: 'settle', round, reason: 'x' }).events).phases.find(
          ({ id }) => id === 'settle',
        )?.round,
      ).toBe(1);
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
    expect(heldOf(tight, open.events, 'hold')?.start).toBe('20.80');
    expect(outcomeOf(tight, open.events, 'hold')).toBe('tight');
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
      { id: 'ffffffff-0000-4000-8000-000000000002', observedAt: 1_795_000_295_000 },
    );
    expect(outcomeOf(tight, log.events, 'hold')).toBe('tight');
    expect(codes(tight, log.events)).toContain('second-end');
  });

  test('a second start is shown; the clock of the first runs on', () => {
    const log = running().at(180).read('hold', 'start', '20.60');
    expect(heldOf(tight, log.events, 'hold')?.start).toBe('20.50');
    expect(codes(tight, log.events)).toContain('second-start');
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

  test('a trace in another unit does not count, and says so once', () => {
    const log = running();
    const startAt = log.events.at(-1)?.observedAt ?? 0;
    for (const from of [0, 60])
      log.write({
        type: 'trace',
        phase: 'hold',
        round: 1,
        startAt: startAt + from * 1000,
        stepMs: 1000,
        unit: 'psi',
        scale: 2,
        values: Array(60).fill(10),
        source: 'logging gauge',
      });
    log.at(291).read('hold', 'end', '20.50');
    expect(codes(tight, log.events).filter((code) => code === 'trace-refused')).toHaveLength(1);
    expect(outcomeOf(tight, log.events, 'hold')).toBe('tight');
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
    expect(codes(tight, back.events)).toContain('clock-unproved');
    const slept = running()
      .at(250)
      .write({ type: 'gap', phase: 'hold', round: 1, milliseconds: 50_000 })
      .at(291)
      .read('hold', 'end', '20.50');
    expect(outcomeOf(tight, slept.events, 'hold')).toBe('tight');
    expect(codes(tight, slept.events)).toContain('gap');
  });
});
