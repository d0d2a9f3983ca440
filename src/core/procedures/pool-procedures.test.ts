import { judge } from '../judging/judge';
import { outcomeOf } from '../judging/state';
import { planTest } from '../planning/plan';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../simulation/examples.fixture';
import { holdOf, itemsOf } from '../simulation/of-plan.fixture';
import { adviceText } from './procedure';

describe('pool lines under pressure (DOMAIN 5.14)', () => {
  const id = 'pool-lines-pressure';
  const ceiling = (answers: Readonly<Record<string, string>>) => Number(holdOf(id, { answers }).band.high);
  test.each([
    [{ size: '2', working: '25' }, 20],
    [{ size: '1-1/2', working: '18' }, 18],
    [{ size: '2-1/2', working: '25' }, 15],
    [{ size: '3', working: '12' }, 12],
  ])('%j: at most %d psi, the lower of the schools and of the working pressure', (answers, most) => expect(ceiling(answers)).toBe(most));
  test('10 min; three attempts before “leaks”', () => {
    expect(holdOf(id).seconds).toBe(600);
    const plan = examplePlan(id);
    const holds = judge(plan, exampleEvents(plan, 'leak')).phases.filter(
      (phase) => phase.id.startsWith('hold') && outcomeOf(phase) === 'fall',
    );
    expect(holds.map((phase) => phase.id)).toEqual(['hold', 'hold-2', 'hold-3']);
  });
  test('for n openings n − 1 closed plugs and one open, each proved; valves take none', () => {
    const plugs = (openings: string) =>
      itemsOf(id, 'prepare', { answers: { openings, trials: '' } }).filter((item) => item.startsWith('plug-'));
    expect(plugs('Equipment end\nReturn 1\nReturn 2')).toHaveLength(2);
    expect(plugs('Equipment end\nReturn 1\nBlower valve')).toHaveLength(1);
  });
  test('an opening that the trials put on this line and that the list leaves out is refused', () =>
    expect(exampleProblems(id, { answers: { openings: 'Equipment end\nReturn 1\nReturn 2' } })).toHaveLength(1));
  test('raised slowly, the same plant holds; in one go a plug fires', () => {
    const plan = examplePlan(id);
    const raises = exampleEvents(plan, 'sound').filter((event) => event.type === 'plant' && event.action === 'raise');
    expect(raises.map((event) => (event.type === 'plant' ? event.value : ''))).toEqual(['5.0', '10.0', '15.0', '17.5']);
    expect(judge(plan, exampleEvents(plan, 'fast-rise')).verdict).toBe('fail');
  });
  test('air is refused for judging, a line not cleared too; thrust at a plug is said', () => {
    expect(exampleProblems(id, { answers: { medium: 'air' } })).toEqual(['medium-air']);
    expect(exampleProblems(id, { answers: { cleared: 'no' } })).toHaveLength(1);
    const planned = planTest(exampleFor(id));
    // 2.067 in bore at 20 psi: 299 N, 67.1 lbf.
    expect(planned.ok && [...planned.value.advice.map(adviceText), ...planned.value.plan.derivation].join(' ')).toMatch(/67\.[0-9] lbf/);
  });
});

describe('static dye (DOMAIN 5.15)', () => {
  const id = 'pool-dye-static';
  test('drawn in fails; not drawn in clears nothing', () => {
    const plan = examplePlan(id);
    expect(plan.conclusions.map(({ verdict }) => verdict)).toEqual(['fail', 'inconclusive']);
    expect(judge(plan, exampleEvents(plan, 'sound')).reasons[0].code).toBe('dye-not-drawn');
  });
  test('water lost only with the pump on, and pipe above the water, go to the pressure test', () => {
    const wrong = (answers: Readonly<Record<string, string>>) => exampleProblems(id, { answers });
    expect(wrong({ lost: 'running' })).toEqual(['dye-pressure']);
    expect(wrong({ above: 'above' })).toEqual(['dye-above']);
  });
});
