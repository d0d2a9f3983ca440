import fc from 'fast-check';
import { procedureById } from '../procedures';
import { riseItems, riseSteps } from '../procedures/stepped-rise';
import { exampleFor, planFor } from '../simulation/examples.fixture';
import { changesInWords, compareAppliances } from '../sizing/appliances';
import { type GuardReading, guardState } from '../sizing/guard-gauge';
import { lineGroups, parseTrial, parseTrials } from '../sizing/line-groups';
import { measuredLine, measuredSteps } from '../sizing/measured-line';
import { parseVolume } from '../sizing/pipe-volume';
import { parseOpenings, plugsFor } from '../sizing/plugs';
import { suitsRegulator } from '../sizing/regulator';
import { serviceTimes } from '../sizing/serviceability';
import { isSoft, softnessOf } from '../sizing/water-hold';
import { planTest } from './plan';
import { alarmsOf, type DayTest, sideBySide } from './side-by-side';

const value = <T>(
  result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: { readonly message: string } },
): T => {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};

describe('line groups from trials (DOMAIN 5.14)', () => {
  const groups = (text: string) => lineGroups(parseTrials(text).trials);
  test('what answers a trial hangs on the same pipe, also through a third', () => {
    expect(groups('Return 1: Return 2\nSkimmer 1: nothing\nReturn 3: Return 2')).toEqual([
      ['Return 1', 'Return 2', 'Return 3'],
      ['Skimmer 1'],
    ]);
    expect(groups('A: B\nC: D\nB: c')).toEqual([['A', 'B', 'C', 'D']]);
    expect(groups('')).toEqual([]);
  });
  test('whatever the trials, no opening is in two groups, and none is lost', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(8), fc.array(fc.nat(8), { maxLength: 3 })), { maxLength: 8 }), (trials) => {
        const named = trials.map(([at, answered]) => ({ at: `o${at}`, answered: answered.map((one) => `o${one}`) }));
        const flat = lineGroups(named).flat();
        const all = new Set(named.flatMap(({ at, answered }) => [at, ...answered]));
        return flat.length === all.size && flat.every((one) => all.has(one));
      }),
    ));
  test('a line without its colon is refused, with an example', () => {
    expect(parseTrial('Return 1 Return 2')).toMatchObject({ ok: false, problem: { code: 'trial-line' } });
    expect(parseTrial(': Return')).toMatchObject({ ok: false, problem: { code: 'trial-line' } });
    expect(parseTrials('A: B\nC').problems[0].message).toContain('Line 2: “C” is not a trial. Write where');
  });
});

describe('plugs for a line of n openings (DOMAIN 5.14)', () => {
  test.each([
    ['Equipment end', 0],
    ['Equipment end\nReturn 1', 1],
    ['Equipment end\nReturn 1\nReturn 2\nReturn 3\nBlower valve', 3],
  ])('%j: one open, and %d closed; a proved valve takes none', (text, closed) => {
    const plugs = value(plugsFor(parseOpenings(text).openings));
    expect([plugs.open.name, plugs.closed.length]).toEqual(['Equipment end', closed]);
  });
  test('the kind by the opening', () =>
    expect(parseOpenings('Return 1\nReturn 2 hook\nSkimmer 1\nDrain curved').openings.map(({ kind }) => kind)).toEqual([
      'standard',
      'hook',
      'long',
      'inflatable',
    ]));
  test('no opening, a nameless one and one named twice are refused', () => {
    expect(plugsFor([])).toMatchObject({ ok: false, problem: { code: 'openings-few' } });
    expect(parseOpenings('Return 1\nReturn 2 hook\nDrain inflatable\nReturn 4 valve').openings.map(({ place }) => place)).toEqual([
      'Return 1',
      'Return 2',
      'Drain',
      'Return 4',
    ]);
    expect(parseOpenings('Return 1\n2\nreturn 1').problems.map(({ code }) => code)).toEqual(['opening-line', 'opening-twice']);
  });
});

describe('regulator (DOMAIN 3.10): reaches the pressure, and goes no further than about twice', () => {
  test.each([
    [30, 30.3, 'short'],
    [30.3, 30.3, 'suits'],
    [60.6, 30.3, 'suits'],
    [61, 30.3, 'coarse'],
  ])('to %d for %d bar: %s', (outlet, highest, expected) => {
    const found = suitsRegulator(outlet, highest, 'bar');
    expect(found.ok ? (found.value.advice === undefined ? 'suits' : 'coarse') : 'short').toBe(expected);
  });
});

describe('stepped rise', () => {
  const stops = (first: number | undefined, step: number, target: number) =>
    value(riseSteps({ ...(first === undefined ? {} : { first }), step, target, pauseSeconds: 10, decimals: 1 })).map(
      ({ pressure }) => pressure,
    );
  test('pool lines: 5, 10, 15 and the target; nitrogen: 1 bar first', () => {
    expect(stops(undefined, 5, 17.5)).toEqual(['5.0', '10.0', '15.0', '17.5']);
    expect(stops(1, 5, 16.3)).toEqual(['1.0', '6.0', '11.0', '16.3']);
    expect(stops(1, 5, 0.8)).toEqual(['0.8']);
  });
  test('it ends at its target, rises all the way, and no stride is longer than the step and a fifth', () =>
    fc.assert(
      fc.property(fc.double({ min: 1, max: 20, noNaN: true }), fc.double({ min: 1, max: 60, noNaN: true }), (step, target) => {
        const found = riseSteps({ step, target, pauseSeconds: 10, decimals: 3 });
        if (!found.ok) return target / step > 40;
        const all = [0, ...found.value.map(({ pressure }) => Number(pressure))];
        return (
          Math.abs(all[all.length - 1] - target) < 1e-3 &&
          all.slice(1).every((one, index) => one > all[index] && one - all[index] <= step * 1.2 + 1e-3)
        );
      }),
    ));
  test('a step of nothing and a hundred of them are refused; the items say what to look at and for how long', () => {
    expect(riseSteps({ step: 0, target: 5, pauseSeconds: 10, decimals: 1 })).toMatchObject({ ok: false });
    expect(riseSteps({ step: 0.1, target: 50, pauseSeconds: 10, decimals: 1 })).toMatchObject({
      ok: false,
      problem: { code: 'rise-steps' },
    });
    const items = riseItems(value(riseSteps({ step: 5, target: 10, pauseSeconds: 10, decimals: 0 })), 'psi', {
      prefix: 'rise',
      atFirst: 'every joint is made',
      atEach: 'nothing moves',
    });
    expect(items.map(({ id, to }) => [id, to])).toEqual([
      ['rise-1', '5'],
      ['rise-2', '10'],
    ]);
    expect(items[0].text).toContain('paused 10 s: every joint is made');
  });
});

describe('serviceability times (DOMAIN 5.6)', () => {
  const minutes = (work: 'existing' | 'new', litres: number, stepPa = 1) => {
    const times = value(serviceTimes(work, { litres: litres + 0.1, systemLitres: litres }, stepPa));
    return [times.settleSeconds / 60, times.holdSeconds / 60];
  };
  test.each([
    ['existing', 99.9, [10, 5]],
    ['existing', 100, [30, 10]],
    ['existing', 200, [30, 10]],
    ['existing', 200.1, [60, 15]],
    ['new', 99, [10, 10]],
    ['new', 150, [30, 20]],
    ['new', 300, [60, 30]],
  ] as const)('%s, %d L: %j min', (work, litres, expected) => expect(minutes(work, litres)).toEqual(expected));
  test('a coarse gauge lengthens the hold until a tenth of a litre an hour shows', () => {
    // 60 L × 10 Pa / (101 325 Pa × 0.1 L/h) = 213 s; × 100 Pa = 35.5 min.
    expect(minutes('existing', 60, 10)).toEqual([10, 5]);
    expect(minutes('existing', 60, 100)).toEqual([10, 36]);
  });
});

test('an appliance swapped since the last visit is flagged, whatever the case and spaces', () => {
  const changes = compareAppliances('Cooker A1\nheater  B2\nHeater B2', 'COOKER a1\nHeater B2\nBoiler C3');
  expect(changes).toEqual({ added: ['Boiler C3'], gone: ['Heater B2'] });
  expect(changesInWords(changes).join(' ')).toMatch(/New since the last visit: Boiler C3.*must be capped/);
  expect(changesInWords(compareAppliances('A', 'a'))).toEqual([]);
});

describe('measured volume, the other way round (DOMAIN 3.4)', () => {
  test('V = v·p_ref/Δp: 0.6 L that raise it by 20 mbar are 30.4 L', () =>
    expect(value(parseVolume('0,6 L at 20 mbar'))).toEqual({ litres: expect.closeTo(30.3975, 4), measured: true }));
  test('step by step, by the gauge before and after; the unit may stand at either end', () => {
    expect(value(parseVolume('0.6 L from 1.5 to 21.5 mbar')).litres).toBeCloseTo(30.3975, 4);
    expect(value(parseVolume('0.6 L from 1.5 mbar to 21.5')).litres).toBeCloseTo(30.3975, 4);
    // 0.5 ft³ that raise it by 2 psi: 14.158 L × 14.696 / 2.
    expect(value(parseVolume('0.5 ft3 from 3 to 5 psi')).litres).toBeCloseTo(104.04, 1);
  });
  test.each([
    ['0.6 L from 1.5 to', /the gauge after is still to be typed/],
    ['from 1 to 2 mbar', /what was let in is still/],
    ['0.6 L from 21 to 1 mbar', /stand higher/],
    ['0.6 L from 1 psi to 21 mbar', /in one unit/],
  ])('“%s” says what is missing or wrong', (text, says) =>
    expect(parseVolume(text)).toMatchObject({ ok: false, problem: { field: 'volume', message: expect.stringMatching(says) } }),
  );
  test('its steps come back as they were typed', () =>
    fc.assert(
      fc.property(fc.stringMatching(/^[0-9.,]{0,6}( L)?$/), fc.stringMatching(/^[0-9.,]{0,6}$/), (letIn, figure) => {
        const steps = { letIn: letIn.trim(), before: figure, after: `${figure} mbar`.trim() };
        expect(measuredSteps(measuredLine(steps))).toEqual(steps);
      }),
    ));
  test('what water fills is not measured by gas', () =>
    expect(planTest(exampleFor('water-isolation-hold', { pipes: '', statedVolume: '0.6 L at 20 mbar' }))).toMatchObject({
      ok: false,
      problems: [{ code: 'volume-not-gas', field: 'volume' }],
    }));
  test('the rig and the meter are in what was let in, and are not added again', () => {
    const plan = planFor({ pipes: '', statedVolume: '0.6 L at 20 mbar' });
    expect(plan.volume).toMatchObject({ litres: '30.40', how: 'measured' });
    expect(planFor({ pipes: '', statedVolume: '20 L' }).volume).toMatchObject({ litres: '28.10', how: 'stated' });
  });
  test('one that is too large is told its bound in its own unit, and that it is no volume is not said', () =>
    expect(parseVolume('40000 ft3')).toMatchObject({
      problem: { message: expect.stringMatching(/“40000 ft3”: a volume must be above zero and at most 35314\.7 ft³/) },
    }));
  test.each(['0.6 L at', 'at 20 mbar', '0.6 L at 0 mbar', '0.6 kg at 20 mbar'])('“%s” is refused at its field', (text) =>
    expect(parseVolume(text)).toMatchObject({ ok: false, problem: { field: 'volume' } }),
  );
});

test('pipe that gives way is known by its softness (DOMAIN 3.7)', () => {
  expect(softnessOf('PEX')).toBeCloseTo(1 / 0.0956, 0);
  expect([isSoft('PEX'), isSoft('multilayer'), isSoft('copper'), isSoft('stone')]).toEqual([true, true, false, false]);
});

describe('side by side: 5.7 with 5.8', () => {
  const of = (id: string): DayTest => {
    const { title, tasks } = procedureById(id) as { title: string; tasks: DayTest['tasks'] };
    return { id, title, tasks };
  };
  const day = sideBySide([of('water-isolation-hold'), of('drain-level-hold')]);
  const at = (task: string) => day?.tasks.find((one) => one.task === task);

  test('together they take less than one after the other, and one person’s hands are in one place', () => {
    expect(day?.minutes).toBeLessThan(day?.oneByOne ?? 0);
    const busy = [...(day?.tasks ?? [])].sort((a, b) => a.startMinute - b.startMinute);
    for (const [index, one] of busy.slice(1).entries()) expect(one.startMinute).toBeGreaterThanOrEqual(busy[index].freeMinute);
  });
  test('the drain is filled before the supply is shut, and never while it is', () => {
    const fill = at('Fill to slab level, hose off');
    const shut = at('Shut, bleed, read');
    expect(fill?.freeMinute).toBeLessThanOrEqual(shut?.startMinute ?? -1);
    const on = (day?.tasks ?? []).filter(({ supply }) => supply?.state === 'on');
    expect(on.length).toBeGreaterThan(2);
    for (const one of on)
      expect(one.freeMinute <= (shut?.startMinute ?? 0) || one.startMinute >= (shut?.endMinute ?? Number.POSITIVE_INFINITY)).toBe(true);
  });
  test('each hold has its alarm, in order', () => {
    const alarms = day === undefined ? [] : alarmsOf(day);
    expect(alarms.length).toBeGreaterThan(1);
    expect(alarms.map(({ minute }) => minute)).toEqual(alarms.map(({ minute }) => minute).sort((a, b) => a - b));
  });
  test('nothing to do is an empty day', () => expect(sideBySide([])).toMatchObject({ tasks: [], minutes: 0 }));
});

describe('guard gauge (DOMAIN 5.10)', () => {
  const look = (now: number, more: Partial<GuardReading> = {}) =>
    value(
      guardState({
        pipe: 'copper',
        unit: 'bar',
        left: { pressure: 2 },
        now: { pressure: now },
        relaxingShare: 30,
        alarmShare: 10,
        ...more,
      }),
    );
  test('a fall of ten hundredths is no alarm, more is', () => {
    expect(look(1.8)).toMatchObject({ alarm: false, beyondShare: 10 });
    expect(look(1.79)).toMatchObject({ alarm: true, sentence: expect.stringContaining('damage') });
    expect(look(2.4).alarm).toBe(false);
  });
  test('soft pipe may relax first', () => {
    expect(look(1.3, { pipe: 'PEX' }).alarm).toBe(false);
    expect(look(1.19, { pipe: 'PEX' }).alarm).toBe(true);
  });
  test('cooling explains a fall on rigid pipe, and warming makes the same reading an alarm', () => {
    const celsius = (left: number, now: number) => ({ left: { pressure: 2, celsius: left }, now: { pressure: 1.6, celsius: now } });
    expect(look(0, celsius(20, 15)).alarm).toBe(false);
    expect(look(0, celsius(15, 20)).alarm).toBe(true);
    expect(look(0, { now: { pressure: 1.6 } }).alarm).toBe(true);
  });
  test('figures that cannot be are refused', () => {
    const guard: GuardReading = {
      pipe: 'copper',
      unit: 'bar',
      left: { pressure: 0 },
      now: { pressure: 1 },
      relaxingShare: 30,
      alarmShare: 10,
    };
    expect(guardState(guard)).toMatchObject({ ok: false, problem: { code: 'guard-figures' } });
    expect(guardState({ ...guard, left: { pressure: 2 }, alarmShare: 0 })).toMatchObject({ ok: false, problem: { code: 'guard-figures' } });
  });
});
