import { judge } from '../judging/judge';
import { planTest } from '../planning/plan';
import { exampleEvents, exampleFor, examplePlan } from '../simulation/fixtures';
import { scenariosFor } from '../simulation/plants';
import { procedures } from '.';

/* What a good technician would conclude from each simulated fault: a table for every procedure. Traps are marked. */

type Row = readonly [fault: string, verdict: string, code: string, trap?: 'trap'];

const tables: Readonly<Record<string, readonly Row[]>> = {
  'domestic-gas-millibar': [
    ['sound', 'pass', 'tight'],
    ['small-leak', 'pass with permitted drop', 'permitted-drop'],
    ['pipework-leak', 'fail', 'pipework-fall'],
    ['gross-leak', 'fail', 'fall-over-permitted'],
    ['let-by', 'fail', 'let-by-confirmed'],
    ['masked-leak', 'fail', 'let-by-repeated', 'trap'],
    ['warming', 'inconclusive', 'hold-rise', 'trap'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['sticky', 'invalid', 'not-zeroed'],
  ],
  'meter-turn-on-inches': [
    ['sound', 'pass', 'tight-turn-on'],
    ['leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['lock-up-high', 'fail', 'lock-up-over'],
    ['lock-up-low', 'inconclusive', 'lock-up-low'],
    ['creep', 'fail', 'regulator-creeps'],
    ['inlet-seeps', 'fail', 'inlet-seeps'],
    ['masked-leak', 'fail', 'inlet-seeps', 'trap'],
    ['hidden-by-warming', 'fail or inconclusive', 'correction-unsure or corrected-fall', 'trap'],
    ['large-leak', 'fail', 'dial-leak'],
  ],
  'gas-piping-psi': [
    ['sound', 'pass', 'tight-both-stages'],
    ['pipework-leak', 'fail', 'fall'],
    ['control-leak', 'fail', 'controls-fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['hidden-by-warming', 'fail', 'corrected-fall', 'trap'],
    ['cooling', 'inconclusive', 'correction-unsure'],
    ['weather', 'fail', 'corrected-fall', 'trap'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['gross-leak', 'fail', 'pressure-not-reached'],
    ['unzeroed', 'invalid', 'not-zeroed'],
  ],
  'propane-vehicle': [
    ['sound', 'pass', 'tight-and-shut'],
    ['leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['lock-up-high', 'fail', 'lock-up-over'],
    ['lock-up-low', 'inconclusive', 'lock-up-low'],
    ['empty', 'inconclusive', 'no-supply'],
    ['valve-feeds', 'fail', 'valve-feeds'],
    ['masked-leak', 'inconclusive', 'valve-passes', 'trap'],
    ['warming', 'pass', 'tight-and-shut'],
    ['fitting', 'fail', 'bubbles-seen'],
    ['starved', 'inconclusive', 'pressure-off'],
  ],
  'propane-tank-check': [
    ['sound', 'pass', 'tight-pair'],
    ['leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['small-leak', 'fail', 'fall', 'trap'],
    ['tank-passes', 'inconclusive', 'hold-rise'],
    ['masked-leak', 'inconclusive', 'stopped', 'trap'],
  ],
  'gas-leak-rate': [
    ['sound', 'pass', 'rate-unrestricted'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['slight', 'pass', 'rate-unrestricted'],
    ['near-limit', 'restricted', 'rate-reduced', 'trap'],
    ['reduced', 'restricted', 'rate-reduced'],
    ['large-leak', 'fail', 'rate-shut-down'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['hidden-by-weather', 'restricted', 'rate-reduced', 'trap'],
    ['open-end', 'fail', 'pressure-not-reached'],
  ],
  'water-isolation-hold': [
    ['sound', 'pass', 'tight-isolated'],
    ['leak', 'fail', 'fall'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['valve-passes', 'inconclusive', 'valve-passes', 'trap'],
    ['masked-leak', 'inconclusive', 'valve-passes', 'trap'],
    ['cistern', 'inconclusive', 'meter-moves'],
    ['heater', 'inconclusive', 'valve-passes'],
    ['water-drawn', 'pass', 'tight-isolated'],
  ],
  'drain-level-hold': [
    ['sound', 'pass', 'level-held'],
    ['leak', 'fail', 'level-fell'],
    ['slow-leak', 'fail', 'level-fell'],
    ['passing-ball', 'invalid', 'ball-passes', 'trap'],
    ['soft-ball', 'inconclusive', 'ball-lost'],
    ['ball-flat', 'inconclusive', 'pressure-off'],
    ['wetting', 'pass', 'level-held'],
    ['water-used', 'fail', 'level-fell'],
    ['unzeroed', 'invalid', 'not-zeroed'],
  ],
  'vehicle-water-air': [
    ['sound', 'pass', 'tight'],
    ['pipework-leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['hidden-by-warming', 'inconclusive', 'correction-unsure', 'trap'],
    ['cooling', 'pass', 'tight'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['gross-leak', 'fail', 'pressure-not-reached'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['seen-inside', 'fail', 'fall'],
  ],
  'heating-hydraulic': [
    ['sound', 'pass', 'tight'],
    ['leak', 'inconclusive', 'still-relaxing'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['open-end', 'fail', 'pressure-not-reached'],
    ['gross-leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['trapped-air', 'inconclusive', 'air-too-much', 'trap'],
    ['soft-pipe', 'inconclusive', 'still-relaxing', 'trap'],
  ],
  'underfloor-manifold': [
    ['sound', 'pass', 'tight'],
    ['leak', 'inconclusive', 'still-relaxing'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['open-end', 'fail', 'pressure-not-reached'],
    ['long-relaxing', 'inconclusive', 'still-relaxing', 'trap'],
    ['soft-pipe', 'fail or inconclusive', 'fall or still-relaxing', 'trap'],
    ['sun', 'inconclusive', 'hold-rise'],
    ['gross-leak', 'fail', 'fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
  ],
  'water-main-make-up': [
    ['sound', 'pass', 'make-up-within'],
    ['leak', 'fail', 'make-up-over'],
    ['trapped-air', 'fail', 'make-up-over', 'trap'],
    ['seen', 'fail', 'leak-on-walk'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['open-end', 'fail', 'pressure-not-reached'],
  ],
  'refrigerant-nitrogen': [
    ['sound', 'pass', 'tight-strength'],
    ['pipework-leak', 'fail', 'strength-fall'],
    ['sticky', 'invalid', 'not-zeroed'],
    ['gross-leak', 'fail', 'pressure-not-reached'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['slow-leak', 'fail', 'fall or strength-fall'],
    ['rig-leak', 'inconclusive', 'rig-leaks', 'trap'],
    ['hidden-by-warming', 'fail or inconclusive', 'correction-unsure or corrected-fall', 'trap'],
    ['cooling', 'inconclusive', 'correction-unsure'],
    ['sides-pass', 'inconclusive', 'sides-not-apart', 'trap'],
  ],
  'pool-lines-pressure': [
    ['sound', 'pass', 'tight'],
    ['leak', 'fail', 'falls-thrice'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['passing-plug', 'inconclusive', 'rig-leaks', 'trap'],
    ['broken-line', 'fail', 'pressure-not-reached'],
    ['fast-rise', 'fail', 'pressure-not-reached'],
    ['trapped-air', 'fail', 'falls-thrice', 'trap'],
  ],
  'pool-dye-static': [
    ['sound', 'inconclusive', 'dye-not-drawn'],
    ['leak', 'fail', 'dye-drawn'],
    ['pressure-only', 'inconclusive', 'dye-not-drawn', 'trap'],
  ],
  'duct-tightness': [
    ['sound', 'pass', 'duct-within'],
    ['leaky', 'fail', 'duct-over'],
    ['within-rig', 'inconclusive', 'duct-within-rig', 'trap'],
    ['unzeroed', 'invalid', 'not-zeroed'],
    ['hose-off', 'invalid', 'exponent-impossible', 'trap'],
    ['taped-register', 'invalid', 'exponent-impossible', 'trap'],
    ['below-range', 'inconclusive', 'flow-below-range'],
  ],
};

describe.each(procedures.map(({ id, plant }) => [id, plant] as const))('%s', (id, plant) => {
  const plan = examplePlan(id);

  test.each((tables[id] ?? []).map(([fault, verdict, code]) => [fault, verdict, code] as const))('%s: %s (%s)', (fault, verdict, code) => {
    for (let seed = 1; seed <= 5; seed += 1) {
      const judgement = judge(plan, exampleEvents(plan, fault, seed));
      // Where a fault lies at the edge of what the weather lets anyone tell, either answer is right, and neither is a pass.
      expect(verdict.split(' or ')).toContain(judgement.verdict);
      expect(judgement.reasons.map((reason) => reason.code).filter((one) => code.split(' or ').includes(one))).not.toEqual([]);
    }
  });

  test('its table has every fault that the plant knows, and a trap that no pass comes of', () => {
    const faults = (tables[id] ?? []).map(([fault]) => fault);
    expect([...faults].sort()).toEqual(
      scenariosFor({ plant })
        .map((scenario) => scenario.id)
        .sort(),
    );
    const traps = (tables[id] ?? []).filter(([, , , trap]) => trap === 'trap');
    expect(traps.length).toBeGreaterThan(0);
    for (const [, verdict] of traps) expect(verdict).not.toMatch(/^pass/);
  });

  test('read on a gauge too coarse for it, even a sound one is no pass', () => {
    const { gauge } = exampleFor(id);
    if (plan.conclusions.every(({ verdict }) => verdict !== 'pass')) return;
    const planned = planTest(exampleFor(id, { gauge: { ...gauge, readability: String(Number(gauge.rangeHigh ?? '1') / 5) } }));
    if (planned.ok) expect(judge(planned.value.plan, exampleEvents(planned.value.plan, 'sound')).verdict).not.toMatch(/^pass/);
    else expect(planned.problems.length).toBeGreaterThan(0);
  });
});
