import { sightSentences } from '../course/sight-words';
import { exampleInput } from '../planning/example-input';
import { type Plan, planTest } from '../planning/plan';
import { procedures } from '../procedures';
import { vehicleWater } from '../procedures/vehicle-water';
import { exampleEvents, examplePlan, planFor } from '../simulation/examples.fixture';
import type { Thermometer } from '../sizing/gauge';
import { sentenceOf } from './catalogue';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { sightAsHeld } from './sight';

/* What a test may claim to have seen, and how it might be made to claim more: left out, late, early, withdrawn, repeated, in other units. */

const clip: Thermometer = {
  id: 'clip',
  name: 'Pipe clip',
  kind: 'digital',
  unit: 'C',
  readability: '0.1',
  rangeLow: '-40',
  rangeHigh: '90',
  serial: 'C-1',
  simulated: false,
  calibration: { needed: true, last: '2026-01-01', due: '2027-01-01' },
};

function vehicle(thermometer?: Thermometer): Plan {
  const input = exampleInput(vehicleWater, '2026-11-20');
  const made = planTest({ ...input, weather: { thermometer }, gauge: { ...input.gauge, simulated: false } });
  if (!made.ok) throw new Error(made.problems.map(({ message }) => message).join(' '));
  return made.value.plan;
}

interface Figures {
  readonly startAt?: number;
  readonly start?: readonly [value: string, unit: 'C' | 'F'];
  readonly endAt?: number;
  readonly end?: readonly [value: string, unit: 'C' | 'F'];
}

/** Ten minutes at 50 psi by hand, with what was read of the pipe and when. */
function held(plan: Plan, { startAt = 62, start, endAt = 664, end }: Figures, last = '50.0'): LogBuilder {
  const log = new LogBuilder(plan).tick('prepare').tick('blow-out').read('zero', 'zero', '0.0', { unit: 'psi' });
  const acts: [number, () => unknown][] = [
    [60, () => log.read('hold', 'start', '50.0', { unit: 'psi' })],
    [662, () => log.read('hold', 'end', last, { unit: 'psi' })],
  ];
  if (start !== undefined) acts.push([startAt, () => log.figure('hold', 'start', 'temperature', ...start)]);
  if (end !== undefined) acts.push([endAt, () => log.figure('hold', 'end', 'temperature', ...end)]);
  for (const [at, act] of acts.sort(([one], [other]) => one - other)) {
    log.at(at);
    act();
  }
  return log.at(3000);
}

/** As the judge would have it were nothing else in the way: boundaries and dates are other tests' affair. */
function partOf(plan: Plan, log: LogBuilder) {
  const judgement = judge(plan, log.events);
  return sightAsHeld(plan, { ...judgement, verdict: 'pass' })[0];
}
const sureOf = (plan: Plan, log: LogBuilder): number => {
  const part = partOf(plan, log);
  expect(part?.told).toBe(true);
  return Number(part?.sure);
};

const told = (id: string, scenario: string) => {
  const plan = examplePlan(id);
  return sightAsHeld(plan, judge(plan, exampleEvents(plan, scenario))).map((part) => part.told);
};

describe('a part claims only what it was held to', () => {
  test.each(procedures.map(({ id }) => id))('%s: a sound test tells every part', (id) => {
    expect(told(id, 'sound')).toEqual(examplePlan(id).sight.map(() => true));
  });

  test.each([
    // Stage 1 falls: stage 2 is not reached. A control that leaks shows in stage 2, and stage 1 stands.
    ['gas-piping-psi', 'pipework-leak', [true, false]],
    ['gas-piping-psi', 'control-leak', [true, true]],
    // The valve lets by before anything is held.
    ['domestic-gas-millibar', 'let-by', [false, false]],
    ['domestic-gas-millibar', 'small-leak', [true, true]],
    // A shut supply that feeds the hold leaves it without an answer, though the test fails.
    ['propane-vehicle', 'valve-feeds', [false]],
    ['propane-tank-check', 'leak', [false, true]],
    ['gas-leak-rate', 'near-limit', [true]],
    ['gas-leak-rate', 'open-end', [false]],
    // No answer at all: a pipe that warmed, a rig that leaks, a gauge that was not zeroed or sticks.
    ['domestic-gas-millibar', 'warming', [false, false]],
    ['vehicle-water-air', 'rig-leak', [false]],
    ['water-main-make-up', 'unzeroed', [false]],
    ['refrigerant-nitrogen', 'sticky', [false, false]],
    ['duct-tightness', 'within-rig', [false]],
  ])('%s, %s', (id, scenario, parts) => {
    expect(told(id, scenario)).toEqual(parts);
  });

  test('a fail that comes from elsewhere makes nothing of a hold that rose', () => {
    const plan = planFor({});
    const log = new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', '20.50').at(291).read('hold', 'end', '21.10');
    const judgement = judge(plan, log.at(320).write({ type: 'smell', text: '' }).tick('smell-response').tick('make-safe').events);
    expect(judgement.verdict).toBe('fail');
    expect(sightAsHeld(plan, judgement).map((part) => part.told)).toEqual([false, false]);
  });

  test('a paper says so in place of the figures', () => {
    const plan = examplePlan('gas-piping-psi');
    const lines = sightSentences(sightAsHeld(plan, judge(plan, exampleEvents(plan, 'pipework-leak'))), plan.sightSays);
    expect(lines[0]).toMatch(/^In the piping up to the stops: sure of leaks above [\d.]+ L\/h; a smaller one may pass/);
    expect(lines[1]).toBe('In the controls, with the stops open: it was not tested to an answer, and nothing is claimed of it.');
  });
});

describe('a thermometer sharpens only what it was read for', () => {
  const named = vehicle(clip);
  const none = vehicle();
  const good = sureOf(named, held(named, { start: ['18.0', 'C'], end: ['18.0', 'C'] }));

  test('read at both ends it is sharper than no thermometer', () => {
    expect(good).toBeLessThan(sureOf(none, held(none, {})));
  });

  test.each<[string, Figures]>([
    ['left out', {}],
    ['left out at the end', { start: ['18.0', 'C'] }],
    ['the start typed five minutes late', { startAt: 360, start: ['18.0', 'C'], end: ['18.0', 'C'] }],
    ['the start typed with the end', { startAt: 660, start: ['18.0', 'C'], end: ['18.0', 'C'] }],
    ['the end typed twenty minutes late', { start: ['18.0', 'C'], endAt: 1900, end: ['18.0', 'C'] }],
  ])('%s: nothing is claimed', (_, figures) => {
    expect(partOf(named, held(named, figures))?.told).toBe(false);
  });

  test('degrees Fahrenheit are degrees Fahrenheit', () => {
    expect(sureOf(named, held(named, { start: ['64.4', 'F'], end: ['64.4', 'F'] }))).toBe(good);
    expect(sureOf(named, held(named, { start: ['18.0', 'C'], end: ['64.4', 'F'] }))).toBe(good);
    // Typed in the wrong unit it is a pipe that moved very far: no claim at all.
    const mixed = partOf(named, held(named, { start: ['18.0', 'C'], end: ['18.0', 'F'] }));
    expect(mixed?.told).toBe(false);
  });

  test('a temperature said again, or later, changes neither the claim nor the outcome', () => {
    const log = held(named, { start: ['18.0', 'C'], end: ['18.0', 'C'] }, '49.0');
    const before = [partOf(named, log)?.sure, partOf(named, log)?.told];
    for (const role of ['start', 'end'] as const) log.figure('hold', role, 'temperature', '22.0', 'C');
    expect([partOf(named, log)?.sure, partOf(named, log)?.told]).toEqual(before);
  });

  test('withdrawn while the hold is open it is not read; once the hold is closed the withdrawal is named, and only a new attempt helps', () => {
    const open = new LogBuilder(named).tick('prepare').tick('blow-out').read('zero', 'zero', '0.0', { unit: 'psi' });
    open.at(60).read('hold', 'start', '50.0', { unit: 'psi' }).at(62).figure('hold', 'start', 'temperature', '18.0', 'C');
    open.at(90).write({ type: 'withdrawn', reading: open.lastId, reason: 'Wrong pipe' });
    open.at(662).read('hold', 'end', '50.0', { unit: 'psi' }).at(664).figure('hold', 'end', 'temperature', '18.0', 'C').at(3000);
    expect(partOf(named, open.write({ type: 'note', text: 'Later' }))?.told).toBe(false);

    const closed = held(named, { start: ['18.0', 'C'], end: ['18.0', 'C'] });
    const temperature = closed.events.find((event) => event.type === 'reading' && event.quantity === 'temperature');
    closed.write({ type: 'withdrawn', reading: temperature?.id ?? '', reason: 'Wrong pipe' });
    expect(sureOf(named, closed)).toBe(good);
    expect(judge(named, closed.events).reasons.map(sentenceOf).join(' ')).toMatch(/withdraw/i);
  });

  test('overdue, it sharpens nothing', () => {
    const old = vehicle({ ...clip, calibration: { needed: true, last: '2025-01-01', due: '2026-01-01' } });
    const part = partOf(old, held(old, { start: ['18.0', 'C'], end: ['18.0', 'C'] }));
    expect(Number(part?.sure)).toBeGreaterThanOrEqual(sureOf(none, held(none, {})) - 1e-9);
  });

  test('where the pipe moved so far that its doubt hides the limit, nothing is claimed', () => {
    const moved = partOf(named, held(named, { start: ['24.0', 'C'], end: ['18.0', 'C'] }, '48.5'));
    expect(moved?.told).toBe(false);
  });
});

describe('time and watch count as they were', () => {
  const plan = planFor({});
  const sure = (holdS: number, watchS = 61) => {
    const log = new LogBuilder(plan).tick('prepare').read('zero', 'zero', '0.00');
    log
      .at(10)
      .read('let-by', 'start', '8.50')
      .at(10 + watchS)
      .read('let-by', 'end', '8.50');
    const from = 10 + watchS + 10;
    log
      .at(from)
      .read('settle', 'start', '20.50')
      .at(from + 70)
      .read('hold', 'start', '20.50');
    log.at(from + 70 + holdS).read('hold', 'end', '20.50');
    const judgement = judge(plan, log.events);
    expect(judgement.phases.find(({ id }) => id === 'hold')?.state).toBe('done');
    return Number(sightAsHeld(plan, judgement)[0]?.sure);
  };

  test('a longer hold sees a smaller leak, and so does a longer watch of the valve', () => {
    expect(sure(180)).toBeLessThan(sure(121));
    expect(sure(121, 120)).toBeLessThan(sure(121));
  });

  test('a round that was repeated counts by itself, not with the one before', () => {
    const log = new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', '20.50').at(500).read('hold', 'end', '21.10');
    // The pipe warmed in a long hold; the short one that follows is what clears it.
    log.at(520).write({ type: 'restart', phase: 'let-by', round: 2, reason: 'Repeat' });
    log.again('20.50');
    const judgement = judge(plan, log.events);
    expect(judgement.phases.find(({ id }) => id === 'hold')).toMatchObject({ round: 2, state: 'done', outcome: 'tight' });
    const part = sightAsHeld(plan, judgement)[0];
    expect(part?.told).toBe(true);
    expect(Number(part?.sure)).toBe(sure(121));
  });
});
