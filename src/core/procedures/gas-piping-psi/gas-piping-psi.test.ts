import { judge } from '../../judging/judge';
import { planTest } from '../../planning/plan';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../../simulation/examples.fixture';

describe('gas piping, psi school (DOMAIN 5.3)', () => {
  const seconds = (change: Parameters<typeof examplePlan>[1], phase = 'hold') => {
    const found = examplePlan('gas-piping-psi', change).phases.find(({ id }) => id === phase);
    return found?.kind === 'hold' ? found.seconds : undefined;
  };
  const litres = (feet: number) => (feet * 28.316846592).toFixed(4);
  const volume = (feet: number) => ({ pipes: '', statedVolume: `${litres(feet)} L` });

  test.each([
    [2, 900],
    [9.99, 900],
    [10, 1800],
    [499.9, 1800],
    [500, 1800],
    [500.1, 3600],
    [1000.1, 5400],
    [30_000, 86_400],
  ])('%d ft³ hold for %d s: 15 min under 10 ft³, else half an hour for each 500 ft³ begun, to a day', (feet, expected) =>
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

  test('what was asked for lengthens the hold', () => {
    expect(seconds({ answers: { asked: '90 min' } })).toBe(5400);
  });

  test('a hold asked for under what is due is refused, not passed over', () => {
    expect(exampleProblems('gas-piping-psi', { ...volume(20), answers: { asked: '29 min' } })).toEqual(['hold-under-floor']);
    expect(seconds({ ...volume(20), answers: { asked: '30 min' } })).toBe(1800);
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
    expect(judgement).toMatchObject({
      verdict: 'pass',
      reasons: expect.arrayContaining([expect.objectContaining({ code: 'tight-to-stops' })]),
    });
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

  test('four hours and more need temperature and barometer at both ends; an hour needs neither (DOMAIN 4.6)', () => {
    const long = examplePlan('gas-piping-psi', { answers: { asked: '240 min', stages: 'first' } });
    const hour = examplePlan('gas-piping-psi', { answers: { asked: '60 min', stages: 'first' } });
    const without = (plan: typeof long, quantity: string) =>
      judge(
        plan,
        exampleEvents(plan, 'sound').filter((event) => !(event.type === 'reading' && event.quantity === quantity)),
      );
    expect(judge(long, exampleEvents(long, 'sound')).verdict).toBe('pass');
    for (const quantity of ['temperature', 'barometer']) {
      expect(without(long, quantity).reasons.map(({ code }) => code)).toContain('conditions-unread');
      expect(without(long, quantity).verdict).not.toBe('pass');
      expect(without(hour, quantity).verdict).toBe('pass');
    }
  });
});
