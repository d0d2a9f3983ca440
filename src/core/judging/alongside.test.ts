import { present } from '../running';
import { duesOf } from './due';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { hold, instrument, planOf } from './one-phase.fixture';
import { said } from './render';
import { outcomeOf } from './state';

/* Two holds on two gauges at the same time (DOMAIN 5.13): each is closed by its own end, and neither touches the other. */

const plan = planOf(
  [
    hold({ kind: 'no-fall', threshold: '0.25' }, { id: 'low', title: 'Low', seconds: 600, restartFrom: 'low' }),
    hold(
      { kind: 'no-fall', threshold: '0.25' },
      { id: 'high', title: 'High', seconds: 600, restartFrom: 'high', alongside: 'low', instrument: 'other', unit: 'mbar' },
    ),
  ],
  { instruments: { other: instrument('mbar', '0.01', '1000') } },
  [
    {
      when: [
        [
          { phase: 'low', outcome: ['tight'] },
          { phase: 'high', outcome: ['tight'] },
        ],
      ],
      verdict: 'pass',
      reason: 'tight',
      about: 'high',
    },
    {
      when: [[{ phase: 'low', outcome: ['fall'] }], [{ phase: 'high', outcome: ['fall'] }]],
      verdict: 'fail',
      reason: 'fall',
      about: 'low',
    },
  ],
);

const begun = () => new LogBuilder(plan).at(0).read('low', 'start', '100.00').at(20).read('high', 'start', '200.00');
const came = (log: LogBuilder) =>
  judge(plan, log.events).phases.map((state) => outcomeOf(state) ?? ('is' in state ? state.is : state.state));
const asked = (log: LogBuilder, seconds: number) => {
  const now = present(plan, judge(plan, log.events), log.events, 1_795_000_000_000 + seconds * 1000);
  return now.do === 'nothing' ? now.do : `${now.do} ${now.phase.id}${now.do === 'read' ? ` ${now.ask.role}` : ''}`;
};

test('the second may begin as soon as the first has its start, and not before', () => {
  const early = new LogBuilder(plan).at(0).read('high', 'start', '200.00').at(5).read('low', 'start', '100.00');
  expect(came(early)).toEqual(['running', 'unstarted']);
  expect(came(begun())).toEqual(['running', 'running']);
});

test('what is asked: the second start at once, then whichever end is due first', () => {
  const log = new LogBuilder(plan);
  expect(asked(log, 0)).toBe('read low start');
  log.at(0).read('low', 'start', '100.00');
  expect(asked(log, 1)).toBe('read high start');
  log.at(20).read('high', 'start', '200.00');
  expect(asked(log, 30)).toBe('hold low');
  expect(asked(log, 601)).toBe('read low end');
  log.at(601).read('low', 'end', '100.00');
  expect(asked(log, 610)).toBe('hold high');
  expect(asked(log, 621)).toBe('read high end');
});

test('both stood: ten minutes and twenty seconds in all, and a pass', () => {
  const log = begun().at(601).read('low', 'end', '99.90').at(621).read('high', 'end', '199.90');
  expect(came(log)).toEqual(['tight', 'tight']);
  expect(judge(plan, log.events).provisional).toBe('pass');
});

test.each([
  ['the first', '99.00', '200.00', ['fall', 'tight']],
  ['the second', '100.00', '199.00', ['tight', 'fall']],
])('%s fell: a fail, whichever end is read first', (_, low, high, expected) => {
  const first = begun().at(601).read('low', 'end', low).at(621).read('high', 'end', high);
  const second = begun().at(621).read('high', 'end', high).at(622).read('low', 'end', low);
  for (const log of [first, second]) {
    expect(came(log)).toEqual(expected);
    expect(judge(plan, log.events).provisional).toBe('fail');
  }
});

test('its own end closes each: a second start, an early end, an end of the other change nothing', () => {
  const log = begun().at(100).read('high', 'start', '150.00').at(200).read('high', 'end', '200.00').at(621).read('high', 'end', '199.00');
  expect(came(log)).toEqual(['running', 'fall']);
  log.at(650).read('high', 'end', '200.00').at(660).read('low', 'end', '100.00');
  expect(came(log)).toEqual(['tight', 'fall']);
});

test('a disturbance of one spoils that one; the other runs on, and the round of both is done again', () => {
  const log = begun().at(100).write({ type: 'disturbance', phase: 'high', round: 1, what: 'gauge touched', text: '' });
  log.at(601).read('low', 'end', '100.00').at(621).read('high', 'end', '200.00');
  expect(came(log)).toEqual(['tight', 'void']);
  expect(judge(plan, log.events).provisional).not.toBe('pass');
  expect(asked(log, 630)).toBe('repeat high');
  log.at(640).write({ type: 'restart', phase: 'high', round: 2, reason: 'Repeat' });
  log.at(650).read('high', 'start', '200.00', { round: 2 }).at(1251).read('high', 'end', '200.00', { round: 2 });
  expect(judge(plan, log.events).provisional).toBe('pass');
});

describe('a round that does not count is done again by itself', () => {
  const disturbed = (phase: string) => (log: LogBuilder) =>
    log.at(100).write({ type: 'disturbance', phase, round: 1, what: 'gauge touched', text: '' });

  test('the first is void while the second runs on, and keeps its clock', () => {
    const log = disturbed('low')(begun()).at(601).read('low', 'end', '100.00');
    expect(came(log)).toEqual(['void', 'running']);
    log.at(605).write({ type: 'restart', phase: 'low', round: 2, reason: 'Repeat' });
    expect(came(log)).toEqual(['unstarted', 'running']);
    log.at(610).read('low', 'start', '100.00', { round: 2 }).at(621).read('high', 'end', '200.00');
    expect(came(log)).toEqual(['running', 'tight']);
    expect(said(plan, judge(plan, log.events)).map(({ sentence }) => sentence)).toContain(
      'Low, round 1: 100.00 to 100.00 mbar, void (gauge touched); it was done again.',
    );
    log.at(1211).read('low', 'end', '100.00', { round: 2 });
    expect(judge(plan, log.events).provisional).toBe('pass');
  });

  test('the second is void and begun again while the first still runs', () => {
    const log = disturbed('high')(begun());
    expect(judge(plan, log.events).next).toEqual([expect.objectContaining({ code: 'restart', phase: 'high' }), expect.anything()]);
    log.at(120).write({ type: 'restart', phase: 'high', round: 2, reason: 'Repeat' });
    expect(came(log)).toEqual(['running', 'unstarted']);
    expect(said(plan, judge(plan, log.events)).map(({ sentence }) => sentence)).toContain(
      'High, round 1: 200.00 mbar, void (gauge touched); it was done again.',
    );
    log.at(130).read('high', 'start', '200.00', { round: 2 }).at(601).read('low', 'end', '100.00');
    expect(came(log)).toEqual(['tight', 'running']);
    expect(came(log.at(731).read('high', 'end', '200.00', { round: 2 }))).toEqual(['tight', 'tight']);
  });

  test('noticed only afterwards: the second is void while the first runs on', () => {
    const log = begun().at(621).read('high', 'end', '200.00');
    log.at(625).write({ type: 'disturbance', phase: 'high', round: 1, what: 'gauge touched', text: '' }, { observedAt: 1_795_000_300_000 });
    expect(came(log)).toEqual(['running', 'void']);
    expect(came(log.at(630).read('low', 'end', '100.00'))).toEqual(['tight', 'void']);
  });

  test('noticed only afterwards: the first is void, and the second that leads by then runs on', () => {
    const log = begun().at(601).read('low', 'end', '100.00');
    log.at(610).write({ type: 'disturbance', phase: 'low', round: 1, what: 'gauge touched', text: '' }, { observedAt: 1_795_000_300_000 });
    expect(came(log)).toEqual(['void', 'running']);
    expect(came(log.at(621).read('high', 'end', '200.00'))).toEqual(['void', 'tight']);
    expect(judge(plan, log.events).provisional).not.toBe('pass');
  });

  test('the one that runs well cannot be begun again because the other was spoilt', () => {
    const log = disturbed('high')(begun()).at(605).read('high', 'end', '200.00');
    log.at(606).write({ type: 'restart', phase: 'low', round: 2, reason: 'It fell' });
    expect(judge(plan, log.events).reasons.map(({ code }) => code)).toContain('restart-refused');
    expect(came(log)[0]).toBe('running');
  });
});

test('ended in the moment after an end was read: its fall is judged, whatever was still to be read beside it', () => {
  const corrects = { atmosphereHpa: '1013.25', needed: 'nothing' } as const;
  const warm = { ...plan, phases: plan.phases.map((phase) => (phase.kind === 'hold' ? { ...phase, corrects } : phase)) };
  const log = new LogBuilder(warm).at(0).read('low', 'start', '100.00').degrees('low', 'start', '15.0');
  log.at(20).read('high', 'start', '200.00').degrees('high', 'start', '15.0');
  log.at(601).read('low', 'end', '100.00').degrees('low', 'end', '15.0').at(621).read('high', 'end', '198.00');
  expect(judge(warm, log.events).phases[1]).toMatchObject({ state: 'current', is: 'ended', owes: ['temperature'] });
  log.at(622).write({ type: 'stopped', reason: 'Packed up' });
  const ended = judge(warm, log.events);
  expect(outcomeOf(ended.phases[1])).toBe('fall');
  expect(ended.provisional).toBe('fail');
});

test('a leak seen while the second runs is no joint remade while raising', () => {
  const log = begun().at(100).write({ type: 'leak-seen', phase: 'high', round: 1, where: 'system', text: 'Flare nut' });
  log.at(601).read('low', 'end', '100.00').at(621).read('high', 'end', '200.00');
  expect(judge(plan, log.events).provisional).toBe('fail');
});

test('looked at one of them: what is asked there, whatever the other wants', () => {
  const log = begun();
  const at = (phase: string, seconds: number) =>
    present(plan, judge(plan, log.events), log.events, 1_795_000_000_000 + seconds * 1000, phase);
  expect(at('high', 610)).toMatchObject({ do: 'hold', phase: { id: 'high' } });
  expect(at('low', 610)).toMatchObject({ do: 'read', phase: { id: 'low' }, ask: { role: 'end' } });
  expect(at('high', 622)).toMatchObject({ do: 'read', phase: { id: 'high' }, ask: { role: 'end' } });
  expect(duesOf(plan, judge(plan, log.events)).map(({ phase }) => phase.id)).toEqual(['low', 'high']);
});

test('a start of the second is withdrawn while it runs, and read again', () => {
  const log = begun();
  const start = log.lastId;
  log.at(30).write({ type: 'withdrawn', reading: start, reason: 'Mistyped' });
  expect(came(log)).toEqual(['running', 'unstarted']);
  log.at(40).read('high', 'start', '201.00').at(601).read('low', 'end', '100.00').at(621).read('high', 'end', '201.00');
  expect(came(log)).toEqual(['tight', 'running']);
  expect(came(log.at(641).read('high', 'end', '201.00'))).toEqual(['tight', 'tight']);
});

test('ended while both run: neither has a result, and nothing more is heard of them', () => {
  const log = begun().at(100).write({ type: 'stopped', reason: 'Rain' }).at(621).read('high', 'end', '200.00');
  expect(judge(plan, log.events).provisional).not.toBe('pass');
});

test.each([
  ['nothing moved', '200.00', ['tight', 'tight']],
  ['the second dipped and was fed again', '199.50', ['tight', 'touched']],
])('read in turn by the hundred, and %s: each keeps its own figures', (_, dip, expected) => {
  const log = begun();
  for (let at = 30; at < 600; at += 1)
    log
      .at(at)
      .read('low', 'between', '100.00')
      .read('high', 'between', at === 300 ? dip : '200.00');
  log.at(601).read('low', 'end', '100.00').at(621).read('high', 'end', '200.00');
  expect(came(log)).toEqual(expected);
  expect(judge(plan, log.events.toReversed())).toEqual(judge(plan, log.events));
});
