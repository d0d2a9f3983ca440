import { gasLeakRate } from '../../physics/gas-leak';
import {
  type AbsolutePa,
  add,
  compare,
  type Decimal,
  decimal,
  fromNumber,
  fromSi,
  negate,
  referencePressure,
  subtract,
  toNumber,
  toSi,
  toText,
} from '../../quantities';
import { finding } from '../reasons';
import { correctedMovement } from './correction';
import { againOf, type Judged, type Moved, movementData } from './criterion';

/** Decimals of a litre per hour to which a rate is rounded before it is compared. */
const scale = 3;

/**
 * Leak rate in bands (DOMAIN 5.6). The worst that the gauge's step leaves possible is compared, so that a rate whose
 * interval straddles two bands takes the worse one (4.18).
 */
export const leakRate: Judged<'leak-rate'> = (context, { litres, factor, bands, beyond }, ends) => {
  const { phase, instrument } = context;
  const { fall, data } = movementData(context, ends);
  const step = decimal(instrument.readability);
  const base = { fall: data.fall, notes: [], data };
  const spoilt = (outcome: string, code: 'hold-rise' | 'no-rate' | 'conditions-unread', more: Readonly<Record<string, string>>): Moved => ({
    ...base,
    outcome,
    spoilt: true,
    findings: [finding(code, { ...data, threshold: instrument.readability, ...more }, phase.id)],
    working: [],
  });
  const correction = correctedMovement(context, ends);
  if (correction?.kind === 'unread') return spoilt('unread', 'conditions-unread', { missing: correction.missing });
  // What temperature and barometer leave of it decides: a barometer that falls lifts the gauge, and hides a leak.
  const rose = correction?.kind === 'read' ? subtract(negate(correction.fall), correction.doubt) : negate(fall);
  if (compare(rose, step) >= 0)
    return spoilt('rise', 'hold-rise', {
      cause: 'a valve letting by, sun or a warming pipe',
      ...againOf(context),
    });
  const seconds = (ends.end.event.observedAt - ends.start.event.observedAt) / 1000;
  const startPa = toSi(toNumber(ends.start.value), instrument.unit) + referencePressure;
  const rateOf = (lost: Decimal) => {
    const rate = gasLeakRate({
      volumeM3: Number(litres) / 1000,
      startPa: startPa as AbsolutePa,
      endPa: (startPa - toSi(toNumber(lost), instrument.unit)) as AbsolutePa,
      seconds,
    });
    return rate.ok ? fromNumber(fromSi(rate.value, 'L/h') * Number(factor), scale) : undefined;
  };
  const found = correction?.kind === 'read' ? correction.fall : fall;
  const doubt = correction?.kind === 'read' ? add(step, correction.doubt) : step;
  const rate = rateOf(found);
  const worst = rateOf(add(found, doubt));
  if (rate === undefined || worst === undefined) return spoilt('unclear', 'no-rate', {});
  const band = bands.find(({ below }) => compare(worst, decimal(below)) < 0);
  const from = band === undefined ? undefined : bands[bands.indexOf(band) - 1]?.below;
  const all = {
    ...data,
    ...(from === undefined ? {} : { from }),
    rate: toText(rate),
    worst: toText(worst),
    litres,
    factor,
    below: band?.below ?? bands.at(-1)?.below ?? '',
  };
  const working = [
    ...(correction?.kind === 'read' ? correction.working : []),
    `${litres} L × ${toText(found)} ${data.unit} / (1013.25 mbar × ${seconds} s)${factor === '1' ? '' : ` × ${factor}`} = ${all.rate} L/h; with what the gauge${correction?.kind === 'read' ? ' and the correction' : ''} may hide ${all.worst} L/h`,
  ];
  return {
    ...base,
    ...(correction?.kind === 'read' ? { corrected: toText(correction.fall) } : {}),
    outcome: band?.outcome ?? beyond,
    spoilt: false,
    findings: [finding('leak-rate', all, phase.id, working)],
    working,
    data: all,
  };
};
