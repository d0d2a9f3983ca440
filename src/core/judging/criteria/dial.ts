import { testDialFlow } from '../../physics/test-dial';
import { absolute, fromSi, subtract, toNumber, toText } from '../../quantities';
import { finding } from '../reasons';
import { against, type Judged, movementData } from './criterion';

/** Turns of a meter's smallest dial over the hold; at the threshold it moved, and the turns give the rate (DOMAIN 3.5, 5.2). */
export const dial: Judged<'dial'> = (context, { threshold, litresPerTurn }, ends) => {
  const { phase } = context;
  const { data } = movementData(context, ends);
  const turned = absolute(subtract(ends.end.value, ends.start.value));
  const seconds = (ends.end.event.observedAt - ends.start.event.observedAt) / 1000;
  const flow = testDialFlow(Number(litresPerTurn) / 1000, toNumber(turned), Math.max(1, seconds));
  const moved = against(context, turned, threshold) >= 0;
  const rate = flow.ok ? fromSi(flow.value, 'L/h').toFixed(2) : '';
  const all = { ...data, turned: toText(turned), rate, threshold };
  const working = [`${litresPerTurn} L × ${all.turned} turn / ${seconds} s = ${rate} L/h`];
  return {
    outcome: moved ? 'moved' : 'still',
    spoilt: false,
    fall: data.fall,
    notes: [],
    findings: [finding(moved ? 'dial-moved' : 'dial-still', all, phase.id, working)],
    working,
    data: all,
  };
};
