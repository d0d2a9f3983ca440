import { demoGauge } from '../simulation/examples.fixture';
import { instrument } from './one-phase.fixture';
import { typedFigure } from './typed-figure';

test('nothing is rounded away: more digits than the instrument shows do not count', () => {
  expect(typedFigure('20.5', demoGauge)).toEqual({ shown: '20.50' });
  expect(typedFigure('20.505', demoGauge)).toMatchObject({ shown: '20.505', fault: expect.stringContaining('steps of 0.01') });
  expect(typedFigure('200', demoGauge)).toEqual({ shown: '2.00' });
  expect(typedFigure('', demoGauge).fault).toMatch(/digits/);
});

test('a rule held to the rim reads below it: its figures are typed without a sign, and what lies above it does not count', () => {
  const rim = { ...instrument('mm', '1'), rangeLow: '-1000', rangeHigh: '0' };
  expect(typedFigure('35', rim)).toEqual({ shown: '-35' });
  expect(typedFigure('-35', rim)).toEqual({ shown: '-35' });
  expect(typedFigure('0', rim)).toEqual({ shown: '0' });
  expect(typedFigure('1200', rim).fault).toMatch(/-1000 to 0 mm/);
  expect(typedFigure('35', { ...rim, readability: '0.5' })).toEqual({ shown: '-35.0' });
});
