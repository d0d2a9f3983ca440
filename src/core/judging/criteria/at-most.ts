import { toText } from '../../quantities';
import { finding } from '../reasons';
import { against, type Judged, movementData, stoodBetween } from './criterion';

/** Nothing read or traced between start and end may stand above the limit; at it is still within (DOMAIN 5.2, 5.4: lock-up). */
export const atMostLimit: Judged<'at-most'> = (context, { limit }, ends) => {
  const { phase } = context;
  const { data } = movementData(context, ends);
  const { highest } = stoodBetween(context, ends);
  const over = against(context, highest, limit) > 0;
  const all = { ...data, highest: toText(highest), limit };
  const working = [`Highest ${all.highest} ${all.unit}, at most ${limit} ${all.limitUnit}: ${over ? 'over' : 'within'}`];
  return {
    outcome: over ? 'over' : 'within',
    spoilt: false,
    fall: data.fall,
    notes: [],
    findings: [finding(over ? 'level-over' : 'level-within', all, phase.id, working)],
    working,
    data: all,
  };
};
