import fc from 'fast-check';
import {
  absolute,
  add,
  atLeast,
  compare,
  compareQuantities,
  type Decimal,
  decimal,
  exactSi,
  fromSi,
  isMultipleOf,
  parseQuantity,
  pressureUnits,
  readDecimal,
  round,
  subtract,
  toSi,
  toText,
  unitKind,
  unitLabel,
  unitsOf,
} from '.';
import { readKeypad, showAt } from './display';
import { absolutePa, atmosphereAt, atmosphereFromBarometer, gaugePa, toAbsolute } from './pressure';

const decimals = fc.record({ digits: fc.bigInt({ min: -(10n ** 12n), max: 10n ** 12n }), scale: fc.integer({ min: 0, max: 6 }) });

describe('exact decimals', () => {
  test('20.2 − 20.0 is 0.2, which binary fractions deny', () => {
    expect(compare(subtract(decimal('20.2'), decimal('20.0')), decimal('0.2'))).toBe(0);
    expect(20.2 - 20.0 >= 0.2).toBe(false);
  });

  test('every pair of readings a threshold apart reaches it, and one step less does not', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 100_000 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 500 }),
        (start, scale, threshold) => {
          const at = (digits: number): Decimal => ({ digits: BigInt(digits), scale });
          const fall = subtract(at(start + threshold), at(start));
          return atLeast(fall, at(threshold)) && !atLeast(subtract(at(start + threshold - 1), at(start)), at(threshold));
        },
      ),
    );
  });

  test('text round trips, and keeps its trailing zeros', () => {
    expect(toText(decimal('-0.50'))).toBe('-0.50');
    fc.assert(fc.property(decimals, (value) => toText(readDecimal(toText(value)) as Decimal) === toText(value)));
  });

  test('addition and subtraction undo each other; comparison is an order', () => {
    fc.assert(fc.property(decimals, decimals, (a, b) => compare(subtract(add(a, b), b), a) === 0 && compare(a, b) === -compare(b, a)));
  });

  test.each([
    ['2.25', 1, 'nearest', '2.3'],
    ['-2.25', 1, 'nearest', '-2.3'],
    ['2.21', 1, 'up', '2.3'],
    ['-2.29', 1, 'up', '-2.2'],
    ['2.29', 1, 'down', '2.2'],
    ['-2.21', 1, 'down', '-2.3'],
    ['2', 2, 'nearest', '2.00'],
  ] as const)('%s to %i decimals, %s, is %s', (from, scale, rounding, expected) => {
    expect(toText(round(decimal(from), scale, rounding))).toBe(expected);
  });

  test('multiples of a gauge’s step', () => {
    expect(isMultipleOf(decimal('20.25'), decimal('0.25'))).toBe(true);
    expect(isMultipleOf(decimal('20.3'), decimal('0.25'))).toBe(false);
  });

  test.each(['', 'abc', '1e5', '--1', '1.', '.5', 'NaN', 'Infinity', '1,5'])('%j is no decimal', (text) =>
    expect(readDecimal(text)).toBeUndefined(),
  );
});

describe('units', () => {
  test.each([
    ['1', 'inH2O', 249.08891],
    ['1', 'mH2O', 9806.65],
    ['1', 'at', 98_066.5],
    ['1', 'psi', 6894.757293],
    ['0.1', 'psi', 689.4757293],
    ['1', 'atm', 101_325],
    ['1', 'ft3', 0.028316846592],
    ['1', 'galUS', 0.003785411784],
    ['1', 'ft2', 0.09290304],
  ] as const)('%s %s is %d in SI', (value, unit, expected) => expect(Number(toText(exactSi(decimal(value), unit)))).toBe(expected));

  test('every unit converts to SI and back', () => {
    const all = (['pressure', 'volume', 'flow', 'length', 'area', 'temperature', 'time'] as const).flatMap((kind) => unitsOf(kind));
    fc.assert(
      fc.property(
        fc.constantFrom(...all),
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        (unit, value) => Math.abs(fromSi(toSi(value, unit), unit) - value) <= 1e-9 * Math.max(1, value),
      ),
    );
    expect(all.length).toBeGreaterThan(30);
    for (const unit of pressureUnits) expect(unitKind(unit)).toBe('pressure');
  });

  test('temperatures are affine', () => {
    expect(toSi(70, 'F')).toBeCloseTo(294.261, 3);
    expect(toSi(0, 'C')).toBe(273.15);
  });
});

describe('what people type', () => {
  test.each([
    ['7 1/2', 'pressure', 'inH2O', '7.5', 'inH2O'],
    ['7.5"', 'pressure', 'inH2O', '7.5', 'inH2O'],
    ['20,5 mbar', 'pressure', 'psi', '20.5', 'mbar'],
    ['3psi', 'pressure', 'mbar', '3', 'psi'],
    ['1-1/4', 'length', 'in', '1.25', 'in'],
    ['3/4"', 'length', 'mm', '0.75', 'in'],
    ['-0,5', 'pressure', 'mbar', '-0.5', 'mbar'],
    ['−1.5', 'pressure', 'mbar', '-1.5', 'mbar'],
    ['40ft', 'length', 'm', '40', 'ft'],
    ['8 inH₂O', 'pressure', 'mbar', '8', 'inH2O'],
    ['5 in w.c.', 'pressure', 'mbar', '5', 'inH2O'],
    ['2 m³', 'volume', 'L', '2', 'm3'],
    ['.5', 'pressure', 'mbar', '0.5', 'mbar'],
    ['0,125', 'pressure', 'mbar', '0.125', 'mbar'],
  ] as const)('%j as %s is %s %s', (text, kind, assumed, value, unit) => {
    const read = parseQuantity(text, kind, assumed);
    expect(read.ok && { value: toText(read.value.value), unit: read.value.unit }).toEqual({ value, unit });
  });

  test.each([
    ['', 'empty'],
    ['abc', 'not-a-number'],
    ['1,234', 'comma-ambiguous'],
    ['1.2.3', 'not-a-number'],
    ['1/3', 'fraction'],
    ['1/0', 'fraction'],
    ['5 furlongs', 'unit-unknown'],
    ['5 mpa', 'unit-unknown'],
    ['5 L', 'unit-unknown'],
  ])('%j is refused as %s, with words', (text, code) => {
    const read = parseQuantity(text, 'pressure', 'mbar');
    expect(!read.ok && read.problem.code).toBe(code);
    expect(!read.ok && read.problem.message.length).toBeGreaterThan(10);
  });

  test('what is formatted parses to itself', () => {
    fc.assert(
      fc.property(decimals, fc.constantFrom(...pressureUnits), (value, unit) => {
        const text = `${toText(value)} ${unit}`;
        const read = parseQuantity(text, 'pressure', 'Pa');
        // 1,234-like ambiguity cannot arise: a point is written.
        return read.ok && compare(read.value.value, value) === 0 && read.value.unit === unit;
      }),
    );
  });

  test('no text at all makes it throw', () => {
    fc.assert(fc.property(fc.string(), (text) => typeof parseQuantity(text, 'pressure', 'mbar').ok === 'boolean'));
  });
});

describe('the keypad and the gauge', () => {
  test.each([
    ['205', '0.1', '20.5'],
    ['2053', '0.01', '20.53'],
    ['20', '0.1', '20'],
    ['20.5', '0.1', '20.5'],
    ['20,5', '0.1', '20.5'],
    ['-05', '0.1', '-5'],
    ['205', '1', '205'],
  ])('%s on a gauge of %s reads as %s', (text, readability, expected) => {
    const value = readKeypad(text, readability, '42');
    expect(value && toText(value)).toBe(expected);
  });

  test.each(['', '-', 'x', '2 0', '1e3'])('%j is no reading', (text) => expect(readKeypad(text, '0.1', '42')).toBeUndefined());

  test('a coarse needle never shows more than it can', () => expect(showAt(decimal('2.9731'), '0.1')).toBe('3.0'));
});

describe('gauge and absolute', () => {
  test('atmosphere at 1500 m is 845.6 hPa', () => {
    const at = atmosphereAt(1500);
    expect(at.ok && Math.round(at.value / 10) / 10).toBe(845.6);
  });

  test('impossible pressures are refused, NaN among them', () => {
    for (const pa of [Number.NaN, Number.POSITIVE_INFINITY, -200_000, 1e9]) expect(gaugePa(pa).ok).toBe(false);
    for (const pa of [Number.NaN, 0, -1]) expect(absolutePa(pa).ok).toBe(false);
    expect(atmosphereAt(Number.NaN).ok).toBe(false);
  });

  test('gauge plus atmosphere is absolute', () => {
    const gauge = gaugePa(2000);
    const air = absolutePa(101_325);
    const sum = gauge.ok && air.ok ? toAbsolute(gauge.value, air.value) : undefined;
    expect(sum?.ok && sum.value).toBe(103_325);
    expect(absolute(decimal('-2')).digits).toBe(2n);
  });
});

describe('quantities of one kind across units', () => {
  const kinds = ['pressure', 'volume', 'flow', 'length', 'area', 'time'] as const;
  const pairs = fc
    .constantFrom(...kinds)
    .chain((kind) => fc.tuple(fc.constantFrom(...unitsOf(kind)), fc.constantFrom(...unitsOf(kind)))) as fc.Arbitrary<['mbar', 'psi']>;

  test('comparing is an order: turned round it is the opposite, a unit against itself is plain, and it agrees with SI', () => {
    fc.assert(
      fc.property(pairs, decimals, decimals, ([unit, other], a, b) => {
        const [x, y] = [toSi(Number(toText(a)), unit), toSi(Number(toText(b)), other)];
        const found = compareQuantities(a, unit, b, other);
        const apart = Math.abs(x - y) > 1e-9 * Math.max(Math.abs(x), Math.abs(y));
        return (
          found === -compareQuantities(b, other, a, unit) &&
          compareQuantities(a, unit, b, unit) === compare(a, b) &&
          (!apart || found === Math.sign(x - y))
        );
      }),
    );
  });
  test('an hour’s litres are a minute’s sixtieth, exactly: no binary fraction decides', () => {
    expect(compareQuantities(decimal('60'), 'L/h', decimal('1'), 'L/min')).toBe(0);
    expect(compareQuantities(decimal('0.1'), 'L/min', decimal('6'), 'L/h')).toBe(0);
    expect(compareQuantities(decimal('6.0000001'), 'L/h', decimal('0.1'), 'L/min')).toBe(1);
  });
  test('what is printed with its unit is read back as the same quantity', () => {
    for (const kind of [...kinds, 'temperature'] as const)
      for (const unit of unitsOf(kind))
        fc.assert(
          fc.property(decimals, (value) => {
            const text = toText(value);
            const read = parseQuantity(`${text} ${unitLabel(unit)}`, kind, unitsOf(kind)[0]);
            // A comma or a point before three digits alone can mean two things only with a comma; ours has a point.
            return read.ok && read.value.unit === unit && compare(read.value.value, value) === 0;
          }),
          { numRuns: 20 },
        );
  });
  test('a barometer overrides the altitude, and must be one', () => {
    expect(atmosphereFromBarometer(84_560)).toEqual({ ok: true, value: 84_560 });
    for (const wrong of [49_999, 110_001, Number.NaN])
      expect(atmosphereFromBarometer(wrong)).toMatchObject({ ok: false, problem: { code: 'barometer-range' } });
  });
});
