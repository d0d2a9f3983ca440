import fc from 'fast-check';
import { canonical } from '../exact/canonical';
import { judge } from '../judging/judge';
import { planText } from '../library/plan-text';
import { inputOf, planTest } from '../planning/plan';
import { fromSi, toSi, type Unit, unitsOf } from '../quantities';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import { procedures } from '.';
import { isConclusion } from './conclusions';
import { isAsked, type Procedure } from './procedure';

/* What every procedure of the library must keep to. */

/** Every combination of a procedure's choices, with the answers that a choice then needs. */
function combinations({ parameters, example }: Procedure): readonly Readonly<Record<string, string>>[] {
  let all: Record<string, string>[] = [{ ...example.answers }];
  for (const parameter of parameters)
    if (parameter.kind === 'choice')
      all = all.flatMap((answers) => parameter.options.map(({ value }) => ({ ...answers, [parameter.id]: value })));
  return all.map((answers) => ({ criterion: 'Letter of 5 January', 'own-limit': '20', ...answers }));
}

describe.each(procedures.map((procedure) => [procedure.id, procedure] as const))('%s', (id, procedure) => {
  test('every combination of its choices is refused with a code and a sentence, or gives a course that holds together', () => {
    for (const answers of combinations(procedure)) {
      const planned = planTest(exampleFor(id, { answers, pipes: procedure.example.pipes }));
      if (!planned.ok) {
        for (const problem of planned.problems) expect(problem.code.length > 0 && /[a-z].*\.$/s.test(problem.message)).toBe(true);
        continue;
      }
      const { plan } = planned.value;
      const ids = plan.phases.map((phase) => phase.id);
      expect(new Set(ids).size).toBe(ids.length);
      expect(ids).toContain(plan.judgedBy);
      for (const condition of [...plan.phases.flatMap(({ when }) => when.flat()), ...plan.conclusions.flatMap(({ when }) => when.flat())])
        if ('phase' in condition) expect(ids).toContain(condition.phase);
      for (const phase of plan.phases) {
        for (const caution of phase.cautions) expect(plan.cautions[caution]).toBeDefined();
        if (phase.kind === 'hold' || phase.kind === 'measure') expect(ids).toContain(phase.restartFrom);
        if (phase.kind === 'hold') expect(Number(phase.band.low)).toBeLessThanOrEqual(Number(phase.band.high));
      }
      for (const { reason, about } of plan.conclusions) {
        expect(isConclusion(reason)).toBe(true);
        if (about !== undefined) expect(ids).toContain(about);
      }
      for (const boundary of plan.boundaries)
        if (boundary.provedBy === undefined)
          expect(plan.phases.some((phase) => phase.kind === 'check' && phase.items.some((item) => item.boundary === boundary.id))).toBe(
            true,
          );
      expect(plan.phases.some((phase) => phase.kind === 'check' && phase.closing)).toBe(true);
    }
  });

  test('planning its own input again gives the same plan; its sheet keeps to 92 letters a line', () => {
    const plan = examplePlan(id);
    const again = planTest(inputOf(plan, '2026-01-05'));
    expect(again.ok && again.value.plan.hash).toBe(plan.hash);
    if (again.ok) for (const line of planText(procedure, again.value).split('\n')) expect(line.length).toBeLessThanOrEqual(92);
  });

  test('a quantity typed in any unit gives figures that can be written down exactly, or is refused for what it says', () => {
    const asked = procedure.parameters.filter((parameter) => parameter.kind === 'quantity');
    if (asked.length === 0) return;
    const typed = fc
      .tuple(fc.constantFrom(...asked), fc.double({ min: 0, max: 1, noNaN: true }), fc.nat())
      .map(([{ id: parameter, quantity, unit, least, most }, share, pick]) => {
        const units = unitsOf(quantity);
        const other = units[pick % units.length] as Unit;
        const value = Number(least) + share * (Number(most) - Number(least));
        return { parameter, text: `${Number(fromSi(toSi(value, unit), other).toPrecision(6))} ${other}` };
      });
    fc.assert(
      fc.property(typed, ({ parameter, text }) => {
        const planned = planTest(exampleFor(id, { answers: { [parameter]: text } }));
        expect(planned.ok ? [] : planned.problems.filter(({ code }) => code === 'plan-unreadable')).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  test('each quantity is refused outside its bounds, in the unit that was typed, and each choice that there is not', () => {
    for (const parameter of procedure.parameters) {
      if (!isAsked(procedure, parameter, exampleFor(id).answers)) continue;
      if (parameter.kind === 'choice')
        expect(exampleProblems(id, { answers: { [parameter.id]: 'something else' } })).toContain('answer-unknown');
      if (parameter.kind !== 'quantity') continue;
      const code = (wrong: string) => exampleProblems(id, { answers: { [parameter.id]: wrong } });
      const beyond = Number(parameter.most) * 1.01 + 1;
      expect(code(String(parameter.quantity === 'count' ? Math.ceil(beyond) : beyond))).toContain('out-of-range');
      expect(code('x')).toContain('not-a-number');
      expect(code('1 parsec')).toContain('unit-unknown');
      if (parameter.optional !== true) expect(code('')).toContain('answer-missing');
    }
  });

  test('nothing that can be typed makes planning throw: a plan, or problems with their codes', () => {
    const typed = fc.oneof(
      fc.string({ maxLength: 10 }),
      fc.constantFrom('', '0', '-1', '7 1/2', '3 psi', '5 °C', '1e9', 'Valve 3bar -2m', '1000 h'),
    );
    const answers = fc.record(
      Object.fromEntries(
        procedure.parameters.map((parameter) => [
          parameter.id,
          fc.oneof(
            fc.constant(exampleFor(id).answers[parameter.id]),
            parameter.kind === 'choice' ? fc.constantFrom(...parameter.options.map(({ value }) => value)) : typed,
          ),
        ]),
      ),
    );
    fc.assert(
      fc.property(answers, typed, (given, pipes) => {
        const planned = planTest(exampleFor(id, { answers: given as Record<string, string>, ...(pipes.length > 3 ? { pipes } : {}) }));
        return planned.ok || planned.problems.every(({ code, message }) => code !== '' && message !== '');
      }),
      { numRuns: 300 },
    );
  });

  test('a house rule looser than the rule, without its reference or beyond sense is refused for every figure', () => {
    for (const figure of procedure.figures) {
      const value = Number(figure.value);
      const rule = (changed: string, reference = 'House 1') =>
        exampleProblems(id, { houseRules: [{ procedure: id, figure: figure.id, value: changed, reference }] });
      const looser = figure.stricter === 'higher' ? value * 0.9 : value * 1.1;
      // Times are counted: the next looser one is a whole one more, or less.
      const counted = ['s', 'days', 'years'].includes(figure.unit);
      const next = figure.stricter === 'higher' ? Math.ceil(looser) - 1 : Math.ceil(looser) + 1;
      expect(rule(counted ? String(next) : looser.toFixed(4))).toContain('house-rule-looser');
      expect(rule(figure.value, ' ')).toContain('house-rule-reference');
      if (figure.bound !== undefined)
        expect(rule(String(figure.stricter === 'higher' ? Number(figure.bound) * 10 : 0))).toContain('house-rule-senseless');
    }
  });

  const plan = examplePlan(id);
  const sound = exampleEvents(plan, 'sound');
  // A test that can only find a leak, and never clear a line, ends as inconclusive on a sound one.
  const best = plan.conclusions.some(({ verdict }) => verdict === 'pass') ? 'pass' : 'inconclusive';

  test('no part of a sound log is a pass, only the whole', () => {
    for (let count = 0; count < sound.length; count += 1) expect(judge(plan, sound.slice(0, count)).verdict).toBe('in progress');
    expect(judge(plan, sound).verdict).toBe(best);
  });

  test('its guide says where it ends, what it tells and cannot tell, and what to do on each outcome', () => {
    const { scope, tells, cannotTell, outcomes } = procedure.guide;
    for (const list of [scope, tells, cannotTell]) expect(list.length).toBeGreaterThan(0);
    expect(outcomes.length).toBeGreaterThan(1);
    for (const { on, act } of outcomes) expect(on !== '' && act.endsWith('.')).toBe(true);
    const asked = procedure.parameters.map(({ id }) => id);
    for (const { each } of procedure.evidence) expect(each === undefined || asked.includes(each.answer)).toBe(true);
    expect(procedure.kit.length > 2 && procedure.evidence.length > 0 && procedure.tasks.length > 2).toBe(true);
  });

  test('it has a plant with a sound state and faults of its own, and tells its figures’ bounds', () => {
    const ids = procedure.plant.scenarios.map((scenario) => scenario.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids[0]).toBe('sound');
    expect(ids.length).toBeGreaterThan(2);
    for (const figure of procedure.figures) expect(Number.isFinite(Number(figure.value))).toBe(true);
  });

  test('leaving out any one pressure, flow or volume reading or check of a sound log never gives a pass', () => {
    for (const [index, event] of sound.entries()) {
      const decides =
        event.type === 'check' ||
        (event.type === 'reading' && event.role !== 'between' && event.quantity !== 'temperature' && event.quantity !== 'barometer');
      if (!decides) continue;
      expect(
        judge(
          plan,
          sound.filter((_, place) => place !== index),
        ).verdict,
      ).not.toMatch(/^pass/);
    }
  });

  test('the order in which events are handed in changes nothing', () => {
    const logs = scenariosFor(plan).map((scenario) => exampleEvents(plan, scenario.id));
    fc.assert(
      fc.property(fc.constantFrom(...logs), fc.infiniteStream(fc.nat()), (events, keys) => {
        const shuffled = events
          .map((event) => ({ event, key: keys.next().value ?? 0 }))
          .sort((a, b) => a.key - b.key)
          .map(({ event }) => event);
        return canonical(judge(plan, shuffled)) === canonical(judge(plan, events));
      }),
      { numRuns: 25 },
    );
  });

  test('whatever else gets into a log, the judge does not throw and answers canonically', () => {
    const failing = exampleEvents(plan, scenariosFor(plan)[1].id);
    const odd = fc.record({
      at: fc.nat({ max: failing.length - 1 }),
      change: fc.oneof(
        fc.record({ quantity: fc.constantFrom('pressure', 'temperature', 'barometer', 'flow', 'volume', 'level', 'turns') }),
        fc.record({ value: fc.constantFrom('', '1e9', '-3', '0', '0.00', '9999999', '12,5', '3.25') }),
        fc.record({ unit: fc.constantFrom('psi', 'Pa', 'C', 'CFM', 'galUS', 'mm', 'turn', 'hPa') }),
        fc.record({ role: fc.constantFrom('zero', 'between', 'point') }),
        fc.record({ point: fc.constantFrom('p1', 'p9', 'drawn', '') }),
        fc.record({ round: fc.integer({ min: 0, max: 4 }) }),
        fc.record({ qualifier: fc.constant('below range') }),
        fc.record({ phase: fc.constantFrom(...plan.phases.map((phase) => phase.id), 'nowhere') }),
      ),
    });
    fc.assert(
      fc.property(fc.array(odd, { minLength: 1, maxLength: 8 }), (oddities) => {
        const events = [...failing];
        for (const { at, change } of oddities) events[at] = { ...events[at], ...change } as (typeof events)[number];
        const judged = judge(plan, events);
        return canonical(judged).length > 0;
      }),
      { numRuns: 80 },
    );
  });

  test('an overdue instrument, gauge or other, makes it invalid', () => {
    const overdue = { needed: true, last: '2020-01-01', due: '2021-01-01' } as const;
    const input = exampleFor(id);
    const invalid = (change: Parameters<typeof examplePlan>[1]) => {
      const changed = examplePlan(id, change);
      return judge(changed, exampleEvents(changed, 'sound')).verdict;
    };
    if (procedure.noGauge !== true) expect(invalid({ gauge: { ...input.gauge, calibration: overdue } })).toBe('invalid');
    // A role that this course does not ask for is not part of the plan.
    for (const [role, instrument] of Object.entries(plan.instruments ?? {}))
      expect(invalid({ instruments: { ...input.instruments, [role]: { ...instrument, calibration: overdue } } })).toBe('invalid');
  });
});

test.each(procedures.flatMap(({ id, breaches = [] }) => breaches.map(([answers, code]) => [id, answers, code] as const)))(
  '%s refuses %j: %s, and says what to do',
  (id, answers, code) => {
    const planned = planTest(exampleFor(id, { answers }));
    expect(planned.ok ? [] : planned.problems.map((problem) => problem.code)).toContain(code);
    if (!planned.ok) for (const { message, field } of planned.problems) expect(message.length > 25 && field !== undefined).toBe(true);
  },
);
