import type { Plan } from '../planning/plan';
import { decimal, fromNumber, toNumber, toSi, toText } from '../quantities';
import type { RigCheck } from '../sizing/gauge';
import { type EventOf, localDate, type RunEvent } from './events';
import type { Judgement } from './judge';
import { heldSoFar, pointsOf } from './state';

/** What the rig check's own procedure is called; its result is kept with the instrument that read it. */
export const rigCheckId = 'rig-check';

const referencePa = 25;
const exponent = 0.6;

/**
 * What a rig check that is over says of the rig: that it held, and at what; that it leaks; or, of a fan, its own leakage at 25 Pa,
 * brought there from a higher pressure by q·(25/p)^0.6 (DOMAIN 3.6, 5.18), rounded up to a tenth: a rig is not made better by rounding.
 * Undefined for any other test, one in progress, and one that proved nothing.
 */
export function rigResult(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
): { readonly instrument: string; readonly found: RigCheck } | undefined {
  if (plan.procedure.id !== rigCheckId || !['pass', 'fail'].includes(judgement.verdict)) return undefined;
  const last = events.findLast((event): event is EventOf<'reading'> => event.type === 'reading' && event.role !== 'zero');
  if (last === undefined) return undefined;
  const on = localDate(last);
  const state = (id: string) => judgement.phases.find((phase) => phase.id === id);
  const meter = plan.instruments?.flow;
  const values = pointsOf(state('fan'))[0]?.values;
  if (meter !== undefined && values?.flow !== undefined && values.pressure !== undefined) {
    const pa = toSi(Number(values.pressure), plan.gauge.unit);
    const back = pa > referencePa ? (referencePa / pa) ** exponent : 1;
    const flow = fromNumber(Math.ceil(toNumber(decimal(values.flow)) * back * 10 - 1e-9) / 10, 1);
    return flow === undefined ? undefined : { instrument: meter.id, found: { on, what: 'leaks', value: toText(flow), unit: meter.unit } };
  }
  const held = heldSoFar(state('hold'));
  if (held === undefined) return undefined;
  const what = judgement.verdict === 'pass' ? 'holds' : 'does not hold';
  return { instrument: plan.gauge.id, found: { on, what, value: held.start, unit: plan.gauge.unit } };
}
