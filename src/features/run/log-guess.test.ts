import { guessMapping } from './log-guess';

const guess = (header: readonly string[], ...rows: readonly (readonly string[])[]) =>
  guessMapping({ delimiter: ',', header, rows, firstLine: 2 }, 'mbar', 60);

test('one column of date and time, the unit in the header', () =>
  expect(
    guess(['Time', 'Pressure (psi)', 'Battery'], ['2026-03-02 09:00:00', '3.01', '88'], ['2026-03-02 09:00:01', '3.01', '88']),
  ).toMatchObject({
    time: 0,
    value: 1,
    order: 'ymd',
    unit: 'psi',
    offsetMinutes: 60,
  }));

test('date and time apart, decimal comma, day first; the other figure is no pressure', () =>
  expect(guess(['No', 'Datum', 'Zeit', 'Temp', 'Druck [hPa]'], ['1', '25.03.2026', '09:00:00', '15,2', '20,5'])).toMatchObject({
    date: 1,
    time: 2,
    value: 4,
    order: 'dmy',
    unit: 'hPa',
  }));

test('month first where the day cannot be a month', () =>
  expect(guess(['When', 'p'], ['3/25/2026 9:00:00 AM', '20.5'])).toMatchObject({ order: 'mdy', time: 0, value: 1, unit: 'mbar' }));

test('seconds since a start', () =>
  expect(guess(['t (s)', 'Pressure'], ['0', '20.5'], ['1', '20.5'])).toMatchObject({ order: 'seconds', time: 0, value: 1 }));

test('nothing to go by is guessed without a fault', () => {
  expect(guess(['a'], ['x'])).toMatchObject({ time: 0, value: 0 });
  expect(guess([])).toMatchObject({ time: 0 });
});
