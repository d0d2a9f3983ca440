import { procedureById, procedures } from '../procedures';
import { examplePlan } from '../simulation/examples.fixture';
import { supplyClash, supplyNeeded } from './supplies';

const of = (id: string, phase: string) => {
  const procedure = procedureById(id);
  if (procedure === undefined) throw new Error(id);
  return { name: id, procedure, phase };
};

describe('a supply that two tests on a site need in two states (DOMAIN 11)', () => {
  test('the drain is filled with the water on, while the isolation hold has it shut: said, and who has to wait', () => {
    const sentence = supplyClash(of('drain-level-hold', 'fill'), of('water-isolation-hold', 'hold'));
    expect(sentence).toMatch(/^water-isolation-hold runs with the water shut; drain-level-hold now needs it on/);
    expect(supplyClash(of('water-isolation-hold', 'hold'), of('drain-level-hold', 'fill'))).toBe(sentence);
  });
  test('no word where both want it alike, or one has no need of it', () => {
    expect(supplyClash(of('drain-level-hold', 'fill'), of('water-isolation-hold', 'supply'))).toBeUndefined();
    expect(supplyClash(of('drain-level-hold', 'hold'), of('water-isolation-hold', 'hold'))).toBeUndefined();
    expect(supplyClash(of('meter-turn-on-inches', 'hold'), of('water-isolation-hold', 'restore'))).toBeUndefined();
  });
  test('every phase that a task names is one of its procedure’s course', () => {
    for (const { id, tasks } of procedures) {
      const known = new Set(
        [examplePlan(id), examplePlan(id, id === 'meter-turn-on-inches' ? { answers: { dial: 'always' } } : {})].flatMap(({ phases }) =>
          phases.map((phase) => phase.id),
        ),
      );
      for (const { phases = [], supply } of tasks) {
        expect(phases.length > 0).toBe(supply !== undefined);
        for (const phase of phases) expect({ id, phase, known: known.has(phase) }).toEqual({ id, phase, known: true });
      }
    }
  });
  test('a phase without a task needs nothing', () => expect(supplyNeeded(of('duct-tightness', 'points'))).toBeUndefined());
});
