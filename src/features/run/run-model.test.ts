import { estimateOf, heldSoFar, judge, type RunEvent, tracesOf } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { bandAdvice } from '@/core/running';
import { simulatedGauge } from '@/core/simulation';
import { demoGauge, eventsFor, fixtureRun, planFor } from '@/core/simulation/examples.fixture';
import { countdown } from '@/device/use-now';
import { estimateWords, pendingStamp, plausible, presentOf, sentence, soFarWords } from './run-model';

const plan = planFor({ gauge: { ...demoGauge, simulated: true } });
const start = 1_795_000_000_000;
const at = (seconds: number) => start + seconds * 1000;
const present = (log: LogBuilder, seconds: number) => presentOf(plan, judge(plan, log.events), log.events, at(seconds));

describe('what the screen shows is derived from the log and the time', () => {
  test('before a hold: its start is stamped; in it: notes; at due, to the millisecond: the end', () => {
    const log = new LogBuilder(plan).tick('prepare').at(20).read('zero', 'zero', '0.00');
    expect(present(log, 25)).toMatchObject({ ask: { role: 'start', quantity: 'pressure' }, holding: false, phase: { id: 'let-by' } });
    log.at(30).read('let-by', 'start', '8.50');
    expect(present(log, 89.999)).toMatchObject({ ask: { role: 'between' }, holding: true });
    expect(present(log, 90)).toMatchObject({ ask: { role: 'end' }, holding: true });
  });

  test('while the settling time runs that phase is shown, and what is read only shows whether it settles', () => {
    const log = new LogBuilder(plan).proved().settled();
    const early = present(log, 159.999);
    expect(early).toMatchObject({ phase: { id: 'settle' }, holding: false, settlingUntil: at(160) });
    expect(early.ask?.role).toBe('between');
    expect(early.view.current).toBe('settle');
    expect(present(log, 160)).toMatchObject({ phase: { id: 'hold' }, ask: { role: 'start' } });
  });

  test('a spoilt hold offers no stamp; a gauge that shows pressure is read again', () => {
    const spoilt = new LogBuilder(plan)
      .proved()
      .settled()
      .at(170)
      .read('hold', 'start', '20.50')
      .at(180)
      .write({ type: 'disturbance', phase: 'hold', round: 1, what: 'gas used', text: '' });
    expect(present(spoilt, 190)).toMatchObject({ holding: false });
    expect(present(spoilt, 190).ask).toBeUndefined();
    expect(present(new LogBuilder(plan).tick('prepare').read('zero', 'zero', '0.30'), 30).ask?.role).toBe('zero');
  });

  test('when all is done there is no phase', () =>
    expect(presentOf(plan, judge(plan, eventsFor(plan, 'sound')), eventsFor(plan, 'sound'), at(9999)).phase).toBeUndefined());
});

describe('what the judge thinks so far, in words', () => {
  const letBy = plan.phases.find(({ id }) => id === 'let-by');
  const hold = plan.phases.find(({ id }) => id === 'hold');
  const points = (...values: number[]) => values.map((value, index) => ({ seconds: index * 10, value }));

  test('a let-by: how far it rose, and what would count; a fall is only noted', () => {
    expect(soFarWords(plan, letBy, '8.50', points(8.5, 8.62))).toBe(
      'Risen 0.12 mbar so far; a rise of 0.25 mbar would count. A pipe that warms by 0.034 °C does as much.',
    );
    expect(soFarWords(plan, letBy, '8.50', points(8.5, 8.3))).toMatch(/^Fallen 0\.20 mbar so far: noted/);
    expect(soFarWords(plan, letBy, '8.50', points(8.5, 8.5))).toMatch(/^It has not moved so far/);
  });

  test('a hold: the fall against what can be perceived; nothing before there are two readings', () => {
    expect(soFarWords(plan, hold, '20.50', points(20.5, 20.4))).toBe(
      'Fallen 0.10 mbar so far; a movement of 0.25 mbar would be perceptible. A pipe that cools by 0.028 °C does as much.',
    );
    expect(soFarWords(plan, hold, '20.50', points(20.5))).toBeUndefined();
    expect(soFarWords(plan, undefined, '20.50', points(20.5, 20.4))).toBeUndefined();
  });

  test('a forecast within a permitted drop says that the pipework will have to show none', () => {
    const falling = Array.from({ length: 40 }, (_, second) => ({ seconds: second, value: 20.5 - second * 0.01 }));
    const estimate = estimateOf(plan, hold, falling);
    if (estimate === undefined) throw new Error('no estimate');
    expect(estimateWords(estimate, 'mbar', hold)).toContain('the pipework alone will have to show none');
    expect(estimateWords({ ...estimate, forecast: 0.1 }, 'mbar', hold)).toContain('below the limit so far');
    expect(estimateWords({ ...estimate, forecast: -0.001 }, 'mbar', hold)).toContain('Forecast fall 0.00 mbar');
    expect(estimateWords({ ...estimate, forecast: -0.01 }, 'mbar', hold)).toContain('Forecast fall -0.01 mbar');
  });

  test('the sentence: eyes on the gauge at ten seconds, stamp at due, nothing touched before', () => {
    const say = (left: number) => sentence('hold', 'x', { settling: false, holding: true, left, spoilt: false });
    expect([say(10_001), say(10_000), say(0)]).toEqual([
      'Touch nothing. The clock runs.',
      'Eyes on the gauge.',
      'Due. Stamp the end reading now.',
    ]);
    expect(sentence('hold', 'x', { settling: false, holding: true, left: 5, spoilt: true })).toContain('does not count');
    // With the end read and its temperature owed, nobody is told to raise the pressure again.
    expect(sentence('hold', 'Raise into the band.', { settling: false, holding: false, spoilt: false, owes: ['temperature'] })).toBe(
      'The end is in. Read the temperature now: it belongs to this hold.',
    );
  });
});

describe('stamps', () => {
  const letBy = plan.phases.find(({ id }) => id === 'let-by');
  const stamped = () => new LogBuilder(plan).at(30).write({ type: 'stamp', phase: 'let-by', round: 1, role: 'start' });
  const pending = (events: readonly RunEvent[], device = 'device-1') => pendingStamp(events, letBy, 1, device)?.id;

  test('wait for their figure, on the device that made them, until it is typed or they are discarded', () => {
    const log = stamped();
    const id = log.lastId;
    expect(pending(log.events)).toBe(id);
    expect(pending(log.events, 'device-2')).toBeUndefined();
    expect(pendingStamp(log.events, letBy, 2, 'device-1')).toBeUndefined();
    const typed = stamped().write({
      type: 'reading',
      phase: 'let-by',
      round: 1,
      role: 'start',
      quantity: 'pressure',
      value: '8.50',
      unit: 'mbar',
      typed: '850',
      source: 'keypad',
      stamp: id,
    });
    expect(pending(typed.events)).toBeUndefined();
    expect(pending(stamped().write({ type: 'withdrawn', reading: id, reason: 'slip' }).events)).toBeUndefined();
  });
});

describe('traces and forecast', () => {
  const upTo = (type: string, count: number) => {
    const events = eventsFor(plan, 'gross-leak');
    let left = count;
    const end = events.findIndex((event) => event.type === type && 'phase' in event && event.phase === 'hold' && --left === 0);
    return events.slice(0, end + 1);
  };

  test('the simulated gauge draws the open hold a second at a time, and the forecast sees a gross leak early', () => {
    const events = upTo('reading', 1);
    const judgement = judge(plan, events);
    const hold = heldSoFar(judgement.phases.find(({ id }) => id === 'hold'));
    const gauge = simulatedGauge(plan, events, fixtureRun);
    const time = (hold?.startAt ?? 0) + 40_000;
    const traced = tracesOf(plan, judgement, events, gauge, time);
    const points = traced.find(({ phase }) => phase === 'hold')?.points ?? [];
    expect(points.length).toBeGreaterThanOrEqual(41);
    const phase = plan.phases.find(({ id }) => id === 'hold');
    // The plant behind `simulatedGauge` takes its seed and volume from the run, so only its kind is sure here.
    const estimate = estimateOf(plan, phase, points);
    expect(estimate?.status).toBe('above');
    expect(estimateWords(estimate ?? (Number.NaN as never), 'mbar')).toMatch(/above the limit. You may stop early\./);
    const settle = traced.find((one) => one.phase === 'settle')?.points ?? [];
    expect(Math.max(...settle.map(({ seconds }) => seconds))).toBeLessThanOrEqual(61);
  });

  test('a recorded trace is drawn as it was recorded', () => {
    const events = eventsFor(plan, 'sound');
    const points = tracesOf(plan, judge(plan, events), events, undefined, 0).find(({ phase }) => phase === 'hold')?.points ?? [];
    expect(points.length).toBeGreaterThan(100);
    expect(points.every(({ seconds }, index) => index === 0 || seconds >= points[index - 1].seconds)).toBe(true);
  });
});

describe('words', () => {
  const phase = plan.phases.find(({ id }) => id === 'settle');
  test('out of band: the action', () => {
    if (phase?.kind !== 'hold') throw new Error('no settling');
    expect(bandAdvice(plan, phase, '21.40', false)).toBe('21.40: bleed to 20–21 mbar, then read again.');
    expect(bandAdvice(plan, phase, '19.10', false)).toBe('19.10: raise to 20–21 mbar, then read again.');
    expect(bandAdvice(plan, phase, '20.50', true)).toBeUndefined();
  });
  test('a gauge in pascal is told in pascal, and its digits are read in pascal', () => {
    if (phase?.kind !== 'hold') throw new Error('no settling');
    const pascal = planFor({ gauge: { ...demoGauge, unit: 'Pa', readability: '1', rangeLow: '-100', rangeHigh: '15000' } });
    expect(bandAdvice(pascal, phase, '2140', false)).toBe('2140: bleed to 2000–2100 Pa, then read again.');
    expect(bandAdvice(pascal, phase, '1900', false)).toBe('1900: raise to 2000–2100 Pa, then read again.');
    expect([plausible(plan, { instrument: plan.gauge }), plausible(pascal, { instrument: pascal.gauge })]).toEqual(['42', '4200']);
    const letBy = pascal.phases.find(({ id }) => id === 'let-by');
    const points = [
      { seconds: 0, value: 8.5 },
      { seconds: 9, value: 8.62 },
    ];
    expect(soFarWords(pascal, letBy, '850', points)).toBe(
      'Risen 0.12 mbar so far; a rise of 0.25 mbar would count. A pipe that warms by 0.034 °C does as much.',
    );
  });
  test.each([
    [95_000, '1:35'],
    [94_001, '1:35'],
    [0, '0:00'],
    [-400, '+0:01'],
    [-61_000, '+1:01'],
    [600_000, '10:00'],
  ])('%i ms is %s', (ms, text) => expect(countdown(ms)).toBe(text));
});
