import { decimalText } from '../exact/shape';
import { trappedAir } from '../physics/trapped-air';
import { absolute, compare, decimal, fromNumber, subtract, toNumber, toSi, toText, unitLabel } from '../quantities';
import type { PointValue } from './facts';
import { measureRoom, type Verdict } from './room';
import { finder, reason } from './say';

type Air = 'title' | 'air' | 'most' | 'added' | 'unit' | 'litres' | 'low' | 'high' | 'pressureUnit';
const sum = (d: Readonly<Record<Air, string>>): readonly string[] => [
  `${d.added} ${d.unit} into ${d.litres} L from ${d.low} to ${d.high} ${d.pressureUnit}: air ${d.air} % by volume at atmospheric pressure, at most ${d.most} %`,
];
const says = {
  'air-within': reason<Air>('note', (d) => `${d.title}: trapped air ${d.air} % by volume, at most ${d.most} %.`, sum),
  'air-too-much': reason<Air>(
    'inconclusive',
    (d) => `${d.title}: trapped air ${d.air} % by volume, over ${d.most} %. It would hide a leak: bleed again and repeat.`,
    sum,
  ),
  'air-unclear': reason<'title' | 'why'>('inconclusive', (d) => `${d.title}: the trapped air cannot be worked out: ${d.why}`),
} as const;
const find = finder(says);

const percent = (share: number): string => String(Number((share * 100).toFixed(2)));

/**
 * Trapped air from a compression test (DOMAIN 3.7): the water that raising from the first point's pressure to the second's
 * took beyond what water and wall give, as a share of the volume at atmospheric pressure. `softness` is that of water and
 * wall, 1/GPa. At the limit is still within; more, or figures that cannot be, spoil it: bleed again.
 */
export const airAtMost = measureRoom(
  'air-at-most',
  { litres: decimalText, softness: decimalText, atmosphereHpa: decimalText, most: decimalText },
  {
    decides: true,
    says,
    sum: (data) => sum(data as never),
    hoped: () => 'within',
    outcomes: () => ['within', 'too-much', 'unclear'],
    judge: ({ litres, softness, atmosphereHpa, most }, { title, points }) => {
      const [low, high] = points.map(({ values }) => ({ pressure: values.get('pressure'), volume: values.get('volume') }));
      const unclear = (why: string): Verdict => ({
        outcome: 'unclear',
        effect: 'spoils',
        data: { title },
        findings: [find('air-unclear', { title, why })],
      });
      if (low?.pressure === undefined || high?.pressure === undefined || low.volume === undefined || high.volume === undefined)
        return unclear('pressure and water are needed at both points.');
      const added = subtract(high.volume.value, low.volume.value);
      const atmospherePa = Number(atmosphereHpa) * 100;
      const pressure = (read: PointValue) => toSi(toNumber(read.value), read.unit) + atmospherePa;
      const air = trappedAir({
        volumeM3: Number(litres) / 1000,
        addedM3: toSi(toNumber(added), high.volume.unit),
        lowAbsolutePa: pressure(low.pressure),
        highAbsolutePa: pressure(high.pressure),
        atmospherePa,
        wallAndWater: Number(softness) / 1e9,
      });
      if (!air.ok) return unclear(air.problem.message);
      // To a hundredth of a percent, so that every machine draws the line at the same place.
      const share = fromNumber(air.value, 4);
      if (share === undefined) return unclear('the figures do not fit together.');
      const over = compare(absolute(share), decimal(most)) > 0;
      const data = {
        title,
        most: percent(Number(most)),
        air: percent(toNumber(share)),
        added: toText(added),
        unit: unitLabel(high.volume.unit),
        litres,
        low: toText(low.pressure.value),
        high: toText(high.pressure.value),
        pressureUnit: unitLabel(high.pressure.unit),
      };
      return {
        outcome: over ? 'too-much' : 'within',
        effect: over ? 'spoils' : 'proves',
        data,
        findings: [find(over ? 'air-too-much' : 'air-within', data)],
      };
    },
    words: ({ most }) => `Trapped air at most ${Number(most) * 100} % by volume, from the water that the rise takes.`,
    reports: (d) => `${d.air} % of air by volume, at most ${d.most} %`,
    figures: (d) => [{ label: 'Trapped air', value: d.air ?? '', unit: '%', beside: `at most ${d.most} %` }],
  },
);
