import { judge } from '../../judging/judge';
import { planTest } from '../../planning/plan';
import { exampleEvents, exampleFor, examplePlan, exampleProblems } from '../../simulation/examples.fixture';
import { holdOf, phaseIds } from '../../simulation/of-plan.fixture';
import { adviceText } from '../procedure';

/* DOMAIN 3.10 and 5.13: strength at 1.1 × PS of each side, then tightness at PS or below. */

const id = 'refrigerant-nitrogen';
const one = (answers: Readonly<Record<string, string>>) => ({ answers: { sides: 'low', 'low-ps': '', ...answers } });

test('R407F of a published 14.8 bar: strength 16.3 bar for 15 min, then an hour at PS or below', () => {
  expect(holdOf(id, {}, 'strength-low')).toMatchObject({ seconds: 900, band: { low: '16.3' } });
  expect(holdOf(id, {}, 'tightness-low')).toMatchObject({ seconds: 3600, corrects: { needed: 'nothing' } });
  expect(Number(holdOf(id, {}, 'tightness-low').band.high)).toBeLessThanOrEqual(14.8);
});
test.each([
  // Saturation, bar gauge (DOMAIN 3.10), × 1.1.
  ['R134a', '25', '6.2'],
  ['R32', '25', '17.5'],
  ['R410A', '25', '17.1'],
  ['R717', '25', '9.9'],
])('%s at %s °C without a nameplate: %s bar', (refrigerant, design, expected) =>
  expect(holdOf(id, { ...one({ refrigerant, 'low-design': design }) }, 'strength-low').band.low).toBe(expected),
);
test('1.43 where the specification asks for it', () =>
  expect(holdOf(id, { answers: { factor: '1.43' } }, 'strength-low').band.low).toBe('21.2'));
test('an estimate never sets a pressure: a blend asks for its nameplate; above the critical temperature so does R744', () => {
  expect(exampleProblems(id, one({ refrigerant: 'R407F' }))).toEqual(['blend-nameplate']);
  expect(exampleProblems(id, one({ refrigerant: 'R744', 'low-design': '40' }))).toHaveLength(1);
  const planned = planTest(exampleFor(id, one({ refrigerant: 'R744', 'low-design': '40' })));
  expect(!planned.ok && planned.problems[0]).toMatchObject({ field: 'low-ps', message: expect.stringContaining('nameplate') });
  expect(exampleProblems(id, one({ refrigerant: 'R744', 'low-design': '40', 'low-ps': '90', regulator: '150' }))).toEqual([]);
});
test('a refrigerant that hardly stands at its design temperature is refused', () =>
  expect(exampleProblems(id, one({ refrigerant: 'R600a', 'low-design': '-10' }))).toEqual(['design-cold']));
test.each([
  ['oxygen', 'medium-oxygen'],
  ['air', 'medium-air'],
])('%s is refused', (gas, code) => expect(exampleProblems(id, { answers: { gas } })).toContain(code));
test('refrigerant as test gas, and refrigerant still in it, are refused', () => {
  expect(exampleProblems(id, { answers: { gas: 'refrigerant' } }).length).toBeGreaterThan(0);
  expect(exampleProblems(id, { answers: { recovered: 'in it' } }).length).toBeGreaterThan(0);
});
test('a regulator that does not reach is refused; one far above is advised against', () => {
  expect(exampleProblems(id, { answers: { regulator: '30' } })).toEqual(['regulator-short']);
  const planned = planTest(exampleFor(id, { answers: { regulator: '100' } }));
  expect(planned.ok && planned.value.advice.map(adviceText).join(' ')).toContain('more than twice');
});
test('one side alone has one rise and no watching of the other', () => {
  const phases = phaseIds(id, { answers: { sides: 'high' } });
  expect(phases.filter((phase) => phase.endsWith('-low'))).toEqual([]);
  const plan = examplePlan(id, { answers: { sides: 'high' } });
  expect(judge(plan, exampleEvents(plan, 'sound')).verdict).toBe('pass');
});
test('it rises from 1 bar in steps, and its stored energy is said', () => {
  const rise = examplePlan(id).phases.find((phase) => phase.id === 'rise-low');
  expect(rise?.kind === 'check' && rise.items.map(({ to }) => to)).toEqual(['1.0', '6.0', '11.0', '16.3']);
  const planned = planTest(exampleFor(id));
  expect(planned.ok && planned.value.advice.map(adviceText).join(' ')).toMatch(/kJ/);
});
test('where a temperature is missing the long hold proves nothing', () => {
  const plan = examplePlan(id);
  const events = exampleEvents(plan, 'sound').filter(
    (event) => !(event.type === 'reading' && event.quantity === 'temperature' && event.role === 'end' && event.phase === 'tightness-low'),
  );
  expect(judge(plan, events).provisional).not.toMatch(/^pass/);
});
