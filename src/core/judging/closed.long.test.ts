import fc from 'fast-check';
import { answersTo } from '../course/phases';
import type { Plan } from '../planning/plan';
import { present } from '../running';
import { exampleEvents, examplePlan, planFor } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import { build, codes, outcomeOf, tight, upToHold } from './cases.fixture';
import type { Body, RunEvent } from './events';
import { isPass, judge } from './judge';
import { LogBuilder } from './log-builder.fixture';

/* Closed is closed (DOMAIN 4.19, 4.24): what was proved is not unsaid by what is written afterwards. */

const failed = () => upToHold(tight).held('20.50', '19.00').at(300).observe('rig', 'dry');
const finished = (log: LogBuilder) => judge(tight, log.at(4000).tick('make-safe').tick('restore').events);
const reading = (role: 'start' | 'end', value: string, round = 1): Body => ({
  type: 'reading',
  phase: 'hold',
  round,
  role,
  quantity: 'pressure',
  value,
  unit: 'mbar',
  typed: value,
  source: 'keypad',
});

describe('after a finished fail, whatever is appended', () => {
  const tails: readonly (readonly [string, (log: LogBuilder) => LogBuilder])[] = [
    ['a restart with a still hold', (log) => log.write({ type: 'restart', phase: 'let-by', round: 2, reason: 'again' }).again('20.50')],
    [
      'a restart from its settling',
      (log) =>
        log
          .write({ type: 'restart', phase: 'settle', round: 2, reason: 'again' })
          .at(320)
          .read('settle', 'start', '20.50', { round: 2 })
          .at(400)
          .read('hold', 'start', '20.50', { round: 2 })
          .at(521)
          .read('hold', 'end', '20.50', { round: 2 }),
    ],
    ['a second end', (log) => log.at(310).read('hold', 'end', '20.50')],
    ['a start stamped earlier', (log) => log.at(310).write(reading('start', '20.50'), { observedAt: 1_795_000_165_000 })],
    ['an end with an older clock', (log) => log.at(310).write(reading('end', '20.50'), { observedAt: 1_795_000_290_500 })],
    [
      'a withdrawal of its end',
      (log) =>
        log.at(310).write({
          type: 'withdrawn',
          reading: log.events.find((one) => one.type === 'reading' && one.phase === 'hold' && one.role === 'end')?.id ?? '',
          reason: 'I do not like it',
        }),
    ],
    ['temperatures typed the day after', (log) => log.at(86_400).degrees('hold', 'start', '25.0').degrees('hold', 'end', '10.0')],
    ['bubbles on the rig, said after it was soaped dry', (log) => log.at(310).observe('rig', 'bubbles')],
    [
      'a disturbance noticed afterwards',
      (log) =>
        log.at(310).write({ type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' }, { observedAt: 1_795_000_200_000 }),
    ],
    [
      'a leak on the rig, written afterwards',
      (log) => log.at(310).write({ type: 'leak-seen', phase: 'hold', round: 1, where: 'rig', text: '' }),
    ],
  ];
  test.each(tails)('%s: it stays a fail', (_, tail) => {
    expect(finished(failed()).verdict).toBe('fail');
    expect(finished(tail(failed())).verdict).toBe('fail');
  });

  test('ended, packed up or left: the fail stays, and the open steps are named beside it (4.24)', () => {
    const ended = judge(tight, failed().at(320).write({ type: 'stopped', reason: 'Packed up' }).events);
    expect(ended).toMatchObject({ verdict: 'in progress', provisional: 'fail', current: 'make-safe' });
    expect(finished(failed().at(320).write({ type: 'stopped', reason: 'Packed up' })).verdict).toBe('fail');
  });
});

describe('other ways to a pass that were open', () => {
  test('an end appended to a hold that was stopped', () => {
    const log = upToHold(tight)
      .at(170)
      .read('hold', 'start', '20.50')
      .at(200)
      .write({ type: 'hold-stopped', phase: 'hold', round: 1, reason: 'called away' })
      .at(291)
      .read('hold', 'end', '20.50');
    expect(outcomeOf(tight, log.events, 'hold')).toBe('stopped');
  });

  test('a start and an end after “it does not come up”', () => {
    const log = upToHold(tight).at(170).write({ type: 'not-reached', phase: 'hold', round: 1, text: '' }).held('20.50', '20.50');
    expect(outcomeOf(tight, log.events, 'hold')).toBe('not-reached');
    expect(finished(log).verdict).toBe('fail');
  });

  test('a let-by repeated although its seat bubbled', () => {
    const log = build(tight)
      .proved('9.00')
      .at(95)
      .observe('let-by-seat', 'bubbles')
      .at(100)
      .observe('let-by-seat', 'dry')
      .write({ type: 'restart', phase: 'let-by', round: 2, reason: 'again' })
      .at(110)
      .read('let-by-again', 'start', '8.50')
      .at(171)
      .read('let-by-again', 'end', '8.50')
      .at(180)
      .read('settle', 'start', '20.50');
    expect(judge(tight, log.events)).toMatchObject({ provisional: 'in progress', current: 'seat-remade' });
    expect(judge(tight, log.at(400).tick('seat-remade').tick('let-by-report').tick('make-safe').events).verdict).toBe('fail');
  });

  test('a hold begun again while it runs, without a reason that voids it', () => {
    const log = upToHold(tight).at(170).read('hold', 'start', '20.50').write({ type: 'restart', phase: 'settle', round: 2, reason: 'x' });
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')).toMatchObject({ round: 1, is: 'running' });
    expect(codes(tight, log.events)).toContain('restart-refused');
  });

  test('a fall, another late fall, then a still hold: two that agree are a fail, and every round is told (4.22)', () => {
    const late = (log: LogBuilder, round: number, from: number) =>
      log
        .at(from)
        .read('settle', 'start', '20.50', { round })
        .at(from + 70)
        .read('hold', 'start', '20.50', { round })
        .at(from + 70 + 400)
        .read('hold', 'end', '19.00', { round });
    const one = late(build(tight).proved(), 1, 100);
    expect(outcomeOf(tight, one.events, 'hold')).toBe('late');
    one.at(600).write({ type: 'restart', phase: 'settle', round: 2, reason: 'late' });
    const two = late(one, 2, 610);
    expect(outcomeOf(tight, two.events, 'hold')).toBe('fall');
    expect(codes(tight, two.events)).toEqual(expect.arrayContaining(['falls-agree', 'round']));
    // Not where gas was drawn: that fall is nobody's leak.
    const drawn = late(build(tight).proved(), 1, 100);
    const used = { type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' } as const;
    const events = [...drawn.events.slice(0, -1)];
    const again = new LogBuilder(tight);
    again.events.push(...events);
    again.at(300).write(used).at(570).read('hold', 'end', '19.00').write({ type: 'restart', phase: 'settle', round: 2, reason: 'used' });
    expect(outcomeOf(tight, late(again, 2, 610).events, 'hold')).toBe('late');
  });

  test('only the device with the pen starts, ends, answers and restarts; handing it over is an event', () => {
    const other = { device: 'device-2' } as const;
    const log = upToHold(tight).at(170).write(reading('start', '20.50'), other);
    expect(outcomeOf(tight, log.at(291).write(reading('end', '20.50'), other).events, 'hold')).toBeUndefined();
    expect(codes(tight, log.events)).toContain('pen-elsewhere');
    const taken = upToHold(tight)
      .at(165)
      .write({ type: 'pen' }, other)
      .at(170)
      .write(reading('start', '20.50'), other)
      .at(291)
      .write(reading('end', '20.50'), other);
    expect(outcomeOf(tight, taken.events, 'hold')).toBe('tight');
  });
});

describe('what speaks against a pass counts whenever it joins', () => {
  const passed = () => upToHold(tight).held('20.50', '20.50');
  test('a leak that the search finds after a tight hold (4.12)', () => {
    const log = passed().at(320).write({ type: 'searched', section: 'branch-1', method: 'bubbles', leak: true, text: 'elbow' });
    expect(finished(log).verdict).toBe('fail');
    expect(codes(tight, log.events)).toContain('leak-found');
  });
  test('gas used in a hold, remembered while the closing list is open (4.9)', () => {
    const log = passed()
      .at(320)
      .write({ type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' }, { observedAt: 1_795_000_200_000 });
    expect(judge(tight, log.events)).toMatchObject({ current: 'hold', provisional: 'in progress' });
    expect(finished(log).verdict).not.toBe('pass');
  });
  test('an outlet said to be open after the list was done (4.13)', () => {
    const log = passed().at(320).write({ type: 'check', phase: 'prepare', round: 1, item: 'open-ends', state: 'unproved' });
    expect(finished(log).verdict).toBe('inconclusive');
  });
  test('a zero read later is a check: it mends nothing, and what it shows counts against what was read (4.7)', () => {
    const off = passed().at(320).read('zero', 'zero', '0.60');
    expect(finished(off).verdict).toBe('invalid');
    const unzeroed = build(tight)
      .tick('prepare')
      .at(20)
      .read('zero', 'zero', '0.60')
      .at(30)
      .read('let-by', 'start', '8.50')
      .at(400)
      .read('zero', 'zero', '0.60');
    expect(codes(tight, unzeroed.events)).toContain('not-zeroed');
  });
  test('a leak met while raising is remade, and no fail; in the hold it is one (4.27)', () => {
    const seen = { type: 'leak-seen', phase: 'hold', round: 1, where: 'system', text: 'union' } as const;
    const met = upToHold(tight).at(165).write(seen).held('20.50', '20.50');
    expect(finished(met).verdict).toBe('pass');
    expect(codes(tight, met.events)).toContain('remade-while-raising');
    expect(
      finished(upToHold(tight).at(170).read('hold', 'start', '20.50').at(200).write(seen).at(291).read('hold', 'end', '20.50')).verdict,
    ).toBe('fail');
  });
  test('calibration that ran out between two visits: the date of every reading counts (4.7)', () => {
    const plan = planFor({
      answers: { work: 'new' },
      gauge: { ...tight.gauge, calibration: { needed: true, last: '2026-01-01', due: '2026-11-19' } },
    });
    // The log begins on 18 November 2026, before midnight in the zone in which it is written.
    const day = (seconds: number) => judge(plan, new LogBuilder(plan).proved().settled().held('20.50', '20.50', seconds).events);
    expect(day(291).reasons.map(({ code }) => code)).not.toContain('gauge-overdue');
    expect(day(3 * 86_400).reasons.map(({ code }) => code)).toContain('gauge-overdue');
  });
});

/** Appends a random tail: half of it does what is asked for next, hopefully; the rest is anything that a log can hold. */
function withTail(plan: Plan, events: readonly RunEvent[], steps: readonly (readonly [number, number])[]): readonly RunEvent[] {
  const log = new LogBuilder(plan, 'device-1');
  log.events.push(...events);
  const last = events.at(-1)?.observedAt ?? 1_795_000_000_000;
  let at = last + 60_000;
  const pick = <T>(list: readonly T[], by: number): T => list[by % list.length];
  const write = (body: Body, observedAt = at) =>
    log.write(body, {
      id: `00000000-0000-4000-9000-${String(log.events.length).padStart(12, '0')}`,
      device: events[0]?.device ?? 'device-1',
      boot: events[0]?.boot ?? 'boot',
      seq: log.events.length + 1,
      observedAt,
      enteredAt: at,
      mono: observedAt - (events[0]?.observedAt ?? 0),
      position: log.events.length + 1,
    });
  for (const [kind, by] of steps) {
    at += 1000 * (1 + (by % 200));
    const judgement = judge(plan, log.events);
    const now = present(plan, judgement, log.events, at);
    if (kind % 2 === 0 && now.do !== 'nothing') {
      const { phase, round } = now;
      switch (now.do) {
        case 'tick':
          for (const item of now.items)
            write({
              type: 'check',
              phase: phase.id,
              round,
              item: item.id,
              state: answersTo(item)[0],
              text: 'REF',
            });
          break;
        case 'choose':
          write({ type: 'observation', phase: phase.id, round, option: now.phase.options.find(({ hoped }) => hoped)?.id ?? '' });
          break;
        case 'settle':
        case 'hold':
          at = Math.max(at, now.until + 1500);
          break;
        case 'condition':
          for (const what of now.owes) write({ type: 'declined', phase: phase.id, round, what });
          break;
        case 'repeat':
          if (now.from !== undefined)
            write({
              type: 'restart',
              phase: now.from.id,
              round: (judgement.phases.find(({ id }) => id === now.from?.id)?.round ?? 1) + 1,
              reason: 'again',
            });
          break;
        case 'read': {
          const earlier = log.events.findLast((event) => event.type === 'reading' && event.phase === phase.id && event.role === 'start');
          const value =
            now.ask.role === 'end' && earlier?.type === 'reading' ? earlier.value : phase.kind === 'hold' ? phase.band.low : '0';
          write({
            type: 'reading',
            phase: phase.id,
            round,
            role: now.ask.role,
            quantity: now.ask.quantity,
            value,
            unit: now.ask.instrument.unit,
            typed: value,
            source: 'keypad',
            ...(now.ask.point === undefined ? {} : { point: now.ask.point.id }),
          });
        }
      }
      continue;
    }
    const phase = pick(plan.phases, by);
    const round = 1 + (by % 3);
    const earlier = last - 1000 * (by % 5000);
    const readings = log.events.filter((event) => event.type === 'reading');
    const bodies: readonly Body[] = [
      { type: 'restart', phase: phase.id, round: (judgement.phases.find(({ id }) => id === phase.id)?.round ?? 1) + 1, reason: 'x' },
      { type: 'withdrawn', reading: pick(readings, by)?.id ?? '', reason: 'x' },
      { type: 'observation', phase: phase.id, round, option: phase.kind === 'observe' ? pick(phase.options, by).id : 'dry' },
      { type: 'disturbance', phase: phase.id, round, what: 'other', text: '' },
      { type: 'leak-seen', phase: phase.id, round, where: 'rig', text: '' },
      { type: 'stopped', reason: 'x' },
      { type: 'pen' },
      { type: 'declined', phase: phase.id, round, what: 'temperature' },
      { type: 'inspected', sound: true, text: '' },
      { type: 'clock-jump', phase: phase.id, round, milliseconds: 5000 },
      ...(['start', 'end', 'zero', 'between'] as const).map((role): Body => {
        const value = phase.kind === 'hold' ? phase.band.low : '0';
        return {
          type: 'reading',
          phase: phase.id,
          round,
          role,
          quantity: 'pressure',
          value,
          unit: plan.gauge.unit,
          typed: value,
          source: 'keypad',
        };
      }),
      {
        type: 'reading',
        phase: phase.id,
        round,
        role: 'end',
        quantity: 'temperature',
        value: String(by % 30),
        unit: 'C',
        typed: '',
        source: 'keypad',
      },
    ];
    write(pick(bodies, kind), by % 3 === 0 ? earlier : at);
  }
  return log.events;
}

/** How many fails the property walks; the long run sets more. */
const runs = Number(process.env.VAST_PROPERTY_RUNS ?? 400);

test('no events appended to a proved fail make it anything but a fail (4.19)', () => {
  const plans = [
    examplePlan('domestic-gas-millibar'),
    examplePlan('gas-piping-psi'),
    examplePlan('water-isolation-hold'),
    examplePlan('duct-tightness'),
    examplePlan('propane-vehicle'),
  ];
  const fails = plans.flatMap((plan) =>
    scenariosFor(plan).flatMap(({ id }) =>
      [1, 2, 3].flatMap((seed) => {
        const events = exampleEvents(plan, id, seed);
        return judge(plan, events).verdict === 'fail' ? [{ plan, events }] : [];
      }),
    ),
  );
  expect(fails.length).toBeGreaterThan(20);
  let appended = 0;
  fc.assert(
    fc.property(
      fc.constantFrom(...fails),
      fc.array(fc.tuple(fc.nat({ max: 59 }), fc.nat({ max: 9999 })), { minLength: 1, maxLength: 30 }),
      ({ plan, events }, steps) => {
        const whole = withTail(plan, events, steps);
        appended += whole.length - events.length;
        const { verdict, provisional } = judge(plan, whole);
        return provisional === 'fail' && !isPass(verdict);
      },
    ),
    { numRuns: runs },
  );
  expect(appended).toBeGreaterThan(runs);
});
