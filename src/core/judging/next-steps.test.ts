import { planFor } from '../simulation/examples.fixture';
import { build, permitting, tight, upToHold } from './cases.fixture';
import { expectedCourse } from './course';
import { judge } from './judge';
import type { LogBuilder } from './log-builder.fixture';

const offered = (log: LogBuilder, plan = tight) =>
  judge(plan, log.events).next.map((step) => (step.code === 'restart' ? `restart ${step.phase}` : step.code));

describe('what can be done next', () => {
  const held = (end: string) => upToHold(tight).held('20.50', end);
  const finished = (log: LogBuilder, list: string) => log.at(2000).tick(list);

  test.each([
    ['nothing while all goes well', build(tight).proved(), []],
    ['the closing steps, once the answer is there', held('20.50'), ['finish-closing']],
    ['a certificate of a pass', finished(held('20.50'), 'restore'), ['certificate']],
    [
      'after a fail: pipework alone, repair and test again, another gauge, a certificate all the same',
      finished(held('20.00').observe('rig', 'dry'), 'make-safe'),
      ['repeat-with', 'new-attempt', 'swap-gauge', 'certificate'],
    ],
    [
      'after a smell of gas: no further test from here',
      finished(held('20.50').write({ type: 'smell', text: '' }).tick('smell-response'), 'make-safe'),
      ['certificate'],
    ],
    [
      'when the rig leaked: test again',
      finished(held('20.00').observe('rig', 'bubbles'), 'make-safe'),
      ['new-attempt', 'swap-gauge', 'certificate'],
    ],
    ['a gauge that is not at zero: another one', build(tight).tick('prepare').read('zero', 'zero', '0.40'), ['stop']],
    [
      'a disturbed settling: settle again',
      upToHold(tight).at(120).write({ type: 'disturbance', phase: 'settle', round: 1, what: 'gas used', text: '' }),
      ['restart settle', 'stop'],
    ],
    ['a rise: from the let-by on', held('20.80'), ['restart let-by', 'stop']],
    ['read too late: settle and hold again', upToHold(tight).held('20.50', '20.00', 400), ['restart settle', 'stop']],
  ] as const)('%s', (_, log, steps) => expect(offered(log)).toEqual(steps));

  test('the label of a restart names the phase that it goes back to', () => {
    const [step] = judge(tight, held('20.80').events).next;
    expect(step.label).toBe('Repeat from let-by');
  });
});

describe('the course that is shown', () => {
  const ids = (log: LogBuilder, plan = permitting) => expectedCourse(plan, judge(plan, log.events)).map(({ id }) => id);
  const usual = ['prepare', 'zero', 'let-by', 'settle', 'hold', 'restore'];

  test('before anything, and while it goes well, the way to a pass', () => {
    expect(ids(build(permitting))).toEqual(usual);
    expect(ids(upToHold(permitting))).toEqual(usual);
  });

  test('a rise at the let-by shows the seat, and after it the way on if it is dry', () =>
    expect(ids(build(permitting).proved('8.90'))).toEqual([
      'prepare',
      'zero',
      'let-by',
      'let-by-seat',
      'seat-remade',
      'let-by-again',
      'settle',
      'hold',
      'restore',
    ]));

  test('a permitted fall shows the isolation and the pipework’s own hold', () =>
    expect(ids(upToHold(permitting).held('20.50', '18.00'))).toEqual([
      'prepare',
      'zero',
      'let-by',
      'settle',
      'hold',
      'isolate',
      'settle-pipework',
      'hold-pipework',
      'restore',
    ]));

  test('a smell shows its response and leaving safe, and nothing that is not to be done any more', () => {
    const shown = ids(build(permitting).tick('prepare').write({ type: 'smell', text: '' }));
    expect(shown).toEqual(['prepare', 'smell-response', 'make-safe']);
  });

  test('pipework alone has no isolation ahead', () =>
    expect(ids(upToHold(tight), planFor({ answers: { appliances: 'pipework only' } }))).toEqual(usual));
});

describe('a fall is met under pressure', () => {
  const fallen = () => upToHold(tight).held('20.50', '20.00').observe('rig', 'dry');

  test('before the closing steps: pipework alone, another attempt, another gauge; then the steps', () =>
    expect(offered(fallen(), tight)).toEqual(['repeat-with', 'new-attempt', 'swap-gauge', 'finish-closing']));

  test('gone on with in another attempt, this one is over and says so; its steps may still be done', () => {
    const log = fallen();
    expect(judge(tight, log.events).verdict).toBe('in progress');
    log.write({ type: 'continued' });
    const judged = judge(tight, log.events);
    expect(judged.verdict).toBe('fail');
    expect(judged.current).toBe('make-safe');
    expect(judged.reasons.map(({ code }) => code)).toContain('continued');
    const closed = judge(tight, log.at(2000).tick('make-safe').events);
    expect(closed.current).toBeUndefined();
    expect(closed.reasons.map(({ code }) => code)).not.toContain('continued');
  });

  test('a pass is closed where it was proved; nothing goes on after a smell of gas, or from a device without the pen', () => {
    expect(judge(tight, upToHold(tight).held('20.50', '20.50').write({ type: 'continued' }).events).verdict).toBe('in progress');
    expect(judge(tight, fallen().write({ type: 'smell', text: '' }).write({ type: 'continued' }).events).verdict).toBe('in progress');
    expect(judge(tight, fallen().write({ type: 'continued' }, { device: 'device-2', seq: 1 }).events).verdict).toBe('in progress');
    expect(judge(tight, build(tight).proved().write({ type: 'continued' }).events).verdict).toBe('in progress');
  });
});
