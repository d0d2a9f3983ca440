import { watchMoment } from './watch-moment';

const now = Date.UTC(2026, 10, 28, 13, 3, 10);

test.each([
  ['14:03:20', 60, 10_000],
  ['14.03.05', 60, -5000],
  ['2:03:20 pm', 60, 10_000],
  ['130310', 0, 0],
  ['00:00:05', -783, 5000 - 10_000],
])('%s at an offset of %d min', (text, offset, ahead) => expect(watchMoment(text, now, offset)).toBe(now + ahead));

test('just after midnight by the watch, just before it by the device', () => {
  const late = Date.UTC(2026, 10, 28, 23, 59, 58);
  expect(watchMoment('00:00:03', late, 0)).toBe(late + 5000);
});

test.each(['', '14:03', '25:00:00', '14:60:00', '13:00:00 pm', 'noon'])('%p is no time, and the way out is said', (text) =>
  expect(watchMoment(text, now, 0)).toMatch(/such as 14:03:20/),
);
