import { build, oneDecimal, permitting, tight, upToHold } from '../judging/cases.fixture';
import type { EventOf } from '../judging/events';
import { judge } from '../judging/judge';
import type { LogBuilder } from '../judging/log-builder.fixture';
import type { Plan } from '../planning/plan';
import { procedures } from '../procedures';
import { examplePlan } from '../simulation/examples.fixture';
import { bandAdvice, bandWords, cameTo, closingWords, fallSoFar, fallWords, lastCame, rateSoFar } from '.';

/* What is said beside the countdown: what came, where to go, what a figure would do. */

const holdOf = (plan: Plan, id: string) => {
  const phase = plan.phases.find((one) => one.id === id);
  if (phase?.kind !== 'hold') throw new Error(`no hold ${id}`);
  return phase;
};
const line = (plan: Plan, log: LogBuilder) => lastCame(plan, judge(plan, log.events));

describe('what a phase came to', () => {
  test.each([
    ['a steady let-by', build(tight).proved(), /^Let-by: 0\.00 mbar in \d+ s: the valve holds$/],
    ['a let-by that falls a little', build(tight).proved('8.48'), /^Let-by: −0\.02 mbar in \d+ s: the valve holds$/],
    ['a let-by that rises', build(tight).proved('8.90'), /^Let-by: \+0\.40 mbar in \d+ s: the valve lets by$/],
    ['tight', upToHold(tight).held('20.50', '20.50'), /^Hold: 0\.00 mbar in 121 s: nothing perceptible$/],
    ['a fall', upToHold(tight).held('20.50', '19.00'), /^Hold: −1\.50 mbar in 121 s: over the limit$/],
    ['within the permitted', upToHold(permitting).held('20.50', '19.00'), /^Hold: −1\.50 mbar in .*: within the permitted drop$/],
  ] as const)('%s', (name, log, says) => expect(line(name.includes('permitted') ? permitting : tight, log)).toMatch(says));

  test('nothing before the first figure, and nothing of lists', () => {
    expect(line(tight, build(tight))).toBeUndefined();
    expect(line(tight, build(tight).tick('prepare'))).toBeUndefined();
    const { phases } = judge(tight, build(tight).tick('prepare').events);
    expect(phases.map((state) => cameTo(tight, state)).filter((one) => one !== undefined)).toEqual([]);
  });

  test('a settling, by what was read in it: how far it went, and whether it still moves; nothing is noted and nothing judged by it', () => {
    const settling = (value: string) =>
      build(tight).proved().at(200).read('settle', 'start', '20.50').at(240).read('settle', 'between', value);
    const said = (value: string) => {
      const log = settling(value);
      const judgement = judge(tight, log.events);
      expect(judgement.reasons.map(({ code }) => code)).not.toContain('unheard');
      return lastCame(tight, judgement, log.events);
    };
    expect(said('20.48')).toBe('Stabilise: −0.02 mbar in 40 s');
    expect(said('20.10')).toBe('Stabilise: −0.40 mbar in 40 s: it still moves');
    const gone = settling('20.10');
    gone.write({ type: 'withdrawn', reading: gone.lastId, reason: 'Mistyped' });
    expect(lastCame(tight, judge(tight, gone.events), gone.events)).toMatch(/^Let-by/);
    // Read after its time it belongs to nothing, and is said to.
    const late = settling('20.48').at(400).read('settle', 'between', '20.40');
    expect(judge(tight, late.events).reasons.map(({ code }) => code)).toContain('unheard');
  });

  test('a look is told by what was answered', () =>
    expect(line(tight, upToHold(tight).held('20.50', '19.00').observe('rig', 'dry'))).toBe('Soap the rig: no bubbles on the rig'));
});

describe('a fall over the limit, while the hold runs', () => {
  const running = (plan: Plan, value: string) =>
    upToHold(plan).at(300).read('hold', 'start', '20.50').at(340).read('hold', 'between', value);
  const seen = (plan: Plan, value: string) => {
    const log = running(plan, value);
    return fallSoFar(plan, judge(plan, log.events), log.events, holdOf(plan, 'hold'));
  };

  test.each([
    [tight, '20.30', undefined],
    [tight, '20.25', '0.25'],
    [tight, '19.00', '1.50'],
    // What is permitted is no fall to be met; more than it is.
    [permitting, '16.50', undefined],
    [permitting, '16.49', '4.01'],
  ] as const)('case %#', (plan, value, fall) => expect(seen(plan, value)?.fall).toBe(fall));

  test('in one sentence, with the limit that it is over', () => {
    const [permitted, none] = [seen(permitting, '14.50'), seen(tight, '19.00')];
    if (permitted === undefined || none === undefined) throw new Error('no fall');
    expect(fallWords(permitted, holdOf(permitting, 'hold'))).toBe('Fallen 6.00 mbar in 40 s: more than the permitted 4.0 mbar.');
    expect(fallWords(none, holdOf(tight, 'hold'))).toBe('Fallen 1.50 mbar in 40 s: over the 0.25 mbar that counts.');
  });

  test('it decides nothing, and is gone with the reading that is withdrawn', () => {
    const log = running(tight, '19.00');
    expect(judge(tight, log.events).provisional).toBe('in progress');
    log.at(345).write({ type: 'withdrawn', reading: log.lastId, reason: 'Mistyped' });
    expect(fallSoFar(tight, judge(tight, log.events), log.events, holdOf(tight, 'hold'))).toBeUndefined();
  });
});

describe('where a start belongs', () => {
  test('in the gauge’s own figures; never to be raised where it is let down to', () => {
    const words = (plan: Plan, id: string) => bandWords(plan, judge(plan, []), holdOf(plan, id));
    expect(words(tight, 'hold')).toEqual({ say: 'Raise to', figures: '20–21' });
    expect(words(examplePlan('propane-vehicle'), 'settle')?.say).toBe('Let down to');
    expect(words(examplePlan('propane-vehicle'), 'lock-up')).toBeUndefined();
    // A level is raised to nothing: it stands where it was filled to.
    expect(words(examplePlan('drain-level-hold'), 'hold')).toBeUndefined();
  });

  test('no procedure tells anybody to raise what nothing may raise again', () => {
    const lowered = procedures.flatMap(({ id }) => {
      const plan = examplePlan(id);
      return plan.phases.flatMap((phase) => (phase.kind === 'hold' && phase.lowered === true ? [{ plan, phase }] : []));
    });
    expect(lowered.length).toBeGreaterThan(5);
    for (const { plan, phase } of lowered) expect(bandAdvice(plan, phase, '-1', false)).toMatch(/Feed nothing: wait/);
  });
});

describe('what a figure would do', () => {
  const words = (plan: Plan, log: LogBuilder, phase: string, role: 'start' | 'between' | 'end' | 'zero', value: string) => {
    log.write({ type: 'stamp', phase, round: 1, role });
    const stamp = log.events.at(-1) as EventOf<'stamp'>;
    const judgement = judge(plan, log.events);
    const own = plan.phases.find(({ id }) => id === phase);
    if (own === undefined) throw new Error('no phase');
    const state = judgement.phases.find(({ id }) => id === phase);
    return closingWords(plan, log.events, judgement, own, state, { role, quantity: 'pressure', instrument: plan.gauge }, stamp, value);
  };
  const running = () => upToHold(tight).at(300).read('hold', 'start', '20.50');

  test('an end closes its hold, with its movement', () =>
    expect(words(tight, running().at(425), 'hold', 'end', '20.30')).toMatch(
      /^From 20\.50 to 20\.30 mbar: fallen 0\.20 mbar.*This ends Hold, for good\.$/,
    ));

  test('a figure far from the last is shown back; one near it is not', () => {
    expect(words(tight, running().at(330), 'hold', 'between', '2.05')).toBe('2.05 mbar: far from the 20.50 that was read before.');
    expect(words(tight, running().at(330), 'hold', 'between', '20.45')).toBeUndefined();
    expect(words(oneDecimal, build(oneDecimal).tick('prepare'), 'zero', 'zero', '0.0')).toBeUndefined();
  });

  test('what is said is what the judge makes of it once it is written', () => {
    const log = running().at(425);
    const said = words(tight, log, 'hold', 'end', '19.00');
    log.read('hold', 'end', '19.00');
    expect(said).toContain('fallen 1.50 mbar');
    expect(lastCame(tight, judge(tight, log.events))).toContain('−1.50 mbar');
  });
});

describe('what a hold loses as it stands', () => {
  const hold = holdOf(tight, 'hold');
  const { litres } = tight.volume;
  const rate = (now: string, seconds: number, plan = tight) => rateSoFar(plan, holdOf(plan, 'hold'), '20.50', now, seconds);

  test('by the volume and the fall, in the plan’s unit; a step of the gauge is under what can be seen', () => {
    // V·Δp/(p_ref·t): by hand.
    const expected = (Number(litres) * 1 * 3600) / (1013.25 * 120);
    const said = rate('19.50', 120) ?? '';
    expect(said).toMatch(/^about [\d.]+ L\/h$/);
    expect(Number(/[\d.]+/.exec(said)?.[0])).toBeCloseTo(expected, 1);
    expect(rate('20.49', 120)).toMatch(/^under 0\.\d+ L\/h$/);
    expect(rate('20.60', 120)).toMatch(/^under/);
  });

  test('nothing in the first half minute, of a supply that stays open, or where the volume is not known', () => {
    expect(rate('19.50', 20)).toBeUndefined();
    expect(rateSoFar(tight, { ...hold, fed: true }, '20.50', '19.50', 120)).toBeUndefined();
    const unknown = { ...tight, sight: tight.sight.map((part) => ({ ...part, contents: { kind: 'unknown' as const } })) };
    expect(rateSoFar(unknown, hold, '20.50', '19.50', 120)).toBeUndefined();
  });

  test('of water that stands open, by its area', () => {
    const drain = examplePlan('drain-level-hold');
    const level = holdOf(drain, 'hold');
    const part = drain.sight.find(({ phase }) => phase === 'hold');
    if (part?.contents.kind !== 'level') throw new Error('no area');
    // 10 mm in ten minutes: cm² × 1 cm × 6 an hour.
    const litresPerHour = (Number(part.contents.squareCm) * 1 * 6) / 1000;
    const said = rateSoFar(drain, level, '200', '190', 600) ?? '';
    expect(Number(/[\d.]+/.exec(said)?.[0])).toBeCloseTo(part.unit === 'L/h' ? litresPerHour : litresPerHour / 3.785, 1);
  });
});
