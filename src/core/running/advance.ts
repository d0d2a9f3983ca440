import { bandOnGauge } from '../course/gauge-scale';
import { instrumentOf, quantityOf } from '../course/instruments';
import { fieldsAt, type HoldPhase, type Phase, type ReadQuantity } from '../course/phases';
import { weatherWords } from '../course/weather';
import { sentenceOf } from '../judging/catalogue';
import type { EventOf, RunEvent } from '../judging/events';
import { type Judgement, judge } from '../judging/judge';
import { heldSoFar, isSpoilt, type PhaseJudgement } from '../judging/state';
import type { Plan } from '../planning/plan';
import { absolute, compare, type Decimal, decimal, multiply, subtract, toNumber, toSi, toText, unitLabel } from '../quantities';
import { type Ask, holdNow, readingsOf } from './present';

/*
 * What a figure would do, said before it is written: the judge is asked with the figure in the log, so that what is said beforehand is
 * what is judged afterwards.
 */

const isLevel = (plan: Plan, { instrument }: HoldPhase): boolean => quantityOf(instrumentOf(plan, instrument).unit) === 'level';

/** Where the start of a hold belongs, in its gauge's own figures, and how one comes there; nothing where it is only read. */
export function bandWords(
  plan: Plan,
  judgement: Judgement,
  phase: HoldPhase,
): { readonly say: string; readonly figures: string } | undefined {
  // A level stands where it was filled to: its band only says that there is water.
  if (phase.fed === true || isLevel(plan, phase)) return undefined;
  const { band } = holdNow(plan, judgement, phase);
  const { low, high } = bandOnGauge(plan, band, phase);
  const figures = Number(low) === Number(high) ? low : Number(low) <= 0 ? `${high} at most` : `${low}–${high}`;
  return { say: phase.lowered === true || Number(low) <= 0 ? 'Let down to' : 'Raise to', figures };
}

/** A start figure outside its band, with what to do, in the words of the gauge that is looked at. */
export function bandAdvice(plan: Plan, phase: HoldPhase, value: string, isIn: boolean): string | undefined {
  if (isIn) return undefined;
  const { low, high } = bandOnGauge(plan, phase.band, phase);
  const unit = unitLabel(instrumentOf(plan, phase.instrument).unit);
  if (isLevel(plan, phase)) return `${value}: no water stands at the rule. Fill up, let it come to rest, then read again.`;
  if (phase.fed === true) return `${value}: outside ${low}–${high} ${unit}. Look at the supply and its regulator, then read again.`;
  if (Number(value) > Number(high)) return `${value}: bleed to ${low}–${high} ${unit}, then read again.`;
  return phase.lowered === true
    ? `${value}: below ${low}–${high} ${unit}. Feed nothing: wait whether it comes back up by itself, then read again; else begin again from the supply.`
    : `${value}: raise to ${low}–${high} ${unit}, then read again.`;
}

/** A figure is far from the last one of its hold when it has moved by a fifth of it, and by more than twenty steps. */
const farShare = decimal('0.2');
const farSteps = decimal('20');

function isFar(value: Decimal, last: Decimal, readability: string): boolean {
  const moved = absolute(subtract(value, last));
  return compare(moved, multiply(farShare, absolute(last))) > 0 && compare(moved, multiply(farSteps, decimal(readability))) > 0;
}

const isHeld = (quantity: ReadQuantity): boolean => quantity !== 'temperature' && quantity !== 'barometer';

/** How a hold has moved between two figures, with what the weather explains of it. */
function movedWords(plan: Plan, phase: HoldPhase, ask: Ask, start: string, value: string): string {
  const { unit } = ask.instrument;
  const moved = subtract(decimal(value), decimal(start));
  const way =
    moved.digits === 0n ? 'it stood still' : `${moved.digits < 0n ? 'fallen' : 'risen'} ${toText(absolute(moved))} ${unitLabel(unit)}`;
  const weather = weatherWords(plan, phase, toSi(toNumber(moved), unit), toSi(Number(start), unit));
  return `From ${start} to ${value} ${unitLabel(unit)}: ${way}${weather === undefined ? '' : ` (${weather})`}.`;
}

/**
 * What is shown back once, large, before a figure is written: that it closes its phase, ends the test, spoils the round, or lies far
 * from the last one (DOMAIN 4.16). Undefined where it does none of these.
 * @param stamp the moment of the figure
 */
export function closingWords(
  plan: Plan,
  events: readonly RunEvent[],
  judgement: Judgement,
  phase: Phase,
  state: PhaseJudgement | undefined,
  ask: Ask,
  stamp: EventOf<'stamp'>,
  value: string,
): string | undefined {
  const unit = unitLabel(ask.instrument.unit);
  const held = heldSoFar(state);
  const { type: _, ...moment } = stamp;
  const reading: RunEvent = {
    ...moment,
    id: '00000000-0000-4000-8000-000000000000',
    position: undefined,
    seq: events.reduce((most, { seq, device }) => (device === stamp.device ? Math.max(most, seq) : most), 0) + 1,
    type: 'reading',
    quantity: ask.quantity,
    value,
    unit: ask.instrument.unit,
    typed: value,
    source: 'keypad',
    stamp: stamp.id,
    point: ask.point?.id,
  };
  const then = judge(plan, [...events, reading]);
  const why = then.reasons.find(
    (one) =>
      one.phase === phase.id && one.weight !== 'note' && one.weight !== 'pass' && !judgement.reasons.some(({ code }) => code === one.code),
  );
  const because = why === undefined ? '' : ` ${sentenceOf(why)}`;
  if (phase.kind === 'hold' && ask.role === 'end' && held !== undefined)
    return `${movedWords(plan, phase, ask, held.start, value)} This ends ${phase.title}, for good.`;
  if (judgement.provisional === 'in progress' && then.provisional !== 'in progress')
    return `${value} ${unit}.${because} This ends ${phase.title}, for good.`;
  if (phase.kind === 'measure' && ask.point !== undefined && ask.point.id === phase.points.at(-1)?.id)
    if (fieldsAt(phase, ask.point).at(-1)?.quantity === ask.quantity)
      return `${ask.label ?? 'Read'}, ${ask.point.label}: ${value} ${unit}.${because} This ends ${phase.title}, for good.`;
  if (!isSpoilt(state) && isSpoilt(then.phases.find(({ id }) => id === phase.id)))
    return `${value} ${unit}: this round would not count.${because}`;
  const last = readingsOf(events, judgement.withdrawn, phase.id, state?.round ?? 1).findLast(
    ({ quantity, role }) => isHeld(quantity) && role !== 'zero',
  );
  // A start belongs into its band, whatever was read before it.
  if (phase.kind === 'hold' && ask.role === 'between' && isHeld(ask.quantity) && last !== undefined && last.unit === ask.instrument.unit)
    if (isFar(decimal(value), decimal(last.value), ask.instrument.readability))
      return `${value} ${unit}: far from the ${last.value} that was read before.`;
  return undefined;
}
