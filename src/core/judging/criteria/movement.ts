import { add, type Decimal, decimal, negate, round, subtract, toText, unitLabel } from '../../quantities';
import { lateToleranceMs } from '../exact';
import { type Finding, finding } from '../reasons';
import { type Corrected, correctedMovement } from './correction';
import { againOf, against, type Ends, type HoldContext, type Judged, type Moved, movementData } from './criterion';
import { warmingOf } from './warming';

/** A movement against a threshold: no rise (let-by, seepage, creep) and no fall (tightness, a standing level). */

const perceived = (context: HoldContext, movement: Decimal, threshold: string): boolean => against(context, movement, threshold) >= 0;

function numbers(context: HoldContext, ends: Ends, threshold: string, permitted = '0') {
  const { fall, data } = movementData(context, ends);
  const rise = negate(fall);
  const limitUnit = unitLabel(context.unit);
  const reached = perceived(context, fall, threshold)
    ? 'reached by the fall'
    : perceived(context, rise, threshold)
      ? 'reached by the rise'
      : 'not reached';
  return {
    fall,
    rise,
    data: { ...data, threshold, permitted },
    working: [`${data.start} − ${data.end} = ${data.fall} ${data.unit}`, `Perceptible from ${threshold} ${limitUnit}: ${reached}`],
  };
}

export const noRise: Judged<'no-rise'> = (context, { threshold }, ends) => {
  const { fall, rise, data, working } = numbers(context, ends, threshold);
  const say = (outcome: string, code: 'let-by-rise' | 'let-by-fall' | 'let-by-steady'): Moved => ({
    outcome,
    spoilt: false,
    fall: data.fall,
    notes: [],
    findings: [finding(code, data, context.phase.id, working)],
    working,
    data,
  });
  if (perceived(context, rise, threshold)) return say('rise', 'let-by-rise');
  return perceived(context, fall, threshold) ? say('fall', 'let-by-fall') : say('steady', 'let-by-steady');
};

/** A fall that can be perceived and that nothing permits. */
export function overLimit(context: HoldContext, fall: Decimal): boolean {
  const { criterion } = context.phase;
  if (criterion.kind !== 'no-fall') return false;
  return (
    perceived(context, fall, criterion.threshold) && (criterion.permitted === undefined || against(context, fall, criterion.permitted) > 0)
  );
}

function outcomeOf(context: HoldContext, fall: Decimal, threshold: string): 'tight' | 'permitted' | 'fall' {
  if (overLimit(context, fall)) return 'fall';
  return perceived(context, fall, threshold) ? 'permitted' : 'tight';
}

export const noFall: Judged<'no-fall'> = (context, { threshold, permitted, rise: rules }, ends) => {
  const { phase } = context;
  const { fall, rise, data, working } = numbers(context, ends, threshold, permitted ?? '0');
  const notes: Finding[] = [];
  const say = (outcome: string, spoilt: boolean, ...findings: readonly Finding[]): Moved => ({
    outcome,
    spoilt,
    fall: data.fall,
    notes,
    findings,
    working,
    data,
  });
  const risen = perceived(context, rise, threshold);
  const raised = () =>
    say('rise', true, finding('hold-rise', { ...data, cause: causeOfRise(context, ends), ...againOf(context) }, phase.id, working));

  const lateMs = ends.end.event.observedAt - ends.dueAt;
  const isLate = lateMs > lateToleranceMs(phase.seconds);
  // In the right time it may have been less (DOMAIN 4.3).
  const tooLate = (by: string) =>
    say('unclear', true, finding('late-fall', { ...data, fall: by, late: String(Math.round(lateMs / 1000)) }, phase.id, working));

  const correction = correctedMovement(context, ends);
  if (correction?.kind === 'unread')
    notes.push(finding('conditions-unread', { title: phase.title, missing: correction.missing }, phase.id));
  if (correction?.kind === 'read')
    return corrected(
      context,
      threshold,
      correction,
      risen ? 'rise' : overLimit(context, fall) ? 'fall' : 'still',
      isLate ? tooLate : undefined,
      say,
    );
  if (risen && rules !== undefined && against(context, ends.end.value, rules.feedsTo) >= 0)
    return say('fed', false, finding('hold-fed', { ...data, feedsTo: rules.feedsTo }, phase.id, working));
  if (risen && (rules === undefined || perceived(context, rise, rules.noted))) return raised();
  if (risen && rules !== undefined) notes.push(finding('rise-noted', { ...data, noted: rules.noted }, phase.id, working));

  if (overLimit(context, fall) && isLate) {
    const atDue = fallAtDue(context, ends);
    if (atDue === undefined) return tooLate(data.fall);
    const text = toText(atDue);
    notes.push(finding('interpolated', { ...data, fall: text }, phase.id));
    return { ...say(outcomeOf(context, atDue, threshold), false), fall: text, data: { ...data, fall: text } };
  }
  return say(outcomeOf(context, fall, threshold), false);
};

/**
 * Raw and corrected movement together (DOMAIN 4.6). The corrected one turns a pass into a fail always; a fail into a pass
 * only where pipe temperatures were read at both ends and the correction is surer than the threshold.
 */
function corrected(
  context: HoldContext,
  threshold: string,
  correction: Extract<Corrected, { kind: 'read' }>,
  raw: 'rise' | 'fall' | 'still',
  /** Set where the end came late. */
  tooLate: ((fall: string) => Moved) | undefined,
  say: (outcome: string, spoilt: boolean, ...findings: readonly Finding[]) => Moved,
): Moved {
  const { phase } = context;
  const plain = say('', false);
  const data = { ...plain.data, ...correction.data };
  const working = [...plain.working, ...correction.working];
  const done = (
    outcome: string,
    spoilt: boolean,
    code: 'corrected' | 'corrected-fall' | 'correction-unsure' | 'hold-rise',
    more: Readonly<Record<string, string>> = {},
  ): Moved => ({
    ...plain,
    outcome,
    spoilt,
    corrected: toText(correction.fall),
    findings: [finding(code, { ...data, ...more }, phase.id, working)],
    working,
    data,
  });
  const sure = perceived(context, correction.doubt, threshold) === false;
  const outcome = outcomeOf(context, correction.fall, threshold);
  if (outcome === 'fall') return tooLate?.(toText(correction.fall)) ?? done('fall', false, raw === 'fall' ? 'corrected' : 'corrected-fall');
  if (outcome === 'permitted') return done('permitted', false, 'corrected');
  // A corrected rise beyond its own doubt: something feeds the system, or the temperatures are not the gas's.
  if (perceived(context, subtract(negate(correction.fall), correction.doubt), threshold))
    return done('rise', true, 'hold-rise', {
      rise: toText(negate(correction.fall)),
      cause: 'a valve letting by, or temperatures that are not those of the gas',
      ...againOf(context),
    });
  if (raw === 'still') return done('tight', false, 'corrected');
  return sure ? done('tight', false, 'corrected') : done('unclear', true, 'correction-unsure');
}

/** A warming pipe is named only where its temperatures were read; it never makes the rise count for less. */
function causeOfRise({ phase, plan, log, withdrawn, instrument }: HoldContext, { start }: Ends): string {
  const warming = warmingOf(phase, plan, log, start.event.value, withdrawn);
  return warming !== undefined && warming.effect > 0
    ? `the pipe warmed from ${warming.start} to ${warming.end} ${warming.unit}, which alone moves the gauge by about ${warming.effect.toFixed(2)} ${unitLabel(instrument.unit)}; a valve that lets by cannot be told from that`
    : 'a valve letting by, sun or a warming pipe';
}

/**
 * Fall at the due time from readings on both sides of it within the tolerance, by straight line, rounded up to the
 * gauge's step so that rounding never helps a pass. Undefined when there are none.
 */
function fallAtDue({ phase, log, instrument }: HoldContext, { start, dueAt, readings }: Ends): Decimal | undefined {
  const reach = lateToleranceMs(phase.seconds);
  const points: { at: number; value: Decimal }[] = readings.map(({ event, value }) => ({ at: event.observedAt, value }));
  for (const trace of log.inRound('trace', phase.id)) {
    if (trace.unit !== instrument.unit) continue;
    const index = Math.floor((dueAt - trace.startAt) / trace.stepMs);
    for (const near of [index, index + 1])
      if (near >= 0 && near < trace.values.length)
        points.push({ at: trace.startAt + near * trace.stepMs, value: { digits: BigInt(trace.values[near]), scale: trace.scale } });
  }
  const before = points
    .filter(({ at }) => at <= dueAt && at >= dueAt - reach && at >= start.event.observedAt)
    .sort((a, b) => b.at - a.at)[0];
  const after = points.filter(({ at }) => at >= dueAt && at <= dueAt + reach).sort((a, b) => a.at - b.at)[0];
  if (before === undefined || after === undefined) return undefined;
  if (before.at === after.at) return subtract(start.value, before.value);
  const scale = 6;
  const from = round(before.value, scale);
  const step = subtract(round(after.value, scale), from);
  const part = { digits: (step.digits * BigInt(dueAt - before.at)) / BigInt(after.at - before.at), scale };
  return round(subtract(start.value, add(from, part)), decimal(instrument.readability).scale, 'up');
}
