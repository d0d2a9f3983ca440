import { between, decimalText, name, oneOf } from '../exact/shape';
import { mainAllowance, mainMaterials, meanPressure } from '../physics/main-allowance';
import {
  add,
  compareQuantities,
  type Decimal,
  decimal,
  fromNumber,
  fromSi,
  type InstrumentUnit,
  type LengthUnit,
  multiply,
  referencePressure,
  round,
  subtract,
  toNumber,
  toSi,
  toText,
  unitLabel,
  unitsOf,
  type VolumeUnit,
} from '../quantities';
import type { HeldBefore, PointValue } from './facts';
import { measureRoom, type Verdict } from './room';
import { finder, reason } from './say';
import type { Contents } from './sight';

type Made = 'title' | 'made' | 'madeUnit' | 'allowed' | 'unit' | 'mean' | 'pressureUnit' | 'hours' | 'drawn' | 'pumped' | 'added' | 'main';
const says = {
  'make-up-read': reason<Made>(
    'note',
    (d) => `${d.made} ${d.madeUnit} in ${d.hours} h, ${d.allowed} ${d.unit} allowed.`,
    (d) => [
      `Allowance for ${d.main} in ${d.hours} h at a mean of ${d.mean} ${d.pressureUnit}: ${d.allowed} ${d.unit}`,
      `Drawn ${d.drawn}, pumped back during the hold ${d.pumped}${d.added === '0' ? '' : `, and one step of the vessel, ${d.added}, since it is coarse`}: ${d.made} ${d.madeUnit}`,
    ],
  ),
  'make-up-short': reason<'title' | 'back' | 'start' | 'to' | 'lowest' | 'pressureUnit'>(
    'inconclusive',
    (d) =>
      `${d.title}: pumped back to ${d.back} and drawn down to ${d.to} ${d.pressureUnit}; it had to go from ${d.start} to ${d.lowest}. The make-up is understated: pump back to the start and draw down to the low pressure, and measure again.`,
  ),
  'make-up-beyond': reason<'title' | 'back' | 'start' | 'to' | 'lowest' | 'pressureUnit'>(
    'inconclusive',
    (d) =>
      `${d.title}: pumped back to ${d.back} and drawn down to ${d.to} ${d.pressureUnit}, further than from ${d.start} to ${d.lowest}. The make-up is overstated, so it proves no leak: measure again between those two.`,
  ),
  'make-up-unclear': reason<'title'>('inconclusive', (d) => `${d.title}: the make-up cannot be worked out from what was read.`),
} as const;
const find = finder(says);

const onePsi = decimal('1');

/** Whether one pressure stands above another by more than a step or 1 psi, the larger. */
const above = (one: PointValue, other: Decimal, { unit, step }: HeldBefore): boolean => {
  const more = compareQuantities(one.value, one.unit, add(other, step), unit) > 0;
  if (!more) return false;
  // Exact in the hold's own unit where both are read on the same gauge, as they are.
  return one.unit === unit ? compareQuantities(subtract(one.value, other), unit, onePsi, 'psi') > 0 : true;
};
const below = (one: PointValue, other: Decimal, held: HeldBefore): boolean =>
  compareQuantities(one.value, one.unit, subtract(other, held.step), held.unit) < 0 &&
  (one.unit !== held.unit || compareQuantities(subtract(other, one.value), held.unit, onePsi, 'psi') > 0);

/** Points of the make-up by name: the pressure that was pumped back to, and that drawn down to with the water drawn. */
export const makeUpPoints = { back: 'back', drawn: 'drawn' } as const;

/**
 * Make-up of a water main against its allowance (DOMAIN 3.8, 5.12): what was drawn into the vessel afterwards and what was
 * pumped back during the hold, each converted exactly. The mean pressure is that of the start and the lowest reading; the time
 * is the planned one, which is the stricter where the end came late. Worked in the units in which the main was given; rounded
 * down, never in its favour.
 */
export const makeUpAtMost = measureRoom(
  'make-up-at-most',
  {
    hold: name,
    material: oneOf(...mainMaterials),
    length: decimalText,
    lengthUnit: oneOf(...(unitsOf('length') as readonly LengthUnit[])),
    diameter: decimalText,
    diameterUnit: oneOf(...(unitsOf('length') as readonly LengthUnit[])),
    seconds: between(1, 604_800),
    unit: oneOf(...(unitsOf('volume') as readonly VolumeUnit[])),
  },
  {
    decides: true,
    says,
    sum: (data) => says['make-up-read'].working?.(data as never) ?? [],
    hoped: () => 'within',
    outcomes: () => ['within', 'over', 'short', 'beyond', 'unclear'],
    judge: (limit, { title, points, hold, planUnit }) => {
      const held = hold(limit.hold);
      const nothing: Verdict = {
        outcome: 'unclear',
        effect: 'spoils',
        data: { title },
        findings: [find('make-up-unclear', { title })],
      };
      const back = points.find(({ id }) => id === makeUpPoints.back)?.values.get('pressure');
      const last = points.find(({ id }) => id === makeUpPoints.drawn)?.values;
      const drawn = last?.get('volume');
      const to = last?.get('pressure');
      if (held === undefined || drawn === undefined || back === undefined || to === undefined) return nothing;
      const pumped = held.pumped.reduce((sum, { value, unit }) => add(sum, converted(value, unit, drawn.unit)), decimal('0'));
      const meanPa = meanPressure(toSi(toNumber(held.start), held.unit), toSi(toNumber(held.lowest), held.unit));
      const allowed = allowance(limit, meanPa);
      if (allowed === undefined) return nothing;
      // A vessel whose step is over a tenth of the allowance may hide that step.
      const coarse = compareQuantities(multiply(decimal(drawn.step), decimal('10')), drawn.unit, allowed, limit.unit) > 0;
      const added = coarse ? decimal(drawn.step) : decimal('0');
      const total = add(add(drawn.value, pumped), added);
      const within = compareQuantities(total, drawn.unit, allowed, limit.unit) <= 0;
      const understated = below(back, held.start, held) || above(to, held.lowest, held);
      const overstated = above(back, held.start, held) || below(to, held.lowest, held);
      const data = {
        title,
        made: toText(total),
        madeUnit: unitLabel(drawn.unit),
        allowed: toText(allowed),
        unit: unitLabel(limit.unit),
        mean: fromSi(meanPa, planUnit).toFixed(1),
        pressureUnit: unitLabel(planUnit),
        hours: String(limit.seconds / 3600),
        start: toText(held.start),
        lowest: toText(held.lowest),
        back: toText(back.value),
        to: toText(to.value),
        drawn: toText(drawn.value),
        pumped: toText(pumped),
        added: toText(added),
        main: `${limit.length} ${unitLabel(limit.lengthUnit)} of ${limit.diameter} ${unitLabel(limit.diameterUnit)}`,
      };
      const read = find('make-up-read', data);
      // Understated it can only fail, overstated only pass.
      if (understated && (within || overstated))
        return { outcome: 'short', effect: 'spoils', data, findings: [read, find('make-up-short', data)] };
      if (overstated && !within) return { outcome: 'beyond', effect: 'spoils', data, findings: [read, find('make-up-beyond', data)] };
      return { outcome: within ? 'within' : 'over', effect: within ? 'proves' : 'fails', data, findings: [read] };
    },
    sight: (limit, { contents, at, gaugeStep, step, warms }) => {
      const allowed = allowance(limit, at);
      const alone = allowed === undefined ? 0 : toSi(toNumber(allowed), limit.unit) / limit.seconds;
      const pressures = contents.kind === 'water' ? waterFor(contents, at, 2 * Math.max(gaugeStep, toSi(1, 'psi'))) / limit.seconds : 0;
      const expansion = contents.kind === 'water' ? Number(contents.expansionPpm ?? '0') * 1e-6 : 0;
      const temperature = contents.kind === 'water' ? ((Number(contents.litres) / 1000) * expansion * warms.amount) / limit.seconds : 0;
      const vessel = step / limit.seconds;
      return {
        terms: [
          { what: 'limit', si: alone },
          { what: 'vessel', si: vessel },
          { what: 'pressures', si: pressures },
          { what: 'temperature', si: temperature },
        ],
        alone,
        sure: alone + vessel + pressures + temperature,
        assumes: [
          `the water in it drifts no more than ${Number(warms.amount.toPrecision(2))} K`,
          'it is pumped back and drawn down to within a step of the gauge or 1 psi',
          ...(contents.kind === 'water' ? [`no more than ${contents.airPercent} % of air at the test pressure`] : []),
          'the section valves let nothing by',
        ],
        outside: ['a section valve that feeds what leaks', 'water that was pumped and not written down'],
      };
    },
    words: () => 'No more water made up than is allowed for length, bore and time.',
    reports: (d) =>
      `${d.title}: ${d.made} ${d.madeUnit} in ${d.hours} h, ${d.allowed} ${d.unit} allowed; pumped back to ${d.back}, drawn down to ${d.to} ${d.pressureUnit}`,
    figures: (d) => [
      { label: 'Made up', value: d.made ?? '', unit: d.madeUnit ?? '', beside: `${d.allowed} ${d.unit} allowed` },
      { label: 'Drawn', value: d.drawn ?? '', unit: d.madeUnit ?? '' },
      { label: 'Mean pressure', value: d.mean ?? '', unit: d.pressureUnit ?? '' },
      { label: 'Over', value: d.hours ?? '', unit: 'h' },
    ],
  },
);

/** Water that a movement of the gauge stands for, m³ (DOMAIN 3.7). */
const waterFor = ({ litres, softness, airPercent }: Extract<Contents, { kind: 'water' }>, at: number, movedPa: number): number =>
  (Number(litres) / 1000) * movedPa * (Number(softness) / 1e9 + Number(airPercent) / 100 / (at + referencePressure));

/** A volume in another unit, to a millionth: exact for what vessels show. */
const converted = (value: Decimal, unit: InstrumentUnit, into: InstrumentUnit): Decimal =>
  unit === into ? value : (fromNumber(fromSi(toSi(toNumber(value), unit), into), 6) ?? value);

/** The water allowed in the limit's time, rounded down to a thousandth. */
function allowance(
  {
    material,
    length,
    lengthUnit,
    diameter,
    diameterUnit,
    seconds,
    unit,
  }: {
    readonly material: (typeof mainMaterials)[number];
    readonly length: string;
    readonly lengthUnit: LengthUnit;
    readonly diameter: string;
    readonly diameterUnit: LengthUnit;
    readonly seconds: number;
    readonly unit: VolumeUnit;
  },
  meanPa: number,
): Decimal | undefined {
  const rate = mainAllowance({
    material,
    lengthM: toSi(Number(length), lengthUnit),
    diameterM: toSi(Number(diameter), diameterUnit),
    meanPa,
    customary: lengthUnit === 'ft' && diameterUnit === 'in',
  });
  // A fraction of a millionth on top takes back what binary fractions lose, before rounding down to a thousandth.
  const exact = rate.ok ? fromNumber(fromSi(rate.value * seconds, unit) + 1e-9, 9) : undefined;
  return exact === undefined ? undefined : round(exact, 3, 'down');
}
