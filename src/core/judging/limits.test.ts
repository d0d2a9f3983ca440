import type { MeasureCriterion } from '../course/phases';
import type { Correction } from '../limits';
import type { Plan } from '../planning/plan';
import { measurePhase } from '../procedures/phase-shapes';
import { LogBuilder } from './log-builder.fixture';
import { base, hold, instrument, judged, outcome, planOf } from './one-phase.fixture';

/* Each kind of criterion by itself, and the side on which its limit falls. The plans hold one phase, nothing else. */

test.each([
  ['14.30', 'within'],
  ['14.31', 'over'],
])('at most 14.3: an end of %s is %s', (end, expected) => {
  expect(outcome(planOf([hold({ kind: 'at-most', limit: '14.3' })]), '12.00', end)?.outcome).toBe(expected);
});

test('at most: what stood above the limit between start and end counts too', () => {
  const plan = planOf([hold({ kind: 'at-most', limit: '14.3' })]);
  expect(outcome(plan, '12.00', '12.00', (log) => log.at(300).read('hold', 'between', '14.40'))?.outcome).toBe('over');
});

test('what a trace saw between the readings counts for at-most and for keep: its median over ten seconds', () => {
  const tenfold = (value: number) => Array.from({ length: 12 }, () => value);
  const traced = (values: readonly number[]) => (log: LogBuilder) =>
    log.at(10).write({
      type: 'trace',
      phase: 'hold',
      round: 1,
      startAt: log.events[0].observedAt,
      stepMs: 1000,
      unit: 'mbar',
      scale: 2,
      values,
      source: 'keypad',
    });
  const atMost = planOf([hold({ kind: 'at-most', limit: '14.3' })]);
  expect(outcome(atMost, '12.00', '12.00', traced([1200, 1431, 1200].flatMap(tenfold)))?.outcome).toBe('over');
  expect(outcome(atMost, '12.00', '12.00', traced([1200, 1430, 1200].flatMap(tenfold)))?.outcome).toBe('within');
  const keeping = planOf([hold({ kind: 'keep', within: '5' })]);
  expect(outcome(keeping, '12.00', '12.00', traced([1200, 699, 1200].flatMap(tenfold)))?.outcome).toBe('fell');
});

describe('a standing level, read on a rule to 1 mm', () => {
  const plan = planOf([hold({ kind: 'no-fall', threshold: '1' }, { instrument: 'rule', unit: 'mm' })], {
    instruments: { rule: instrument('mm', '1') },
  });
  const level = (end: string) => {
    const log = new LogBuilder(plan).at(0).figure('hold', 'start', 'level', '250', 'mm').at(601).figure('hold', 'end', 'level', end, 'mm');
    return judged(plan, log.events).phases[0].outcome;
  };
  test.each([
    ['250', 'tight'],
    ['249', 'fall'],
    ['251', 'rise'],
  ])('250 to %s mm: %s', (end, expected) => expect(level(end)).toBe(expected));
  test('a pressure is no level', () => expect(outcome(plan, '20.00', '20.00')?.outcome).toBeUndefined());
});

describe('a dial of ½ ft³, a fiftieth of a turn to be seen', () => {
  const plan = planOf([hold({ kind: 'dial', threshold: '0.02', litresPerTurn: '14.158' }, { instrument: 'dial', unit: 'turn' })], {
    instruments: { dial: instrument('turn', '0.01', '10') },
  });
  test.each([
    ['0.01', 'still'],
    ['0.02', 'moved'],
  ])('%s turn: %s', (turned, expected) => {
    const log = new LogBuilder(plan)
      .at(0)
      .figure('hold', 'start', 'turns', '0.00', 'turn')
      .at(600)
      .figure('hold', 'end', 'turns', turned, 'turn');
    const judgement = judged(plan, log.events);
    expect(judgement.phases[0].outcome).toBe(expected);
    if (expected === 'moved') expect(judgement.reasons.map(({ sentence }) => sentence).join()).toContain('1.70 L/h');
  });
});

describe('leak rate in bands: under 1, 1 to under 5, from 5 L/h', () => {
  // 36 L in 601 s: 4.69 mbar is 0.9981 L/h and 4.70 is 1.0003; over a tenth of the start the worst law holds, 60 × ln(60/p).
  const plan = (factor: string) =>
    planOf([
      hold(
        {
          kind: 'leak-rate',
          litres: '36',
          factor,
          bands: [
            { below: '1', outcome: 'unrestricted' },
            { below: '5', outcome: 'reduced' },
          ],
          beyond: 'shut-down',
        },
        { seconds: 600 },
      ),
    ]);
  const rate = (fall: number) => (36 * fall * 3600) / (1013.25 * 601);
  test.each([
    [0, 'unrestricted'],
    [4.68, 'unrestricted'],
    [4.69, 'reduced'],
    [19.42, 'reduced'],
    [19.43, 'shut-down'],
  ])('a fall of %d mbar', (fall, expected) => {
    expect(outcome(plan('1'), '60.00', (60 - fall).toFixed(2))?.outcome).toBe(expected);
    // The worst that the step leaves possible decides.
    expect(rate(fall + 0.01) < 1).toBe(expected === 'unrestricted');
  });
  test('a factor for the gas counts: the same fall is a band worse', () => {
    expect(outcome(plan('1.65'), '60.00', '56.00')?.outcome).toBe('reduced');
    expect(outcome(plan('1'), '60.00', '56.00')?.outcome).toBe('unrestricted');
  });
  test('a rise of a step proves nothing', () =>
    expect(outcome(plan('1'), '60.00', '60.01')).toMatchObject({ outcome: 'rise', spoilt: true }));
});

test('never above the ceiling, though the band’s rounding would let it in', () => {
  const plan = planOf([hold({ kind: 'no-fall', threshold: '0.1' }, { band: { low: '20.0', high: '20.5' }, ceiling: '20.5' })]);
  expect(outcome(plan, '20.50', '20.50')?.outcome).toBe('tight');
  expect(outcome(plan, '20.51', '20.51')?.start).toBeUndefined();
  const log = new LogBuilder(plan).at(0).read('hold', 'start', '20.51');
  expect(judged(plan, log.events).reasons.map(({ code }) => code)).toContain('over-ceiling');
});

test('a pressure that cannot be reached ends the phase, and only before it was started', () => {
  const phase = hold({ kind: 'no-fall', threshold: '0.1' });
  const plan = planOf([phase], {}, [
    { when: [[{ phase: 'hold', outcome: ['not-reached'] }]], verdict: 'fail', reason: 'pressure-not-reached' },
  ]);
  const not = (log: LogBuilder) => log.write({ type: 'not-reached', phase: 'hold', round: 1, text: 'Falls as fast as it is fed.' });
  expect(judged(plan, not(new LogBuilder(plan).at(0)).events).verdict).toBe('fail');
  const started = not(new LogBuilder(plan).at(0).read('hold', 'start', '20.00').at(10));
  expect(judged(plan, started.events).phases[0].outcome).toBeUndefined();
});

describe('temperature and barometer on a long hold (DOMAIN 4.6)', () => {
  // At 200 mbar a kelvin moves the gauge by (200 + 1013.25) / 293.15 = 4.14 mbar.
  const corrects = { atmosphereHpa: '1013.25', needed: 'nothing' as Correction['needed'] };
  const plan = (change: Partial<typeof corrects> = {}, threshold = '1') =>
    planOf([hold({ kind: 'no-fall', threshold }, { corrects: { ...corrects, ...change } })], {
      gauge: { ...base.gauge, rangeHigh: '1000' },
    });
  const with_ = (start: string, end: string, from: string, to: string, one = plan()) =>
    outcome(one, start, end, (log) => log.degrees('hold', 'start', from).at(600).degrees('hold', 'end', to));

  test.each([
    ['nothing moved', '200.00', '200.00', '20.0', '20.0', 'tight'],
    ['a fall that cooling explains', '200.00', '195.86', '20.0', '19.0', 'tight'],
    // The doubt of a degree's difference is 0.2 K, 0.83 mbar.
    ['a fall that cooling explains but for the threshold and its doubt', '200.00', '194.00', '20.0', '19.0', 'fall'],
    ['a fall that cooling may explain', '200.00', '194.85', '20.0', '19.0', 'unsure'],
    ['a rise that warming explains', '200.00', '204.14', '20.0', '21.0', 'tight'],
    ['a still gauge on a warming pipe: a hidden leak', '200.00', '200.00', '20.0', '21.0', 'fall'],
    ['a rise that warming does not explain', '200.00', '206.50', '20.0', '21.0', 'rise'],
    ['a fall with a steady pipe', '200.00', '198.90', '20.0', '20.0', 'fall'],
  ])('%s', (_, start, end, from, to, expected) => expect(with_(start, end, from, to)?.outcome).toBe(expected));

  test('an end that came late proves no fall, corrected or not, and still proves a pass', () => {
    const late = (end: string, to: string) => {
      const one = plan();
      const log = new LogBuilder(one).at(0).read('hold', 'start', '200.00').degrees('hold', 'start', '20.0');
      return judged(one, log.at(900).read('hold', 'end', end).degrees('hold', 'end', to).events).phases[0];
    };
    expect(late('200.00', '21.0')).toMatchObject({ outcome: 'late', spoilt: true });
    expect(late('197.00', '20.0')).toMatchObject({ outcome: 'late', spoilt: true });
    expect(late('195.86', '19.0').outcome).toBe('tight');
  });
  test('a permitted drop is permitted as corrected, too', () => {
    const one = planOf([hold({ kind: 'no-fall', threshold: '1', permitted: '3' }, { corrects })], {
      gauge: { ...base.gauge, rangeHigh: '1000' },
    });
    expect(with_('200.00', '198.00', '20.0', '20.0', one)?.outcome).toBe('permitted');
    expect(with_('200.00', '200.00', '20.0', '20.5', one)?.outcome).toBe('permitted');
    expect(with_('200.00', '200.00', '20.0', '21.0', one)?.outcome).toBe('fall');
  });
  test('a rise says what to repeat: the hold, where there is no let-by to go back to', () => {
    const one = planOf([hold({ kind: 'no-fall', threshold: '1' })]);
    const log = new LogBuilder(one).at(0).read('hold', 'start', '20.00').at(601).read('hold', 'end', '22.00');
    expect(
      judged(one, log.events)
        .reasons.map(({ sentence }) => sentence)
        .join(),
    ).toContain('Repeat the hold.');
  });
  test('without temperatures the raw movement decides', () => {
    expect(outcome(plan(), '200.00', '195.86')?.outcome).toBe('fall');
    expect(outcome(plan(), '200.00', '200.00')?.outcome).toBe('tight');
  });
  test('where conditions are needed and were not read, nothing is proved', () => {
    const one = plan({ needed: 'both' });
    const log = new LogBuilder(one).at(0).read('hold', 'start', '200.00').at(601).read('hold', 'end', '200.00');
    const missing = judged(one, log.events).reasons.find(({ code }) => code === 'conditions-unread');
    expect(missing).toMatchObject({
      weight: 'inconclusive',
      data: { missing: 'the pipe’s temperature and the barometer at start and end' },
    });
  });
  test('a falling barometer raises the gauge, and is taken out', () => {
    const rises = (log: LogBuilder) =>
      log
        .degrees('hold', 'start', '20.0')
        .figure('hold', 'start', 'barometer', '1013.2', 'hPa')
        .at(600)
        .degrees('hold', 'end', '20.0')
        .figure('hold', 'end', 'barometer', '1008.2', 'hPa');
    expect(outcome(plan(), '200.00', '205.00', rises)?.outcome).toBe('tight');
    expect(outcome(plan(), '200.00', '200.00', rises)?.outcome).toBe('fall');
  });
  test('a temperature that was withdrawn in time counts for nothing', () => {
    const one = plan();
    const log = new LogBuilder(one).at(0).read('hold', 'start', '200.00').degrees('hold', 'start', '20.0');
    log.write({ type: 'withdrawn', reading: log.lastId, reason: 'wrong clip' }).degrees('hold', 'start', '19.0');
    log.at(601).read('hold', 'end', '195.86').degrees('hold', 'end', '19.0');
    expect(judged(one, log.events).phases[0].outcome).toBe('fall');
  });
});

describe('flow at most 16.0 CFM at 25 Pa, rig 1.2 CFM', () => {
  const criterion: MeasureCriterion = { kind: 'flow-at-most', limit: '16.00', unit: 'CFM', reference: '25', baseline: '1.20' };
  const measuring = (points: number, change: Partial<typeof criterion> = {}) =>
    planOf(
      [
        measurePhase({
          id: 'points',
          title: 'Points',
          say: '',
          fields: [
            { quantity: 'pressure', label: 'Pressure' },
            { quantity: 'flow', label: 'Flow', instrument: 'flow' },
          ],
          points: Array.from({ length: points }, (_, index) => ({ id: `p${index + 1}`, label: `Point ${index + 1}` })),
          limit: { ...criterion, ...change },
          restartFrom: 'points',
        }),
      ],
      {
        unit: 'Pa',
        gauge: { ...base.gauge, unit: 'Pa', readability: '0.1', rangeHigh: '500' },
        instruments: { flow: instrument('CFM', '0.1') },
      },
    );
  const read = (points: readonly (readonly [pressure: string, flow: string | undefined])[], plan = measuring(points.length)) => {
    const log = new LogBuilder(plan).at(0);
    for (const [index, [pressure, flow]] of points.entries()) {
      const point = `p${index + 1}`;
      log.at(index * 10).figure('points', 'point', 'pressure', pressure, 'Pa', { point });
      log.figure('points', 'point', 'flow', flow ?? '4', 'CFM', {
        point,
        ...(flow === undefined ? { qualifier: 'below range' as const } : {}),
      });
    }
    return judged(plan, log.events);
  };
  const said = (...points: readonly (readonly [string, string | undefined])[]) => read(points).phases[0].outcome;

  test.each([
    ['16.0', 'within'],
    ['16.1', 'within-rig'],
    ['17.2', 'within-rig'],
    ['17.3', 'over'],
  ])('%s CFM at the reference itself: %s', (flow, expected) => expect(said(['25.0', flow])).toBe(expected));

  test('without a rig’s leakage there is no third answer', () => {
    expect(read([['25.0', '16.1']], measuring(1, { baseline: '0' })).phases[0].outcome).toBe('over');
  });
  test('17.0 CFM at 155 Pa is brought back to 5.69', () => {
    const judgement = read([['155.0', '17.0']], measuring(1, { limit: '5.69', baseline: '0' }));
    expect(judgement.phases[0].outcome).toBe('within');
    expect(read([['155.0', '17.0']], measuring(1, { limit: '5.68', baseline: '0' })).phases[0].outcome).toBe('over');
  });
  test('half the pressure proves the set-up, or shows it wrong', () => {
    expect(said(['25.0', '12.0'], ['12.5', '7.9'])).toBe('within');
    const wrong = read([
      ['25.0', '12.0'],
      ['12.5', '11.0'],
    ]);
    expect(wrong.phases[0]).toMatchObject({ outcome: 'impossible', spoilt: true });
    expect(wrong.next).toContainEqual({ code: 'restart', phase: 'points', label: 'Repeat from points' });
    expect(
      read([
        ['25.0', '12.0'],
        ['12.5', '8.5'],
      ]).reasons.map(({ code }) => code),
    ).toContain('exponent-suspicious');
  });
  test('two points at one pressure prove no set-up, and nothing passes without it', () => {
    const together = read([
      ['25.0', '12.0'],
      ['25.1', '12.0'],
    ]);
    expect(together.phases[0]).toMatchObject({ outcome: 'unclear', spoilt: true });
    expect(together.reasons.map(({ code }) => code)).toContain('points-together');
  });
  test('a disturbance while the points are read voids them; one before or after does not', () => {
    const disturbed = (at: number) => {
      const plan = measuring(2);
      const log = new LogBuilder(plan)
        .at(0)
        .figure('points', 'point', 'pressure', '25.0', 'Pa', { point: 'p1' })
        .figure('points', 'point', 'flow', '12.0', 'CFM', { point: 'p1' });
      log
        .at(60)
        .figure('points', 'point', 'pressure', '12.5', 'Pa', { point: 'p2' })
        .figure('points', 'point', 'flow', '7.9', 'CFM', { point: 'p2' });
      return judged(plan, log.at(at).write({ type: 'disturbance', phase: 'points', round: 1, what: 'valve moved', text: '' }).events)
        .phases[0].outcome;
    };
    expect([disturbed(-1), disturbed(30), disturbed(61)]).toEqual(['within', 'void', 'within']);
  });
  test('no flow shown is below the range, never nothing', () => {
    expect(read([['25.0', undefined]]).phases[0]).toMatchObject({ outcome: 'below-range', spoilt: true });
  });
  test('of several points the worse end of the interval counts', () => {
    const curve = (scale: number): readonly (readonly [string, string])[] =>
      [50, 35, 25, 18, 12.5].map((pa) => [pa.toFixed(1), (scale * (pa / 25) ** 0.6).toFixed(1)] as const);
    expect(read(curve(15)).phases[0].outcome).toBe('within');
    // The middle lies within the limit, the worse end does not.
    expect(read(curve(15.98)).phases[0].outcome).toBe('within-rig');
    expect(read(curve(20)).phases[0].outcome).toBe('over');
  });
  test('the first figure of a point stands; a second is said and changes nothing', () => {
    const plan = measuring(1);
    const log = new LogBuilder(plan).at(0).figure('points', 'point', 'pressure', '25.0', 'Pa', { point: 'p1' });
    log
      .figure('points', 'point', 'flow', '18.0', 'CFM', { point: 'p1' })
      .at(60)
      .figure('points', 'point', 'flow', '10.0', 'CFM', { point: 'p1' });
    const judgement = judged(plan, log.events);
    expect(judgement.phases[0].outcome).toBe('over');
    expect(judgement.reasons.map(({ code }) => code)).toContain('second-point');
  });
  test('a figure that the instrument cannot show is refused', () => {
    const plan = measuring(1);
    const log = new LogBuilder(plan).at(0).figure('points', 'point', 'flow', '10.05', 'CFM', { point: 'p1' });
    expect(judged(plan, log.events).reasons.map(({ code }) => code)).toContain('reading-refused');
  });
});

describe('make-up at most: 1320 ft of 8 in, 200 to 110 psi, an hour', () => {
  const plan = (within?: string) =>
    planOf(
      [
        hold(within === undefined ? { kind: 'keep' } : { kind: 'keep', within }, { seconds: 600 }),
        measurePhase({
          id: 'make-up',
          title: 'Make-up',
          say: '',
          when: [[{ phase: 'hold', outcome: ['kept'] }]],
          fields: [
            { quantity: 'pressure', label: 'Pressure' },
            { quantity: 'volume', label: 'Drawn', instrument: 'vessel' },
          ],
          points: [
            { id: 'back', label: 'Pumped back', reads: ['pressure'] },
            { id: 'drawn', label: 'Drawn' },
          ],
          limit: {
            kind: 'make-up-at-most',
            hold: 'hold',
            material: 'iron',
            length: '1320',
            lengthUnit: 'ft',
            diameter: '8',
            diameterUnit: 'in',
            seconds: 3600,
            unit: 'galUS',
          },
          restartFrom: 'make-up',
        }),
      ],
      {
        unit: 'psi',
        gauge: { ...base.gauge, unit: 'psi', readability: '1', rangeHigh: '300' },
        instruments: { vessel: instrument('galUS', '0.001', '20') },
      },
    );
  const log = (one: Plan, low: string) => new LogBuilder(one).at(0).read('hold', 'start', '200').at(601).read('hold', 'end', low);
  const drawn = (to: LogBuilder, value: string, back = '200', low = '110') =>
    to
      .at(700)
      .figure('make-up', 'point', 'pressure', back, 'psi', { point: 'back' })
      .figure('make-up', 'point', 'pressure', low, 'psi', { point: 'drawn' })
      .figure('make-up', 'point', 'volume', value, 'galUS', { point: 'drawn' });

  test.each([
    ['0.888', 'within'],
    ['0.889', 'over'],
  ])('%s US gal: %s', (made, expected) => {
    const one = plan();
    expect(judged(one, drawn(log(one, '110'), made).events).phases[1].outcome).toBe(expected);
  });
  test('what was pumped back during the hold counts, and the lowest reading makes the mean', () => {
    const one = plan('100');
    const pumped = () =>
      new LogBuilder(one)
        .at(0)
        .read('hold', 'start', '200')
        .at(200)
        .read('hold', 'between', '110')
        .at(210)
        .figure('hold', 'between', 'volume', '0.500', 'galUS')
        .at(601)
        .read('hold', 'end', '180');
    expect(judged(one, drawn(pumped(), '0.388').events).phases[1].outcome).toBe('within');
    expect(judged(one, drawn(pumped(), '0.389').events).phases[1].outcome).toBe('over');
  });
  test('pumped back short or drawn down short it is understated: it may fail, and never pass; further, it may pass and never fail (5.12)', () => {
    const made = (value: string, back: string, low: string) =>
      judged(plan(), drawn(log(plan(), '110'), value, back, low).events).phases[1].outcome;
    expect([made('0.500', '199', '111'), made('0.500', '198', '110'), made('0.500', '200', '112')]).toEqual(['within', 'short', 'short']);
    expect([made('0.900', '198', '110'), made('0.900', '202', '110'), made('0.500', '202', '108')]).toEqual(['over', 'beyond', 'within']);
  });
  test('water pumped back in another unit is converted, never left out', () => {
    const one = plan('100');
    const litres = new LogBuilder(one)
      .at(0)
      .read('hold', 'start', '200')
      .at(200)
      .read('hold', 'between', '110')
      .at(210)
      .figure('hold', 'between', 'volume', '2', 'L')
      .at(601)
      .read('hold', 'end', '180');
    // 2 L are 0.528 US gal.
    expect(judged(one, drawn(litres, '0.359').events).phases[1].outcome).toBe('within');
    const again = new LogBuilder(one)
      .at(0)
      .read('hold', 'start', '200')
      .at(200)
      .read('hold', 'between', '110')
      .at(210)
      .figure('hold', 'between', 'volume', '2', 'L')
      .at(601)
      .read('hold', 'end', '180');
    expect(judged(one, drawn(again, '0.360').events).phases[1].outcome).toBe('over');
  });
  test('one entry of water does not stand for two rises', () => {
    const one = plan('100');
    const twice = (second: boolean) => {
      const made = new LogBuilder(one)
        .at(0)
        .read('hold', 'start', '200')
        .at(100)
        .read('hold', 'between', '150')
        .at(110)
        .figure('hold', 'between', 'volume', '0.100', 'galUS')
        .at(300)
        .read('hold', 'between', '170');
      if (second) made.at(310).figure('hold', 'between', 'volume', '0.100', 'galUS');
      return judged(one, made.at(601).read('hold', 'end', '190').events).phases[0].outcome;
    };
    expect([twice(true), twice(false)]).toEqual(['kept', 'pumped']);
  });
  test('a vessel coarser than a tenth of the allowance adds its step', () => {
    const coarse = { ...plan(), instruments: { vessel: instrument('galUS', '0.1', '20') } };
    const made = (value: string) => judged(coarse, drawn(log(coarse, '110'), value).events).phases[1].outcome;
    expect([made('0.7'), made('0.8')]).toEqual(['within', 'over']);
  });
  test('water drawn before the hold was over is no make-up', () => {
    const one = plan();
    const early = log(one, '110').at(300).figure('make-up', 'point', 'volume', '0.100', 'galUS', { point: 'drawn' });
    const judgement = judged(one, early.events);
    expect(judgement.phases[1].outcome).toBeUndefined();
    expect(judgement.reasons.map(({ code }) => code)).toContain('start-too-soon');
  });
  test('a fall of 5 psi is kept, 6 is not', () => {
    const one = plan('5');
    expect(judged(one, log(one, '195').events).phases[0].outcome).toBe('kept');
    expect(judged(one, log(one, '194').events).phases[0]).toMatchObject({ outcome: 'fell', spoilt: true });
  });
  test('pressure that came back with no water written down was pumped unmeasured', () => {
    const one = plan('5');
    const secret = new LogBuilder(one)
      .at(0)
      .read('hold', 'start', '200')
      .at(300)
      .read('hold', 'between', '196')
      .at(601)
      .read('hold', 'end', '200');
    expect(judged(one, secret.events).phases[0]).toMatchObject({ outcome: 'pumped', spoilt: true });
  });
});
