import { compare, type Decimal, decimal, subtract, toText, unitLabel } from '../../quantities';
import { finding } from '../reasons';
import { against, type Judged, movementData } from './criterion';

/**
 * A hold whose loss is measured afterwards (DOMAIN 5.12). The lowest pressure counts for the mean. A fall of more than
 * `within`, seen in any reading since the start or the last time it was pumped back, spoils it.
 */
export const keep: Judged<'keep'> = (context, { within }, ends) => {
  const { phase, unit } = context;
  const { data } = movementData(context, ends);
  const between = ends.readings.filter(
    ({ event }) => event.observedAt >= ends.start.event.observedAt && event.observedAt <= ends.end.event.observedAt,
  );
  let lowest: Decimal = ends.start.value;
  let deepest: Decimal = decimal('0');
  for (const { value } of between) {
    if (compare(value, lowest) < 0) lowest = value;
    const fall = subtract(ends.start.value, value);
    if (compare(fall, deepest) > 0) deepest = fall;
  }
  const spoilt = within !== undefined && against(context, deepest, within) > 0;
  const all = { ...data, lowest: toText(lowest), deepest: toText(deepest), within: within ?? '', limitUnit: unitLabel(unit) };
  const working = [`Start ${all.start}, lowest ${all.lowest}, end ${all.end} ${all.unit}`];
  return {
    outcome: spoilt ? 'fell' : 'kept',
    spoilt,
    fall: data.fall,
    notes: [],
    findings: spoilt ? [finding('fell-too-far', all, phase.id, working)] : [],
    working,
    data: all,
  };
};
