import { add, compare, decimal, subtract, toText, unitLabel } from '../../quantities';
import { finding } from '../reasons';
import { against, type Judged, movementData, stoodBetween } from './criterion';

/**
 * A hold whose loss is measured afterwards (DOMAIN 5.12). The lowest pressure counts for the mean. A fall of more than
 * `within` in any reading spoils it, and so does a rise with no water written down.
 */
export const keep: Judged<'keep'> = (context, { within }, ends) => {
  const { phase, unit, instrument, log, withdrawn } = context;
  const { data } = movementData(context, ends);
  const { lowest } = stoodBetween(context, ends);
  const deepest = subtract(ends.start.value, lowest);
  const fell = within !== undefined && against(context, deepest, within) > 0;
  const step = decimal(instrument.readability);
  const rose = compare(subtract(ends.end.value, lowest), add(step, step)) > 0;
  const pumped = log.inRound('reading', phase.id).some(({ id, quantity }) => quantity === 'volume' && !withdrawn.has(id));
  // It can only have been pumped: water that nobody measured would be missing from the make-up.
  const unmeasured = rose && !pumped;
  const spoilt = fell || unmeasured;
  const all = { ...data, lowest: toText(lowest), deepest: toText(deepest), within: within ?? '', limitUnit: unitLabel(unit) };
  const working = [`Start ${all.start}, lowest ${all.lowest}, end ${all.end} ${all.unit}`];
  return {
    outcome: fell ? 'fell' : unmeasured ? 'pumped' : 'kept',
    spoilt,
    fall: data.fall,
    notes: [],
    findings: spoilt ? [finding(fell ? 'fell-too-far' : 'pumped-unmeasured', all, phase.id, working)] : [],
    working,
    data: all,
  };
};
