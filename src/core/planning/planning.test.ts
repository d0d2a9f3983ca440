import { judge, sentenceOf } from '../judging';
import { domesticGasMillibar } from '../procedures/domestic-gas-millibar';
import { simulateRun } from '../simulation';
import { demoGauge, jobFor, planFor, planInput } from '../simulation/examples.fixture';
import { calibrationText, gaugeClass, gaugeFindings, neverCalibrated } from '../sizing/gauge';
import { boreOf, litresPerMetre, parsePipeLine, parsePipeSchedule, systemVolume } from '../sizing/pipe-volume';
import { checkHouseRule, inputOf, planHash, planTest } from './plan';

describe('pipe volume (DOMAIN 3.4)', () => {
  test.each([
    ['10', 0.0608],
    ['12', 0.0916],
    ['15', 0.1453],
    ['22', 0.3205],
    ['28', 0.5391],
    ['35', 0.8347],
    ['42', 1.2316],
    ['54', 2.0912],
  ])('copper %s holds %d L/m', (size, expected) => {
    const bore = boreOf('cu', size);
    expect(bore.ok && litresPerMetre(bore.value.boreMm)).toBeCloseTo(expected, 4);
  });

  test.each([
    ['1/2', 0.00211],
    ['1', 0.006],
    ['2', 0.0233],
  ])('schedule 40, %s in, holds %d ft³/ft', (size, expected) => {
    const bore = boreOf('sch40', size);
    expect(bore.ok && (litresPerMetre(bore.value.boreMm) / 28.316846592) * 0.3048).toBeCloseTo(expected, 4);
  });

  test.each([
    ['22cu 6.5', 'cu', '22', 6.5],
    ['1sch40 40ft', 'sch40', '1', 12.192],
    ['1-1/4sch40 10', 'sch40', '1-1/4', 10],
    ['20dn 3', 'steel', '20', 3],
    ['20x2.25pex 12', 'pex', '20x2.25', 12],
    ['21,3bore 4', 'bore', '21.3', 4],
    ['16×2pex 8', 'pex', '16x2', 8],
  ])('%s', (text, material, size, lengthM) => {
    const line = parsePipeLine(text);
    expect(line.ok && { ...line.value, lengthM: Number(line.value.lengthM.toFixed(6)) }).toMatchObject({ material, size, lengthM });
  });

  test.each(['22cu', 'cu 5', '23cu 4', '22cu -3', '22cu 0', '22cu 5kg', '9999bore 3', '22cu 99999'])(
    '%j is refused with its line',
    (text) => {
      const { problems } = parsePipeSchedule(`22cu 1\n${text}`);
      expect(problems).toHaveLength(1);
      expect(problems[0].message).toMatch(/^Line 2: /);
    },
  );

  test('fittings add 10 % of the pipe, meter and rig are added as they are', () => {
    const pipe = parsePipeLine('22cu 10');
    const sum = pipe.ok ? systemVolume({ pipes: [pipe.value], meterL: 8, rigHoseL: 0.1 }) : undefined;
    expect(sum?.ok && sum.value.totalL).toBeCloseTo(3.2047 * 1.1 + 8.1, 3);
    expect(sum?.ok && sum.value.largestNominalMm).toBe(22);
  });
});

describe('permitted drop and threshold (DOMAIN 5.1)', () => {
  const permittedOf = (answers: Record<string, string>, pipes = '22cu 5') => {
    const phase = planFor({ answers, pipes }).phases.find(({ id }) => id === 'hold');
    return phase?.kind === 'hold' && phase.limit.kind === 'no-fall' ? phase.limit.permitted : 'no hold';
  };
  test.each([
    ['diaphragm-6', '<=28', '4.0'],
    ['diaphragm-6', '>28-35', '2.5'],
    ['ultrasonic-6', '<=28', '8.0'],
    ['ultrasonic-6', '>28-35', '4.0'],
    ['diaphragm-16', '<=28', '1.0'],
    ['diaphragm-16', '>28-35', '1.0'],
    ['none', '<=28', '8.0'],
    ['none', '>28-35', '4.0'],
  ])('%s with pipe %s: %s mbar', (meter, pipe, expected) => expect(permittedOf({ meter, pipe })).toBe(expected));

  test.each<Record<string, string>>([{ work: 'new' }, { appliances: 'pipework only' }, { smell: 'yes' }])('none with %j', (answers) =>
    expect(permittedOf(answers)).toBeUndefined(),
  );

  test.each([
    [{ kind: 'liquid', readability: '0.25' }, '0.25'],
    [{ kind: 'digital', readability: '0.1' }, '0.2'],
    [{ kind: 'digital', readability: '0.01' }, '0.25'],
    [{ kind: 'digital', readability: '1', unit: 'Pa' }, '0.25'],
  ] as const)('perceptible on %j from %s mbar', (gauge, expected) =>
    expect(planFor({ gauge: { ...demoGauge, ...gauge } as typeof demoGauge }).limit).toBe(expected),
  );

  test('the course keeps its bands and times', () => {
    const plan = planFor({});
    const hold = (id: string) => plan.phases.find((phase) => phase.id === id && phase.kind === 'hold');
    expect(hold('let-by')).toMatchObject({ band: { low: '7', high: '10' }, seconds: 60 });
    expect(hold('settle')).toMatchObject({ band: { low: '20', high: '21' }, seconds: 60 });
    expect(hold('hold')).toMatchObject({ band: { low: '20', high: '21' }, seconds: 120 });
  });

  test('the sheet says the smallest leak: 13.77 L, 0.25 mbar, 120 s', () => {
    expect(planFor({ pipes: '22cu 12\n15cu 9' }).sight[0]?.alone).toBe('0.102');
  });
});

describe('scope', () => {
  const codes = (change: Parameters<typeof planInput>[0]) => {
    const result = planTest(planInput(change));
    return result.ok ? [] : result.problems.map(({ code }) => code);
  };
  test('LPG, a supply over 75, a working pressure over 21, pipe over 35 mm: refused, each with what to do', () => {
    expect(codes({ answers: { fuel: 'lpg' } })).toEqual(['scope-lpg']);
    expect(codes({ answers: { supply: '75' } })).toEqual([]);
    expect(codes({ answers: { supply: '75.1' } })).toEqual(['scope-supply']);
    expect(codes({ answers: { supply: '2 psi' } })).toEqual(['scope-supply']);
    expect(codes({ answers: { working: '21.5' } })).toEqual(['scope-working']);
    expect(codes({ answers: { pipe: '>35' } })).toEqual(['scope-pipe']);
    expect(codes({ pipes: '42cu 2' })).toEqual(['scope-pipe']);
    expect(codes({ pipes: '35cu 2' })).toEqual(['pipe-contradiction']);
  });
  test('35 L is inside, more is not', () => {
    expect(codes({ pipes: '', statedVolume: '27' })).toEqual([]);
    expect(codes({ pipes: '', statedVolume: '27.001' })).toEqual(['scope-volume']);
  });
  test('negative and absurd pressures, no answer, no volume: every one a sentence', () => {
    expect(codes({ answers: { supply: '-5' } })).toEqual(['out-of-range']);
    expect(codes({ answers: { supply: 'lots' } })).toEqual(['not-a-number']);
    expect(codes({ answers: { meter: 'x9' } })).toEqual(['answer-unknown']);
    expect(codes({ answers: { meter: '' } })).toEqual(['answer-missing']);
    expect(codes({ pipes: '' })).toEqual(['volume-missing']);
    expect(codes({ pipes: '22cu' })).toEqual(['pipe-line']);
  });
});

describe('house rules (DOMAIN 4.10)', () => {
  const rule = (figure: string, value: string, reference = 'House practice 1') => ({
    procedure: domesticGasMillibar.id,
    figure,
    value,
    reference,
  });
  test.each([
    ['hold-seconds', '180', true],
    ['hold-seconds', '119', false],
    ['permitted-diaphragm-6-28', '3.9', true],
    ['permitted-diaphragm-6-28', '4.1', false],
    ['perceptible-liquid', '0.2', true],
    ['perceptible-liquid', '0.3', false],
    ['perceptible-liquid', '0', false],
    ['permitted-diaphragm-6-28', '0', true],
    ['hold-seconds', '120.5', false],
    ['hold-seconds', '-1', false],
    ['nothing', '1', false],
  ])('%s at %s: allowed %s', (figure, value, allowed) => expect(checkHouseRule(domesticGasMillibar, rule(figure, value)).ok).toBe(allowed));

  test('needs its reference', () => expect(checkHouseRule(domesticGasMillibar, rule('hold-seconds', '180', ' ')).ok).toBe(false));

  test('rules that are each stricter but leave no band between them are refused with the band', () => {
    const result = planTest(planInput({ houseRules: [rule('test-low', '20.9'), rule('test-high', '20.1')] }));
    expect(result).toMatchObject({
      ok: false,
      problems: [{ code: 'band-empty', message: expect.stringContaining('from 20.9 to 20.1 mbar') }],
    });
  });

  test('the plan keeps both figures', () => {
    const plan = planFor({ houseRules: [rule('hold-seconds', '180')] });
    expect(plan.figures.find(({ id }) => id === 'hold-seconds')).toMatchObject({
      value: '180',
      procedureValue: '120',
      source: 'house rule',
      reference: 'House practice 1',
    });
    expect(plan.phases.find(({ id }) => id === 'hold')).toMatchObject({ seconds: 180 });
  });
});

describe('the plan is frozen', () => {
  test('its hash covers every part, and planning its own inputs gives it again', () => {
    const plan = planFor({ houseRules: [{ procedure: domesticGasMillibar.id, figure: 'settle-seconds', value: '90', reference: 'x' }] });
    expect(planHash(plan)).toBe(plan.hash);
    expect(planHash({ ...plan, limit: '9' })).not.toBe(plan.hash);
    const again = planTest(inputOf(plan, '2026-11-20'));
    expect(again.ok && again.value.plan.hash).toBe(plan.hash);
  });
});

describe('gauges', () => {
  const demand = { highest: '21', limit: '0.25', unit: 'mbar', on: '2026-11-20' } as const;
  test('on its due date it still serves; the day after it does not', () => {
    const due = (date: string) =>
      gaugeFindings({ ...demoGauge, calibration: { needed: true, last: '2025-01-01', due: date } }, demand).map(({ code }) => code);
    expect(due('2026-11-20')).toEqual([]);
    expect(due('2026-11-19')).toEqual(['gauge-overdue']);
  });
  test('without a calibration on file it is told so in words, at the plan, in the verdict and on paper, never as a date', () => {
    const gauge = { ...demoGauge, calibration: { needed: true, last: neverCalibrated, due: neverCalibrated } as const };
    const findings = gaugeFindings(gauge, { ...demand, certificateYears: 1 });
    expect(findings.map(({ code }) => code)).toEqual(['gauge-overdue']);
    const plan = planFor({ gauge });
    const sentences = judge(plan, simulateRun(jobFor(plan, 'sound', 3))).reasons.map(sentenceOf);
    expect(sentences.join(' ')).toContain('The gauge: no calibration of it is on file');
    for (const words of [findings[0].message, calibrationText(gauge), ...sentences]) expect(words).not.toContain('0001');
    expect(calibrationText(gauge)).toBe('no calibration on file');
    expect(calibrationText(demoGauge)).toMatch(/^calibrated \d{4}-\d\d-\d\d, due \d{4}-\d\d-\d\d$/);
  });
  test('range and readability, across units', () => {
    expect(gaugeFindings({ ...demoGauge, rangeHigh: '20.9' }, demand).map(({ code }) => code)).toEqual(['gauge-range']);
    expect(gaugeFindings({ ...demoGauge, unit: 'psi', readability: '0.1', rangeHigh: '5' }, demand).map(({ code }) => code)).toEqual([
      'gauge-coarse',
    ]);
    expect(gaugeFindings({ ...demoGauge, unit: 'Pa', readability: '25', rangeHigh: '5000' }, demand)).toEqual([]);
    expect(gaugeClass({ ...demoGauge, unit: 'kPa', readability: '0.01' })).toBe('digital-one-decimal');
  });
});
