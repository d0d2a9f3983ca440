import { judge } from '../../judging/judge';
import { planTest } from '../../planning/plan';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../../simulation/examples.fixture';
import { adviceText } from '../procedure';

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
    expect(plan.phases.find(({ id }) => id === 'hold')).toMatchObject({ limit: { kind: 'keep' } });
    expect(judge(plan, exampleEvents(plan, 'sound')).verdict).toBe('pass');
  });
  test('the thrust on an 8 in end at 200 psi is said: 44.7 kN, in the plan’s units', () => {
    const planned = planTest(exampleFor('water-main-make-up'));
    expect(planned.ok && planned.value.advice.map(adviceText).join()).toContain('10.1 klbf');
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
