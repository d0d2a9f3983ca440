import { answerLabel, checkAnswers, optionalIn, quantityIn } from '../procedures/answers';
import { askChoice, askQuantity, askText } from '../procedures/questions';

const parameters = [
  askChoice('fluid', 'Fluid', ['water', ['air', 'Air, dry']]),
  askQuantity('pressure', 'Pressure', 'pressure', 'psi', '3', ['0.5', '15']),
  askQuantity('margin', 'Margin', 'length', 'm', '', ['0', '10'], '', { optional: true }),
  askText('reference', 'Reference', 'Letter and date.', false, { askedFor: { answer: 'fluid', is: ['air'] } }),
];
const asked = { parameters };
const good = { fluid: 'water', pressure: '3', margin: '', reference: '' };
const found = (change: Readonly<Record<string, string>>) =>
  checkAnswers(asked, { ...good, ...change }).map(({ code, field }) => `${field} ${code}`);

test.each([
  [{}, []],
  [{ fluid: 'oil' }, ['fluid answer-unknown']],
  [{ fluid: '' }, ['fluid answer-missing']],
  [{ pressure: '' }, ['pressure answer-missing']],
  [{ pressure: '   ' }, ['pressure answer-missing']],
  [{ pressure: '0.5' }, []],
  [{ pressure: '15' }, []],
  [{ pressure: '0.499' }, ['pressure out-of-range']],
  [{ pressure: '15.001' }, ['pressure out-of-range']],
  [{ pressure: '0' }, ['pressure out-of-range']],
  [{ pressure: '3 m' }, ['pressure unit-unknown']],
  [{ margin: '-1' }, ['margin out-of-range']],
  [{ margin: '0' }, []],
  [{ margin: '32 ft' }, []],
  [{ margin: '33 ft' }, ['margin out-of-range']],
  // A question that is not asked may hold anything.
  [{ reference: '' }, []],
  [{ fluid: 'air' }, ['reference answer-missing']],
  [{ fluid: 'oil', pressure: 'x', margin: '99' }, ['fluid answer-unknown', 'pressure not-a-number', 'margin out-of-range']],
])('%j: %j', (change, expected) => expect(found(change)).toEqual(expected));

test('bounds are said in the unit that was typed', () => {
  const [problem] = checkAnswers(asked, { ...good, pressure: '2 bar' });
  expect(problem.message).toBe('Pressure: it must lie between 0.03447 and 1.034 bar; check the figure and its unit.');
  expect(checkAnswers(asked, { ...good, pressure: '-2' })[0].message).toBe('Pressure: it must be above zero.');
  expect(checkAnswers(asked, { ...good, margin: '-2' })[0].message).toBe('Margin: it cannot be below zero.');
});

test('answers are read in SI and labelled as people read them', () => {
  expect(quantityIn(asked, good, 'pressure')).toBeCloseTo(20_684.27, 2);
  expect(optionalIn(asked, good, 'margin', 'm')).toBeUndefined();
  expect(optionalIn(asked, { ...good, margin: '10 ft' }, 'margin', 'm')).toBeCloseTo(3.048, 9);
  expect(() => quantityIn(asked, good, 'fluid')).toThrow(RangeError);
  expect(answerLabel(asked, 'fluid', 'air')).toEqual({ label: 'Fluid', value: 'Air, dry' });
  expect(answerLabel(asked, 'pressure', '3')).toEqual({ label: 'Pressure', value: '3 psi' });
  expect(answerLabel(asked, 'pressure', '0.2 bar')).toEqual({ label: 'Pressure', value: '0.2 bar' });
});
