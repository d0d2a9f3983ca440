import fc from 'fast-check';
import { parseTrials } from './line-groups';
import { closingOf, nextOutlet, openingsOfLine, openingText, outletsOf, trialsText, turned } from './line-map';
import { parseOpening, plugKinds } from './plugs';

const outlet = fc.constantFrom('Return 1', 'Return 2', 'Skimmer 1', 'Main drain', 'Equipment end');

test('what is tapped is read back as it was tapped', () =>
  fc.assert(
    fc.property(fc.array(fc.record({ at: outlet, answered: fc.uniqueArray(outlet) }), { maxLength: 4 }), (trials) => {
      expect(parseTrials(trialsText(trials))).toEqual({ trials, problems: [] });
    }),
  ));

test('a tap on what answered takes it back, whatever the case', () => {
  const trial = { at: 'Skimmer 1', answered: ['Skimmer 2'] };
  expect(turned(trial, 'Return 1').answered).toEqual(['Skimmer 2', 'Return 1']);
  expect(turned(trial, 'skimmer 2').answered).toEqual([]);
});

test.each(['Return 1', 'Main drain', 'Equipment end'])('every way of closing %s is read as it was chosen', (place) => {
  for (const closing of [...(Object.keys(plugKinds) as (keyof typeof plugKinds)[]), 'valve'] as const) {
    const read = parseOpening(openingText(place, closing));
    expect(read.ok && [read.value.place, closingOf(read.value)]).toEqual([place, closing]);
  }
});

test('a skimmer takes a long plug of itself', () => expect(openingText('Skimmer 1', 'long')).toBe('Skimmer 1'));

test('outlets are numbered; what there is one of is not', () => {
  expect(nextOutlet('Return', false, [])).toBe('Return 1');
  expect(nextOutlet('Return', false, ['return 1', 'Return 2'])).toBe('Return 3');
  expect(nextOutlet('Main drain', true, [])).toBe('Main drain');
  expect(nextOutlet('Main drain', true, ['Main drain'])).toBe('Main drain 2');
});

test('a line that the trials found becomes the openings; how they are closed stays', () => {
  expect(outletsOf('Return 2 hook', 'Return 1: Return 2, Return 3')).toEqual(['Return 2', 'Return 1', 'Return 3']);
  expect(openingsOfLine(['Return 1', 'Return 2'], 'Return 2 hook')).toBe('Return 1\nReturn 2 hook');
});
