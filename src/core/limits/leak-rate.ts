import { decimalText, name } from '../exact/shape';
import { gasLeakRate, worstLeakRate } from '../physics/gas-leak';
import {
  type AbsolutePa,
  add,
  compare,
  type Decimal,
  decimal,
  fromNumber,
  fromSi,
  multiply,
  negate,
  referencePressure,
  referenceTemperatureK,
  subtract,
  toNumber,
  toSi,
  toText,
} from '../quantities';
import { bandSteps } from './at-most';
import { correctedBy, correctionData } from './correction';
import type { HoldFacts } from './facts';
import { riseOf } from './no-rise';
import { bandsText, heldFigures, holdData, holdRoom, type Verdict } from './room';
import { finder, reason } from './say';

/** Decimals of a litre per hour to which a rate is rounded before it is compared. */
const scale = 3;

type Rated = 'title' | 'fall' | 'unit' | 'rate' | 'worst' | 'litres' | 'factor' | 'seconds' | 'law' | 'corrected' | 'conditions';
const sum = (d: Readonly<Record<Rated, string>>): readonly string[] => [
  ...(d.conditions === '' ? [] : [`Corrected fall ${d.corrected} ${d.unit} (${d.conditions})`]),
  `${d.law}: ${d.litres} L, ${d.seconds} s${d.factor === '1' ? '' : `, × ${d.factor} for the gas carried`} = ${d.rate} L/h; with what the gauge’s step may hide ${d.worst} L/h`,
];
const says = {
  'leak-rate': reason<Rated>('note', (d) => `${d.title}: ${d.rate} L/h, and no more than ${d.worst} L/h with the gauge’s own step.`, sum),
  'rate-unseen': reason<Rated>(
    'note',
    (d) => `${d.title}: no fall that this gauge can show; the rate is no more than ${d.worst} L/h, the least that can be seen here.`,
    sum,
  ),
  'rate-emptied': reason<'title' | 'start' | 'end' | 'unit' | 'rate'>(
    'note',
    (d) =>
      `${d.title}: the gauge fell from ${d.start} to ${d.end} ${d.unit}, a fifth of its start or less. The rate is at least ${d.rate} L/h and may be far larger: it takes the worst band.`,
  ),
  'rate-rise': reason<'title' | 'rise' | 'unit' | 'again'>(
    'inconclusive',
    (d) => `The gauge rose ${d.rise} ${d.unit} during ${d.title}. Likely cause: a valve letting by, sun or a warming pipe. ${d.again}`,
  ),
  'rate-unread': reason<'title' | 'missing'>(
    'inconclusive',
    (d) => `${d.title} needs ${d.missing}; without that a leak and a change of weather cannot be told apart.`,
  ),
  'no-rate': reason<'title'>('inconclusive', (d) => `${d.title}: no leak rate can be worked out from what was read.`),
} as const;
const find = finder(says);

/**
 * Leak rate of a gas from the fall, L/h, in bands (DOMAIN 3.1, 5.6): the first band whose `below` it does not reach, else
 * `beyond`. `factor` turns what was found with the test medium into the gas carried. The worst that the gauge's step and, where
 * they correct, temperature and barometer leave possible is compared, so that a rate that straddles two bands takes the worse
 * one (4.18).
 */
export const leakRate = holdRoom(
  'leak-rate',
  { litres: decimalText, factor: decimalText, bands: bandSteps, beyond: name },
  {
    decides: true,
    says,
    sum: (data) => sum(data as never),
    hoped: ({ bands, beyond }) => bands[0]?.outcome ?? beyond,
    outcomes: ({ bands, beyond }) => [...bands.map(({ outcome }) => outcome), beyond, 'rise', 'unread', 'unclear', 'stopped'],
    judge: (limit, facts) => {
      const { litres, factor, bands, beyond } = limit;
      const data = { ...holdData(facts), litres, factor };
      const spoilt = (outcome: string, finding: Verdict['findings'][number]): Verdict => ({
        outcome,
        effect: 'spoils',
        data,
        findings: [finding],
      });
      const correction = correctedBy(facts);
      if (correction.kind === 'unread') return spoilt('unread', find('rate-unread', { title: facts.title, missing: correction.missing }));
      const stood = facts.stood(facts.end.at);
      const raw = subtract(facts.start.value, facts.end.value);
      const found = correction.kind === 'differs' ? correction.fall : raw;
      const rise =
        correction.kind === 'differs'
          ? compare(subtract(stood.rise, correction.slack), facts.step) > 0
            ? subtract(stood.rise, correction.slack)
            : negate(found)
          : riseOf(facts, stood);
      if (compare(subtract(rise, correction.kind === 'differs' ? correction.doubt : decimal('0')), facts.step) >= 0)
        return spoilt(
          'rise',
          find('rate-rise', {
            ...data,
            rise: toText(rise),
            again: facts.risesFurther ? 'Repeat from the let-by test.' : 'Repeat the hold.',
          }),
        );
      const startK = correction.kind === 'differs' ? correction.startK : referenceTemperatureK;
      const taken = (facts.end.at - facts.start.at) / 1000;
      const rateOf = (lost: Decimal, seconds: number) => ratedBy(limit, facts, lost, seconds, startK);
      // At most both would leave it in a better band than the doubt alone: raw and corrected both under a limit are under it.
      const likely = compare(raw, found) > 0 ? raw : found;
      const doubted = correction.kind === 'differs' ? add(found, correction.doubt) : found;
      const most = add(compare(doubted, likely) < 0 ? doubted : likely, facts.step);
      const rate = rateOf(found, taken);
      const worst = rateOf(most, taken);
      if (rate === undefined || worst === undefined) return spoilt('unclear', find('no-rate', data));
      const unseen = compare(found, facts.step) < 0;
      const band = bands.find(({ below }) => compare(worst.litresPerHour, decimal(below)) < 0);
      const from = band === undefined ? bands.at(-1)?.below : bands[bands.indexOf(band) - 1]?.below;
      const all = {
        ...data,
        ...(correction.kind === 'differs' ? correctionData(correction) : { corrected: data.fall, conditions: '', doubt: '0' }),
        from: from ?? '0',
        rate: toText(rate.litresPerHour),
        worst: toText(worst.litresPerHour),
        // A fall that the gauge cannot show is no rate of nought: it lies under the least that can be seen.
        said: unseen ? `under ${toText(worst.litresPerHour)}` : toText(rate.litresPerHour),
        law: rate.law,
        below: band?.below ?? bands.at(-1)?.below ?? '',
      };
      const corrected = correction.kind === 'differs' ? { corrected: toText(correction.fall) } : {};
      // A gauge at a fifth of its start or less only shows that the rate is at least that (DOMAIN 3.1).
      if (compare(multiply(facts.end.value, decimal('5')), facts.start.value) <= 0)
        return { outcome: beyond, effect: 'fails', data: all, findings: [find('rate-emptied', all)], ...corrected };
      const verdict: Verdict = {
        outcome: band?.outcome ?? beyond,
        effect: band === undefined ? 'fails' : 'proves',
        data: all,
        findings: [find(unseen ? 'rate-unseen' : 'leak-rate', all)],
        ...corrected,
      };
      if (!facts.stopped) return verdict;
      // Stopped early it fails only by what is lost already: that fall spread over the whole time.
      const least = rateOf(subtract(compare(raw, found) < 0 ? raw : found, facts.step), Math.max(taken, facts.seconds));
      const last = bands.at(-1)?.below;
      return least !== undefined && last !== undefined && compare(least.litresPerHour, decimal(last)) >= 0
        ? { ...verdict, outcome: beyond, effect: 'fails' }
        : { ...verdict, outcome: 'stopped', effect: 'spoils', findings: [] };
    },
    words: ({ bands, beyond }) => bandsText(bands, beyond, 'L/h'),
    leakFrom: (limit, { seconds, start }) => {
      // The fall from which its own law gives the rate: a large one by the worst law (DOMAIN 3.1).
      const short = fallOutOfBest(limit, seconds);
      const large = start * (1 - Math.exp(-short / start));
      return large * 10 > start ? large : short;
    },
    lines: (limit, { seconds, unit }) => [
      { at: -fromSi(fallOutOfBest(limit, seconds), unit), of: 'start', label: 'best band ends', decides: true, side: 'below' },
    ],
    reach: (limit, { seconds, unit }, start) => {
      const fall = fromSi(fallOutOfBest(limit, seconds), unit);
      return [start - fall * 1.6, start + fall * 0.96];
    },
    reports: (d) => `${d.start} to ${d.end} ${d.unit} in ${d.time}, ${d.said ?? d.rate} L/h (no more than ${d.worst})`,
    figures: (d) => [
      { label: 'Leak rate', value: d.said ?? d.rate ?? '', unit: 'L/h', beside: `no more than ${d.worst} L/h` },
      ...heldFigures(d, 'as it was read'),
    ],
  },
);

/** Rate of a fall by the law that its size asks for, L/h of the gas carried, to a thousandth. */
function ratedBy(
  { litres, factor }: { readonly litres: string; readonly factor: string },
  { start, unit }: HoldFacts,
  lost: Decimal,
  seconds: number,
  startK: number,
): { readonly litresPerHour: Decimal; readonly law: string } | undefined {
  const startPa = toSi(toNumber(start.value), unit);
  const lostPa = toSi(toNumber(lost), unit);
  const volumeM3 = Number(litres) / 1000;
  // Over a tenth of the start the mean understates it: the worst law, at the start's pressure.
  const large = lostPa * 10 > startPa && startPa > 0;
  const mean = gasLeakRate({
    volumeM3,
    startPa: (startPa + referencePressure) as AbsolutePa,
    endPa: (startPa - lostPa + referencePressure) as AbsolutePa,
    seconds,
    startK,
    endK: startK,
  });
  const rate = large ? worstLeakRate({ volumeM3, startGaugePa: startPa, endGaugePa: startPa - lostPa, seconds }) : mean;
  // A gauge that shows nothing any more has no worst law; what the mean gives is then the least.
  const value = rate.ok ? rate.value : mean.ok ? mean.value : undefined;
  const litresPerHour = value === undefined ? undefined : fromNumber(fromSi(value, 'L/h') * Number(factor), scale);
  return litresPerHour === undefined
    ? undefined
    : { litresPerHour, law: large && rate.ok ? 'V × p₁ × ln(p₁/p₂) / (1013.25 mbar × t)' : 'V × Δp / (1013.25 mbar × t)' };
}

/**
 * Fall, Pa, at which a leak leaves the best of its bands in a hold of so many seconds: Δp = q·p_ref·t / V (DOMAIN 3.1, short
 * form), q before it is turned into the gas carried. For drawing; the judge works with what was read.
 */
export function fallOutOfBest(
  { litres, factor, bands }: { readonly litres: string; readonly factor: string; readonly bands: readonly { readonly below: string }[] },
  seconds: number,
): number {
  const litresPerHour = Number(bands[0]?.below ?? '0') / Number(factor);
  return ((litresPerHour / 3600) * seconds * referencePressure) / Number(litres);
}
