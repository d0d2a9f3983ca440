import { judge } from '../../judging/judge';
import { exampleEvents, examplePlan, exampleProblems } from '../../simulation/examples.fixture';

describe('ducts (DOMAIN 5.16)', () => {
  const limit = (answers: Readonly<Record<string, string>>) => {
    const points = examplePlan('duct-tightness', { answers }).phases.find(({ id }) => id === 'points');
    return points?.kind === 'measure' && points.limit.kind === 'flow-at-most' ? `${points.limit.limit} ${points.limit.unit}` : '';
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
