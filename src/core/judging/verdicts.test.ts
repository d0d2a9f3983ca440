import type { Plan } from '../planning/plan';
import { demoGauge, planFor } from '../simulation/examples.fixture';
import type { Gauge } from '../sizing/gauge';
import { boundaryStates } from './boundaries';
import { build, codes, permitting, said, tight, upToHold } from './cases.fixture';
import { sentenceOf } from './catalogue';
import { judge } from './judge';
import type { LogBuilder } from './log-builder.fixture';
import { itemsOf } from './state';

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

  test('a fall with the appliances connected offers the pipework alone; one on the pipework alone has nothing left to take off', () => {
    const fell = (plan: Plan) => judge(plan, upToHold(plan).held('20.50', '15.00').observe('rig', 'dry').at(2000).tick('make-safe').events);
    expect(fell(permitting).next[0]).toEqual({
      code: 'repeat-with',
      label: 'Test the pipework alone',
      answers: { appliances: 'pipework only' },
    });
    expect(fell(planFor({ answers: { appliances: 'pipework only' } })).next.map(({ code }) => code)).not.toContain('repeat-with');
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

  describe('a rise in the second hold reopens the let-by', () => {
    const rose = () =>
      upToHold(permitting)
        .held('20.50', '18.00')
        .at(300)
        .tick('isolate')
        .at(310)
        .read('settle-pipework', 'start', '20.50')
        .at(371)
        .read('hold-pipework', 'start', '20.50')
        .at(492)
        .read('hold-pipework', 'end', '20.75');
    const restarted = () => rose().at(510).write({ type: 'restart', phase: 'reopen', round: 2, reason: 'rise' });

    test('from the appliances on: they are still isolated, and the next hold speaks of them', () => {
      expect(judge(permitting, rose().events).next[0]).toMatchObject({ code: 'restart', phase: 'reopen' });
      expect(judge(permitting, restarted().events).current).toBe('reopen');
    });

    test('a tight hold with the appliances still shut off is no pass', () => {
      const judged = judge(permitting, restarted().again('20.50').tick('restore').events);
      expect(judged).toMatchObject({ current: 'reopen', provisional: 'in progress' });
    });

    test('with them reopened the whole way counts again, and the isolation of the first round does not', () => {
      expect(said(permitting, restarted().at(520).tick('reopen', 2).again('20.50'))).toBe('pass');
      const fell = restarted().at(520).tick('reopen', 2).again('18.00');
      expect(judge(permitting, fell.events)).toMatchObject({ current: 'isolate', provisional: 'in progress' });
    });

    test('a first round never asks to reopen what was not isolated', () =>
      expect(judge(permitting, upToHold(permitting).held('20.50', '20.80').events).next[0]).toMatchObject({ phase: 'let-by' }));
  });

  test('let-by: seat with bubbles fails and needs the report; without, repeated once, a second rise fails', () => {
    const rose = () => build(tight).proved('8.90');
    expect(judge(tight, rose().events).current).toBe('let-by-seat');
    const bubbles = rose().observe('let-by-seat', 'bubbles');
    // Union, fluid, bond: whatever the look showed.
    expect(judge(tight, bubbles.events).current).toBe('seat-remade');
    expect(judge(tight, bubbles.tick('seat-remade').events).current).toBe('let-by-report');
    expect(finished(tight, bubbles.tick('let-by-report'), 'make-safe')).toBe('fail');
    const again = (end: string) =>
      rose()
        .observe('let-by-seat', 'dry')
        .tick('seat-remade')
        .at(200)
        .read('let-by-again', 'start', '8.50')
        .at(261)
        .read('let-by-again', 'end', end);
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
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')).toMatchObject({ is: 'spoilt', outcome: 'void' });
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
      .write({ type: 'check', phase: 'prepare', round: 1, item: 'open-ends', state: 'unproved' })
      .held('20.50', '20.50');
    expect(finished(tight, log, 'make-safe')).toBe('inconclusive');
    expect(codes(tight, log.events)).toContain('boundary-opened');
  });

  test('“does not apply” needs a reason, and only where it may', () => {
    const answered = (item: string, text?: string) =>
      judge(
        tight,
        build(tight).write({
          type: 'check',
          phase: 'prepare',
          round: 1,
          item,
          state: 'not-applicable',
          ...(text === undefined ? {} : { text }),
        }).events,
      ).phases.flatMap((state) => (state.id === 'prepare' ? itemsOf(state) : [])).length;
    expect(answered('appliances-off', 'none fitted')).toBe(1);
    expect(answered('appliances-off')).toBe(0);
    expect(answered('voltage', 'no meter')).toBe(0);
  });

  test('every boundary says how it was proved', () => {
    const how = (log: LogBuilder) => boundaryStates(tight, judge(tight, log.events).phases).map((one) => [one.id, one.proved, one.how]);
    expect(how(build(tight))).toEqual([
      ['supply-valve', false, 'not proved'],
      ['open-ends', false, 'not proved'],
    ]);
    expect(how(upToHold(tight))).toEqual([
      ['supply-valve', true, 'proved by “Let-by”'],
      ['open-ends', true, 'plugged or capped'],
    ]);
    // Said while the list is open; a list that is over keeps its answers.
    const apart = build(tight).write({
      type: 'check',
      phase: 'prepare',
      round: 1,
      item: 'open-ends',
      state: 'not-applicable',
      text: 'every outlet has its appliance',
    });
    for (const item of ['told', 'voltage', 'no-smell', 'appliances-off', 'valves-open', 'gauge-side'])
      apart.write({ type: 'check', phase: 'prepare', round: 1, item, state: 'done' });
    expect(how(apart)[1]).toEqual(['open-ends', true, 'does not apply (every outlet has its appliance)']);
  });

  test('house rules are named beside the procedure’s figure', () => {
    const plan = planFor({
      houseRules: [{ procedure: 'domestic-gas-millibar', figure: 'settle-seconds', value: '90', reference: 'Practice 3' }],
    });
    expect(
      judge(plan, build(plan).proved().events)
        .reasons.filter(({ code }) => code === 'house-rule')
        .map(sentenceOf)
        .join(),
    ).toContain('house rule 90 s (procedure 60; Practice 3)');
  });
});
