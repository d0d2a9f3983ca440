import fc from 'fast-check';
import { isAsked } from '../procedures/procedure';
import { fromSi, type Unit } from '../quantities';
import { answersIn, calculationById, calculationKey, calculations, figureIn, firstUnit, queryOf, startOf, unitsFor, work } from '.';

const outcome = (id: string, answers: Readonly<Record<string, string>> = {}) => {
  const calculation = calculationById(id);
  if (calculation === undefined) throw new Error(`no calculation ${id}`);
  const worked = work(calculation, answers);
  if (!worked.ok) throw new Error(worked.problems.map(({ message }) => message).join(' '));
  return worked.value;
};
/** The main figure in a unit. */
const main = (id: string, unit: Unit, answers: Readonly<Record<string, string>> = {}): number =>
  fromSi(outcome(id, answers).found.find((one) => one.main === true)?.si ?? Number.NaN, unit);
const other = (id: string, label: string, answers: Readonly<Record<string, string>> = {}): number =>
  outcome(id, answers).found.find((one) => one.label === label)?.si ?? Number.NaN;
const codes = (id: string, answers: Readonly<Record<string, string>>): readonly string[] => {
  const calculation = calculationById(id);
  const worked = calculation === undefined ? undefined : work(calculation, answers);
  return worked === undefined || worked.ok ? [] : worked.problems.map(({ code }) => code);
};

describe('the check values, as anyone types them', () => {
  test('leak rate: 30 L, 4 mbar in 2 min; 1.2 L, 0.5 mbar in 5 min', () => {
    expect(main('leak-rate', 'L/h')).toBeCloseTo(3.553, 3);
    expect(main('leak-rate', 'L/h', { volume: '1,2', start: '20.5', end: '20', time: '5' })).toBeCloseTo(0.00711, 5);
  });
  test('volume: 12 m of 22 and 9 m of 15 copper, a tenth for fittings; measured from what was let in', () => {
    expect(main('volume', 'L')).toBeCloseTo((12 * 0.32047 + 9 * 0.14527) * 1.1, 2);
    expect(main('volume', 'L', { fittings: 'itemised' })).toBeCloseTo(12 * 0.32047 + 9 * 0.14527, 2);
    expect(main('volume', 'L', { by: 'measuring', 'let-in': '0.6', step: '20' })).toBeCloseTo(30.4, 1);
  });
  test('hold time: 24.5 min for 1 L/h, and 15 min show nothing under 1.63', () => {
    expect(other('hold-time', 'Hold needed, if nothing else moves') / 60).toBeCloseTo(24.5, 1);
    expect(fromSi(other('hold-time', 'If nothing else moves, it shows leaks from'), 'L/h')).toBeCloseTo(1.63, 2);
    // 0.1 psi, a step of it and half a kelvin: 3.8 L/h in 15 min; an hour for one.
    expect(fromSi(other('hold-time', 'Your hold is sure of leaks above'), 'L/h')).toBeCloseTo(3.77, 2);
    expect(main('hold-time', 'min')).toBe(57);
    expect(outcome('hold-time').said[0]).toMatchObject({ tone: 'stop' });
    expect(outcome('hold-time', { time: '59' }).said[0]).toMatchObject({ tone: 'plain' });
    expect(main('hold-time', 'min', { thermometer: '0.1' })).toBeLessThan(57);
  });
  test('hold time: what is absurd is refused with what to do', () => {
    const refused = (answers: Record<string, string>) => {
      const worked = work(calculationById('hold-time') ?? calculations[0], answers);
      return worked.ok ? [] : worked.problems.map(({ field, message }) => `${field}: ${message}`);
    };
    expect(refused({ drift: '30 K' })[0]).toMatch(/^drift: /);
    expect(refused({ 'let-by': '5 min', supply: '2 psi' })[0]).toMatch(/^supply: .*above that of the hold/);
    expect(refused({ threshold: '0.01' })[0]).toMatch(/^threshold: /);
    expect(outcome('hold-time', { 'let-by': '1', leak: '0.05' }).said.some(({ text }) => text.startsWith('No hold of a day'))).toBe(true);
    expect(outcome('hold-time', { pressure: '0.1', step: '0.1' }).said[0].text).toContain('sure of no leak');
  });
  test('temperature: 3.00 psi at 70 °F is 2.666 at 60 °F; nitrogen 16.3 bar is 15.95', () => {
    expect(main('temperature', 'psi')).toBeCloseTo(2.666, 3);
    expect(main('temperature', 'bar', { start: '16.3 bar', 'start-temperature': '20 °C', 'end-temperature': '14 °C' })).toBeCloseTo(
      15.95,
      2,
    );
    expect(other('temperature', 'Corrected fall', { read: '2.666' }) / 6894.757).toBeCloseTo(0, 3);
    expect(outcome('temperature', { read: '2.666' }).said[0]).toMatchObject({ tone: 'caution' });
  });
  test('test dial: 0.06 ft³/h, 1.70 L/h', () => {
    expect(main('test-dial', 'ft3/h')).toBeCloseTo(0.06, 9);
    expect(main('test-dial', 'L/h')).toBeCloseTo(1.7, 2);
  });
  test('ducts: 17.0 CFM at 155 Pa is 5.69 CFM25; five points have an interval', () => {
    expect(main('duct-points', 'CFM', { points: '155 17.0' })).toBeCloseTo(5.69, 2);
    expect(main('duct-points', 'CFM', { points: '155 Pa 17,0 CFM' })).toBeCloseTo(5.69, 2);
    const fit = outcome('duct-points', { limit: '16' });
    expect(fit.chart?.band?.length).toBeGreaterThan(20);
    expect(fit.said.at(-1)).toMatchObject({ tone: 'stop' });
    expect(outcome('duct-points', { points: '50 20\n25 19' }).said[0]).toMatchObject({ tone: 'stop' });
  });
  test('make-up: 0.888 US gal, 3.363 L in an hour', () => {
    expect(main('make-up', 'galUS')).toBeCloseTo(0.888, 3);
    expect(main('make-up', 'L')).toBeCloseTo(3.363, 3);
    expect(outcome('make-up', { made: '0.888' }).said[0].tone).toBe('plain');
    expect(outcome('make-up', { made: '0.889' }).said[0].tone).toBe('stop');
  });
  test('refrigerant: the nameplate governs, an estimate sets no test pressure', () => {
    const strength = (answers: Readonly<Record<string, string>>) => fromSi(other('refrigerant', 'Strength test', answers), 'bar');
    expect(strength({ fluid: 'R407F', temperature: '32' })).toBeNaN();
    expect(strength({ fluid: 'R407F', temperature: '32', nameplate: '14.8' })).toBeCloseTo(16.28, 2);
    expect(strength({ fluid: 'R134a', temperature: '25' })).toBeCloseTo(1.1 * (6.65 - 1.01325), 1);
  });
  test('stiffness: 10 mL from 100 L of copper is 1.5 bar; from aerated PEX 0.04', () => {
    expect(main('stiffness', 'bar')).toBeCloseTo(1.5, 1);
    // 1 % at 5 bar gauge is 5.93 % at atmospheric pressure.
    const pex = { material: 'PEX', outside: '16', wall: '2', air: '5.9346 %' };
    expect(main('stiffness', 'bar', pex)).toBeCloseTo(0.0369, 4);
    expect(outcome('stiffness', pex).said[0]).toMatchObject({ tone: 'stop' });
    expect(other('stiffness', 'Trapped air', { added: '1000 mL', from: '1' })).toBeGreaterThan(0.01);
  });
  test('static head and level', () => {
    expect(main('static-head', 'bar')).toBeCloseTo(0.0979, 4);
    expect(main('static-head', 'L/h', { of: 'level' })).toBeCloseTo(0.0707, 4);
    expect(main('static-head', 'L/h', { of: 'level', openings: '2' })).toBeCloseTo(0.1414, 4);
  });
  test('stored energy: 50 L at 16.3 bar is 120 kJ, 60 L at 3 psi 0.95; thrust 280 N and 44.7 kN', () => {
    expect(main('stored-energy', 'Pa') / 1000).toBeCloseTo(120, -1);
    expect(main('stored-energy', 'Pa', { volume: '60', pressure: '3 psi' }) / 1000).toBeCloseTo(0.95, 2);
    expect(other('stored-energy', 'Thrust on that end', { pressure: '20 psi', diameter: '2 in' }) / 280).toBeCloseTo(1, 2);
    expect(other('stored-energy', 'Thrust on that end', { pressure: '200 psi', diameter: '8"' }) / 1000).toBeCloseTo(44.7, 1);
  });
});

describe('bad input is a code and a sentence', () => {
  test.each([
    ['leak-rate', { volume: '-3' }, 'out-of-range'],
    ['leak-rate', { volume: '0' }, 'out-of-range'],
    ['leak-rate', { volume: '0.00099' }, 'out-of-range'],
    ['leak-rate', { volume: '3 psi' }, 'unit-unknown'],
    ['leak-rate', { volume: 'x' }, 'not-a-number'],
    ['leak-rate', { volume: '1,200' }, 'comma-ambiguous'],
    ['test-dial', { dial: '1/3' }, 'fraction'],
    ['volume', { pipes: '22xx 4' }, 'pipe-line'],
    ['volume', { pipes: '' }, 'answer-missing'],
    ['duct-points', { points: '25' }, 'duct-point'],
    ['duct-points', { points: '25 0' }, 'duct-point'],
    ['duct-points', { points: '25 17\n25 17\n25 17' }, 'points-together'],
    ['make-up', { material: 'PE' }, 'main-creeps'],
    ['refrigerant', { fluid: 'R744', temperature: '40' }, 'above-critical'],
    ['stiffness', { wall: '12' }, 'out-of-range'],
    ['stiffness', { added: '0', from: '1' }, 'compression-impossible'],
    ['stiffness', { added: '10', from: '6' }, 'pressure-order'],
    ['temperature', { 'start-air': '300' }, 'out-of-range'],
  ])('%s with %j: %s', (id, answers, code) => expect(codes(id, answers)).toContain(code));
});

describe.each(calculations.map((calculation) => [calculation.id, calculation] as const))('%s', (_, calculation) => {
  test('it starts with an answer, a sum, its limits and a chart that marks what was asked', () => {
    const worked = work(calculation, {});
    if (!worked.ok) throw new Error(worked.problems[0].message);
    const { found, working, chart } = worked.value;
    expect(found.some(({ main: first }) => first === true)).toBe(true);
    expect(working.length).toBeGreaterThan(0);
    expect(calculation.validity.length).toBeGreaterThan(0);
    expect(chart?.lines[0].points.length).toBeGreaterThan(1);
    const { mark } = chart ?? {};
    expect(mark).toBeDefined();
    // The mark lies on the line: what is drawn is what was worked out.
    const line = chart?.lines[0].points ?? [];
    const near = [...line].sort((a, b) => Math.abs(a[0] - (mark?.x ?? 0)) - Math.abs(b[0] - (mark?.x ?? 0)))[0];
    expect(Math.abs(near[1] - (mark?.y ?? 0)) / Math.max(Math.abs(near[1]), 1e-9)).toBeLessThan(0.35);
  });

  test('nothing that can be typed gives NaN, Infinity or an exception', () => {
    const typed = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.double().map(String),
      fc.double({ min: -1000, max: 100_000, noNaN: true }).map((value) => value.toFixed(3)),
      fc.constantFrom('', '0', '7 1/2', '1e9', '-1', '3 psi', '20,5 mbar', '5 °C', '25 17\n50 26', '22cu 6..9', '100000000'),
    );
    const answers = fc.record(
      Object.fromEntries(
        calculation.parameters.map((parameter) => [
          parameter.id,
          fc.oneof(
            fc.constant(parameter.usual),
            parameter.kind === 'choice' ? fc.constantFrom(...parameter.options.map(({ value }) => value)) : typed,
          ),
        ]),
      ),
    );
    const finite = (value: unknown): boolean =>
      typeof value === 'number'
        ? Number.isFinite(value)
        : typeof value !== 'object' || value === null || Object.values(value).every(finite);
    fc.assert(
      fc.property(answers, (given) => {
        const worked = work(calculation, given as Record<string, string>);
        return worked.ok
          ? finite(worked.value) && !JSON.stringify(worked.value).includes('NaN')
          : worked.problems.every(({ code, message }) => code !== '' && message.length > 5);
      }),
      { numRuns: 400 },
    );
  });
});

describe('the address', () => {
  test('holds what differs from the start, and gives it back', () => {
    for (const calculation of calculations) {
      expect(queryOf(calculation, startOf(calculation))).toBe(`${calculationKey}=${calculation.id}`);
      expect(calculation.parameters.map(({ id }) => id)).not.toContain(calculationKey);
      fc.assert(
        fc.property(fc.record(Object.fromEntries(calculation.parameters.map(({ id }) => [id, fc.string()]))), (typed) => {
          const answers = { ...startOf(calculation), ...(typed as Record<string, string>) };
          const back = answersIn(calculation, [...new URLSearchParams(queryOf(calculation, answers))]);
          return calculation.parameters.every(
            (parameter) => !isAsked(calculation, parameter, answers) || back[parameter.id] === answers[parameter.id],
          );
        }),
        { numRuns: 50 },
      );
    }
  });
  test('a name that there is not is passed over', () => {
    expect(
      answersIn(calculations[0], [
        ['volume', '12'],
        ['__proto__', 'x'],
        ['pink', '1'],
      ]),
    ).toEqual({ ...startOf(calculations[0]), volume: '12' });
  });
});

test('results are shown in any unit of their kind', () => {
  const leak = outcome('leak-rate').found[0];
  expect([firstUnit(leak), figureIn(leak, 'L/h'), figureIn(leak, 'ft3/h')]).toEqual(['L/h', '3.553', '0.1255']);
  expect(unitsFor(leak)).toHaveLength(8);
  const [energy, thrust] = outcome('stored-energy').found;
  expect([figureIn(energy, firstUnit(energy)), figureIn(thrust, 'lbf')]).toEqual(['120.2', '225.6']);
});

test('each has its own id, and none is found under another', () => {
  expect(new Set(calculations.map(({ id }) => id)).size).toBe(11);
  expect(calculationById('guess')).toBeUndefined();
  for (const calculation of calculations) expect(Object.keys(startOf(calculation))).toEqual(calculation.parameters.map(({ id }) => id));
});
