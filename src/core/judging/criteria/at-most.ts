import { compare, decimal, negate, toText } from '../../quantities';
import { finding } from '../reasons';
import { bandOf } from './bands';
import { against, type Judged, movementData, stoodBetween } from './criterion';

/**
 * Nothing read or traced between start and end may stand above the limit; at it is still within (DOMAIN 5.2, 5.4: lock-up).
 * Where a creep is named, a rise that reaches it counts; then the end falls into a band.
 */
export const atMostLimit: Judged<'at-most'> = (context, { limit, creep, bands }, ends) => {
  const { phase, unit } = context;
  const { data, fall } = movementData(context, ends);
  const { highest } = stoodBetween(context, ends);
  const over = against(context, highest, limit) > 0;
  const rise = negate(fall);
  const creeps = creep !== undefined && compare(rise, decimal('0')) > 0 && against(context, rise, creep) >= 0;
  const outcome = over
    ? 'over'
    : creeps
      ? 'creep'
      : bands === undefined
        ? 'within'
        : bandOf(bands, ends.end.value, context.instrument.unit, unit);
  const all = { ...data, highest: toText(highest), limit, creep: creep ?? '' };
  const working = [
    `Highest ${all.highest} ${all.unit}, at most ${limit} ${all.limitUnit}: ${over ? 'over' : 'not over'}`,
    ...(creep === undefined
      ? []
      : [`Rise ${data.rise} ${all.unit}, creep from ${creep} ${all.limitUnit}: ${creeps ? 'reached' : 'not reached'}`]),
  ];
  return {
    outcome,
    spoilt: false,
    fall: data.fall,
    notes: [],
    findings: [finding(over ? 'level-over' : 'level-within', all, phase.id, working)],
    working,
    data: all,
  };
};
