import { holdByVolume, minutesOf, type VolumeHold } from '../sizing/volume-hold';

const base: VolumeHold = { cubicFeet: 2, floorSeconds: 900, secondsPer500: 1800, floorIsHouse: false };
const short = { seconds: 600, reference: 'City code 4.2' };
const small = 'a single dwelling';
const seconds = (change: Partial<VolumeHold>) => holdByVolume({ ...base, ...change }).seconds;

test.each([
  [0.001, 1800],
  [500, 1800],
  [500.0000001, 1800],
  [500.001, 3600],
  [1000, 3600],
  [12_000, 43_200],
  [24_001, 86_400],
])('%d ft³: %d s', (cubicFeet, expected) => expect(seconds({ cubicFeet })).toBe(expected));

test('a longer floor counts, a shorter one does not', () => {
  expect(seconds({ floorSeconds: 3600 })).toBe(3600);
  expect(seconds({ floorSeconds: 60 })).toBe(1800);
});

test('a code’s short time stands for what it is of, and yields to a house rule', () => {
  const found = holdByVolume({ ...base, small, short });
  expect(found.seconds).toBe(600);
  expect(found.why[0]).toContain('as City code 4.2 allows for a single dwelling');
  expect(seconds({ small, short, floorIsHouse: true, floorSeconds: 3600 })).toBe(3600);
});

test('a small system holds the floor, whatever its volume; a code’s short time is for such alone', () => {
  expect(seconds({ small, cubicFeet: 600 })).toBe(900);
  expect(seconds({ small, cubicFeet: 600, floorIsHouse: true, floorSeconds: 3600 })).toBe(3600);
  expect(seconds({ short })).toBe(1800);
});

test('whoever asks for longest is heard; less than what is due is said, not taken', () => {
  expect(seconds({ askedSeconds: 2400.2 })).toBe(2401);
  expect(holdByVolume({ ...base, askedSeconds: 1799 })).toMatchObject({ seconds: 1800, askedTooLittle: true });
  expect(holdByVolume({ ...base, askedSeconds: 1800 })).toMatchObject({ askedTooLittle: false });
});

test('minutes are whole, or have one decimal', () => expect([60, 90, 100].map(minutesOf)).toEqual(['1', '1.5', '1.7']));
