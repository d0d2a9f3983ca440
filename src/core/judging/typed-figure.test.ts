import { demoGauge } from '../simulation/examples.fixture';
import { typedFigure } from './typed-figure';

test('nothing is rounded away: more digits than the instrument shows do not count', () => {
  expect(typedFigure('20.5', demoGauge)).toEqual({ shown: '20.50' });
  expect(typedFigure('20.505', demoGauge)).toMatchObject({ shown: '20.505', fault: expect.stringContaining('steps of 0.01') });
  expect(typedFigure('200', demoGauge)).toEqual({ shown: '2.00' });
  expect(typedFigure('', demoGauge).fault).toMatch(/digits/);
});
