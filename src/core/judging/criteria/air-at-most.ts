import { trappedAir } from '../../physics/trapped-air';
import type { MeasureCriterion } from '../../procedures/phases';
import { absolute, compare, decimal, fromNumber, subtract, toNumber, toSi, toText, unitLabel } from '../../quantities';
import { finding } from '../reasons';
import type { Found, MeasureContext } from './point';

type AirAtMost = Extract<MeasureCriterion, { kind: 'air-at-most' }>;

/**
 * Trapped air from a compression test (DOMAIN 3.7): the water that a rise of pressure took beyond what water and wall give.
 * At the limit is still within; more, or figures that cannot be, spoil it: bleed again.
 */
export function airAtMost({ phase, points }: MeasureContext, { litres, softness, atmosphereHpa, most }: AirAtMost): Found {
  const [low, high] = points.map(({ values }) => ({ pressure: values.get('pressure'), volume: values.get('volume') }));
  const base = { title: phase.title, most: percent(Number(most)) };
  const unclear = (why: string): Found => ({
    outcome: 'unclear',
    spoilt: true,
    findings: [finding('air-unclear', { ...base, why }, phase.id)],
    working: [],
    data: base,
  });
  if (low?.pressure === undefined || high?.pressure === undefined || low.volume === undefined || high.volume === undefined)
    return unclear('pressure and water are needed at both points.');
  const added = subtract(high.volume.value, low.volume.value);
  const atmospherePa = Number(atmosphereHpa) * 100;
  const pressure = (read: NonNullable<typeof low.pressure>) => toSi(toNumber(read.value), read.unit) + atmospherePa;
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
  const data = { ...base, air: percent(toNumber(share)), added: toText(added), unit: unitLabel(high.volume.unit) };
  const working = [
    `${data.added} ${data.unit} into ${litres} L from ${toText(low.pressure.value)} to ${toText(high.pressure.value)} ${unitLabel(high.pressure.unit)}: air ${data.air} % by volume at atmospheric pressure, at most ${data.most} %`,
  ];
  return {
    outcome: over ? 'too-much' : 'within',
    spoilt: over,
    findings: [finding(over ? 'air-too-much' : 'air-within', data, phase.id, working)],
    working,
    data,
  };
}

const percent = (share: number): string => String(Number((share * 100).toFixed(2)));
