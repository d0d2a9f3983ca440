import fc from 'fast-check';
import { judge } from '../judging/judge';
import { isReason } from '../judging/reasons';
import { inputOf, planTest } from '../planning/plan';
import { planText } from '../planning/plan-text';
import { canonical } from '../record/canonical';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../simulation/fixtures';
import { scenariosFor } from '../simulation/plants';
import { procedures } from '.';
import { isAsked, type Procedure } from './procedure';

/* What every procedure of the library must keep to, and what a good technician would conclude from its simulated faults. */

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
        expect(isReason(reason)).toBe(true);
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

  test('each quantity is refused outside its bounds, in the unit that was typed, and each choice that there is not', () => {
    for (const parameter of procedure.parameters) {
      if (!isAsked(procedure, parameter, exampleFor(id).answers)) continue;
      if (parameter.kind === 'choice')
        expect(exampleProblems(id, { answers: { [parameter.id]: 'something else' } })).toContain('answer-unknown');
      if (parameter.kind !== 'quantity') continue;
      const code = (wrong: string) => exampleProblems(id, { answers: { [parameter.id]: wrong } });
      expect(code(String(Number(parameter.most) * 1.01 + 1))).toContain('out-of-range');
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
      expect(rule(figure.unit === 's' ? String(Math.trunc(looser)) : looser.toFixed(4))).toContain('house-rule-looser');
      expect(rule(figure.value, ' ')).toContain('house-rule-reference');
      if (figure.bound !== undefined)
        expect(rule(String(figure.stricter === 'higher' ? Number(figure.bound) * 10 : 0))).toContain('house-rule-senseless');
    }
  });

  const plan = examplePlan(id);
  const sound = exampleEvents(plan, 'sound');

  test('no part of a sound log is a pass, only the whole', () => {
    for (let count = 0; count < sound.length; count += 1) expect(judge(plan, sound.slice(0, count)).verdict).toBe('in progress');
    expect(judge(plan, sound).verdict).toBe('pass');
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
    expect(invalid({ gauge: { ...input.gauge, calibration: overdue } })).toBe('invalid');
    for (const [role, instrument] of Object.entries(input.instruments ?? {}))
      expect(invalid({ instruments: { ...input.instruments, [role]: { ...instrument, calibration: overdue } } })).toBe('invalid');
  });
});

describe('what a good technician concludes', () => {
  test.each([
    ['gas-piping-psi', 'sound', 'pass', 'tight-both-stages'],
    ['gas-piping-psi', 'pipework-leak', 'fail', 'fall'],
    ['gas-piping-psi', 'control-leak', 'fail', 'controls-fall'],
    ['gas-piping-psi', 'rig-leak', 'inconclusive', 'rig-leaks'],
    ['gas-piping-psi', 'hidden-by-warming', 'fail', 'corrected-fall'],
    ['gas-piping-psi', 'cooling', 'inconclusive', 'correction-unsure'],
    ['gas-piping-psi', 'weather', 'fail', 'corrected-fall'],
    ['gas-piping-psi', 'sticky', 'invalid', 'not-zeroed'],
    ['gas-piping-psi', 'gross-leak', 'fail', 'pressure-not-reached'],
    ['gas-piping-psi', 'unzeroed', 'invalid', 'not-zeroed'],
    ['water-main-make-up', 'sound', 'pass', 'make-up-within'],
    ['water-main-make-up', 'leak', 'fail', 'make-up-over'],
    ['water-main-make-up', 'trapped-air', 'fail', 'make-up-over'],
    ['water-main-make-up', 'seen', 'fail', 'leak-on-walk'],
    ['water-main-make-up', 'open-end', 'fail', 'pressure-not-reached'],
    ['water-main-make-up', 'unzeroed', 'invalid', 'not-zeroed'],
    ['duct-tightness', 'unzeroed', 'invalid', 'not-zeroed'],
    ['duct-tightness', 'sound', 'pass', 'duct-within'],
    ['duct-tightness', 'leaky', 'fail', 'duct-over'],
    ['duct-tightness', 'within-rig', 'inconclusive', 'duct-within-rig'],
    ['duct-tightness', 'hose-off', 'invalid', 'exponent-impossible'],
    ['duct-tightness', 'taped-register', 'invalid', 'exponent-impossible'],
    ['duct-tightness', 'below-range', 'inconclusive', 'flow-below-range'],
  ])('%s, %s: %s (%s), at five seeds', (id, fault, verdict, code) => {
    const plan = examplePlan(id);
    for (let seed = 1; seed <= 5; seed += 1) {
      const judgement = judge(plan, exampleEvents(plan, fault, seed));
      expect([judgement.verdict, judgement.reasons.map((reason) => reason.code)]).toEqual([verdict, expect.arrayContaining([code])]);
    }
  });

  test('every fault that a plant knows is in a table of its procedure', () => {
    for (const procedure of procedures.filter(({ plant }) => plant !== 'gas'))
      expect(scenariosFor(procedure).length).toBeGreaterThanOrEqual(5);
  });
});

describe('gas piping, psi school (DOMAIN 5.3)', () => {
  const seconds = (change: Parameters<typeof examplePlan>[1], phase = 'hold') => {
    const found = examplePlan('gas-piping-psi', change).phases.find(({ id }) => id === phase);
    return found?.kind === 'hold' ? found.seconds : undefined;
  };
  const litres = (feet: number) => (feet * 28.316846592 - 0.1).toFixed(4);
  const volume = (feet: number) => ({ pipes: '', statedVolume: `${litres(feet)} L` });

  test.each([
    [2, 1800],
    [499.9, 1800],
    [500, 1800],
    [500.1, 3600],
    [1000.1, 5400],
    [30_000, 86_400],
  ])('%d ft³ hold for %d s: half an hour for each 500 ft³ begun, to a day', (feet, expected) =>
    expect(seconds(volume(feet))).toBe(expected),
  );

  test('ten minutes only with a code reference, for a single dwelling or under 10 ft³, and never under a house rule', () => {
    const code = { 'short-code': 'City code 4.2' };
    expect(seconds({ ...volume(9.9), answers: code })).toBe(600);
    expect(seconds({ ...volume(60), answers: { ...code, building: 'single dwelling' } })).toBe(600);
    expect(exampleProblems('gas-piping-psi', { ...volume(10.1), answers: code })).toEqual(['short-not-allowed']);
    const houseRules = [{ procedure: 'gas-piping-psi', figure: 'floor-seconds', value: '3600', reference: 'House 1' }];
    expect(seconds({ ...volume(9.9), answers: code, houseRules })).toBe(3600);
    expect(seconds({ ...volume(9.9), houseRules })).toBe(3600);
  });

  test('a leak of concern and what was asked for lengthen the hold; over a day is refused', () => {
    // 37.15 L × (0.05 psi + 0.5 K) / (p_ref × 0.2 L/h): 1.02 h.
    expect(seconds({ answers: { concern: '0.2' } })).toBe(62 * 60);
    expect(seconds({ answers: { asked: '90 min' } })).toBe(5400);
    expect(exampleProblems('gas-piping-psi', { answers: { concern: '0.002' } })).toEqual(['hold-over-a-day']);
  });

  test('a hold asked for under what is due is refused, not passed over', () => {
    expect(exampleProblems('gas-piping-psi', { answers: { asked: '29 min' } })).toEqual(['hold-under-floor']);
    expect(seconds({ answers: { asked: '30 min' } })).toBe(1800);
  });

  test('with lengths that are estimates it plans by the larger, and says what the smaller would ask', () => {
    const planned = planTest(exampleFor('gas-piping-psi', { pipes: '', statedVolume: '13000..15000 L' }));
    expect(planned.ok && planned.value.advice.join()).toContain('With the low estimate of 13000.1 L it would hold 30 min');
    expect(planned.ok && planned.value.plan.derivation.join()).toContain('Stage 1 holds 60 min');
  });

  test('3 psi under 1 psi working, 10 psi from 1 to 2, refused above', () => {
    const highest = (working: string) =>
      examplePlan('gas-piping-psi', { answers: { working }, gauge: { ...exampleFor('gas-piping-psi').gauge, rangeHigh: '15' } }).highest;
    expect([highest('0.99'), highest('1'), highest('2')]).toEqual(['3', '10', '10']);
    expect(exampleProblems('gas-piping-psi', { answers: { working: '2.1' } })).toEqual(['scope-working']);
  });

  test('stage 2 at the lowest rating, 1 psi at most, never above it', () => {
    const stage2 = (rating: string) =>
      examplePlan('gas-piping-psi', { answers: { 'lowest-rating': rating } }).phases.find(({ id }) => id === 'hold-open');
    expect(stage2('1/2')).toMatchObject({ band: { low: '0.40', high: '0.50' }, ceiling: '0.50' });
    expect(stage2('5 psi')).toMatchObject({ ceiling: '1' });
    // 24 mbar is 0.348 psi: down to 0.34, since a rating is a ceiling.
    expect(stage2('24 mbar')).toMatchObject({ ceiling: '0.34' });
  });

  test('stage 1 alone passes for the piping up to the stops, and says what it leaves out', () => {
    const plan = examplePlan('gas-piping-psi', { answers: { stages: 'first' } });
    const judgement = judge(plan, exampleEvents(plan, 'control-leak'));
    expect(judgement).toMatchObject({ verdict: 'pass', reasons: [{ code: 'tight-to-stops' }, {}, {}] });
    expect(plan.notTested.join()).toContain('beyond the stops');
  });

  test.each([
    ['oxygen', 'medium-oxygen'],
    ['fuel gas', 'medium-fuel'],
  ])('%s is refused', (medium, code) => expect(exampleProblems('gas-piping-psi', { answers: { medium } })).toEqual([code]));

  test('what stays connected must bear it; the weakest is named', () => {
    expect(exampleProblems('gas-piping-psi', { answers: { components: 'Line regulator 5psi\nMeter 2psi' } })).toEqual(['over-weakest']);
    expect(exampleProblems('gas-piping-psi', { answers: { components: 'Line regulator 5psi' } })).toEqual([]);
    expect(exampleProblems('gas-piping-psi', { answers: { components: 'Line regulator' } })).toEqual(['component-line']);
  });

  test('gauge rules: five times the pressure, three years, a fine gauge for stage 2', () => {
    const codes = (change: Parameters<typeof exampleFor>[1]) => {
      const planned = planTest(exampleFor('gas-piping-psi', change));
      return planned.ok ? planned.value.gaugeFindings.map(({ code }) => code) : [];
    };
    const { gauge } = exampleFor('gas-piping-psi');
    expect(codes({})).toEqual([]);
    expect(codes({ gauge: { ...gauge, rangeHigh: '15' } })).toEqual([]);
    expect(codes({ gauge: { ...gauge, rangeHigh: '16' } })).toEqual(['gauge-range-wide']);
    expect(codes({ gauge: { ...gauge, rangeHigh: '2.9' } })).toEqual(['gauge-range']);
    const years = (last: string) => codes({ gauge: { ...gauge, calibration: { needed: true, last, due: '2030-01-01' } } });
    expect(years('2023-01-05')).toEqual([]);
    expect(years('2023-01-04')).toEqual(['gauge-certificate-old']);
    expect(codes({ instruments: { fine: { ...gauge, readability: '0.05' } } })).toEqual([]);
    expect(codes({ instruments: { fine: { ...gauge, readability: '0.1' } } })).toEqual(['gauge-coarse']);
    expect(codes({ instruments: {} })).toEqual([]);
  });

  test('an hour and more needs temperature and barometer at both ends', () => {
    const long = examplePlan('gas-piping-psi', { answers: { asked: '60 min' } });
    const events = exampleEvents(long, 'sound');
    expect(judge(long, events).verdict).toBe('pass');
    for (const quantity of ['temperature', 'barometer'])
      expect(
        judge(
          long,
          events.filter((event) => !(event.type === 'reading' && event.quantity === quantity && event.role === 'end')),
        ).provisional,
      ).toBe('inconclusive');
  });
});

describe('water main (DOMAIN 5.12)', () => {
  test('PE is refused by the rule’s own words; so is a part that the pressure would break', () => {
    expect(exampleProblems('water-main-make-up', { answers: { material: 'PE' } })).toEqual(['main-creeps']);
    expect(exampleProblems('water-main-make-up', { answers: { components: 'Valve 205psi' } })).toEqual([]);
    // 12 ft lower it sees 5.2 psi more.
    expect(exampleProblems('water-main-make-up', { answers: { components: 'Valve 205psi -12ft' } })).toEqual(['over-weakest']);
    expect(exampleProblems('water-main-make-up', { answers: { components: 'Valve 200psi +12ft' } })).toEqual([]);
  });
  test('a larger fall by the engineer’s word needs that word', () => {
    expect(exampleProblems('water-main-make-up', { answers: { 'large-fall': 'engineer' } })).toEqual(['criterion-missing']);
    const plan = examplePlan('water-main-make-up', { answers: { 'large-fall': 'engineer', criterion: 'Letter of 5 January' } });
    expect(plan.phases.find(({ id }) => id === 'hold')).toMatchObject({ criterion: { kind: 'keep' } });
    expect(judge(plan, exampleEvents(plan, 'sound')).verdict).toBe('pass');
  });
  test('the thrust on an 8 in end at 200 psi is said: 44.7 kN', () => {
    const planned = planTest(exampleFor('water-main-make-up'));
    expect(planned.ok && planned.value.advice.join()).toContain('44.7 kN');
  });
  test('a vessel that shows psi, and instruments that cannot be, are refused', () => {
    const { gauge, instruments } = exampleFor('water-main-make-up');
    expect(exampleProblems('water-main-make-up', { instruments: { vessel: gauge } })).toEqual(['instrument-kind']);
    expect(exampleProblems('water-main-make-up', { gauge: { ...gauge, readability: '0' } })).toEqual(['instrument-range']);
    expect(exampleProblems('water-main-make-up', { instruments: { vessel: { ...instruments!.vessel, rangeHigh: '0' } } })).toEqual([
      'instrument-range',
    ]);
  });
  test('without its vessel it is not planned', () =>
    expect(exampleProblems('water-main-make-up', { instruments: {} })).toEqual(['instrument-missing']));
});

describe('ducts (DOMAIN 5.16)', () => {
  const limit = (answers: Readonly<Record<string, string>>) => {
    const points = examplePlan('duct-tightness', { answers }).phases.find(({ id }) => id === 'points');
    return points?.kind === 'measure' && points.criterion.kind === 'flow-at-most'
      ? `${points.criterion.limit} ${points.criterion.unit}`
      : '';
  };
  test.each([
    [{ rule: 'total', floor: '400' }, '16.00 CFM'],
    [{ rule: 'no-handler', floor: '400' }, '12.00 CFM'],
    [{ rule: 'outdoors', floor: '400' }, '32.00 CFM'],
    [{ rule: 'total', floor: '37.16 m2' }, '15.99 CFM'],
    [{ rule: 'own', 'own-limit': '20.5' }, '20.50 CFM'],
    // 0.1474 L/s per m² at 400 Pa.
    [{ school: 'class', class: 'C', surface: '40', 'class-pressure': '400' }, '5.89 L/s'],
  ])('%j: %s', (answers, expected) => expect(limit(answers)).toBe(expected));
  test('five points are judged too', () => {
    const plan = examplePlan('duct-tightness', { answers: { points: 'five' } });
    expect(judge(plan, exampleEvents(plan, 'sound')).verdict).toBe('pass');
    expect(judge(plan, exampleEvents(plan, 'leaky')).verdict).toBe('fail');
  });
  test('an undated rig’s leakage and a missing own limit are refused', () => {
    expect(exampleProblems('duct-tightness', { answers: { 'baseline-date': '' } })).toEqual(['baseline-undated']);
    expect(exampleProblems('duct-tightness', { answers: { rule: 'own' } })).toEqual(['own-limit-missing']);
  });
});
