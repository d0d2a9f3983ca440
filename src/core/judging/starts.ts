import { instrumentOf, unitOfHold } from '../course/instruments';
import type { HoldPhase } from '../course/phases';
import { compareAcross, inBand } from '../limits';
import type { Plan } from '../planning/plan';
import { type Decimal, decimal, fromSi, type InstrumentUnit, multiply, subtract, toNumber, toSi } from '../quantities';
import type { Came } from './state';

/** A figure that an earlier phase read. */
export interface Before {
  readonly value: Decimal;
  readonly unit: InstrumentUnit;
}

/**
 * The pressure that a hold's start is reckoned from: the end or start of an earlier hold, or the first pressure of points.
 * Undefined where it hangs on none, or none was read.
 * @param came what an earlier phase came to
 */
export function readBefore(plan: Plan, { under }: HoldPhase, came: (phase: string) => Came | undefined): Before | undefined {
  if (under === undefined) return undefined;
  const what = came(under.phase);
  const phase = plan.phases.find(({ id }) => id === under.phase);
  if (what?.of === 'hold' && phase?.kind === 'hold')
    return { value: decimal(what.end ?? what.start), unit: instrumentOf(plan, phase.instrument).unit };
  if (what?.of !== 'points' || phase?.kind !== 'measure') return undefined;
  const field = phase.fields.find(({ quantity }) => quantity === 'pressure');
  const value = what.points.map(({ values }) => values.pressure).find((one) => one !== undefined);
  return field === undefined || value === undefined
    ? undefined
    : { value: decimal(value), unit: instrumentOf(plan, field.instrument).unit };
}

type Under = NonNullable<HoldPhase['under']>;

const partOf = ({ percent }: Under, text: string, { value, unit }: Before, own: InstrumentUnit): readonly [Decimal, InstrumentUnit] =>
  percent === true ? [multiply(decimal(text), { digits: value.digits, scale: value.scale + 2 }), unit] : [decimal(text), own];

/**
 * Whether a figure on a hold's instrument may start it: so far under what was read before, exactly (DOMAIN 5.5, 5.7); where
 * nothing was, in the plan's band, rounded as bands are (4.3).
 */
export function mayStart(plan: Plan, phase: HoldPhase, before: Before | undefined, value: Decimal): boolean {
  const { unit } = instrumentOf(plan, phase.instrument);
  const own = unitOfHold(plan, phase);
  const { under } = phase;
  if (under === undefined || before === undefined) return inBand(value, unit, phase.band.low, phase.band.high, own);
  const down = subtract(before.value, value);
  return (
    before.unit === unit &&
    compareAcross(down, unit, ...partOf(under, under.least, before, own)) >= 0 &&
    compareAcross(down, unit, ...partOf(under, under.most, before, own)) <= 0
  );
}

/**
 * A hold with the band that its start needs as things stand: reckoned from what was read before, where it hangs on that, to the
 * step of its gauge. For showing and raising; `mayStart` judges.
 */
export function asItStands(plan: Plan, phase: HoldPhase, before: Before | undefined): HoldPhase {
  const { under } = phase;
  if (under === undefined || before === undefined) return phase;
  const own = unitOfHold(plan, phase);
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const step = fromSi(toSi(Number(readability), unit), own);
  const decimals = Math.max(0, Math.min(4, Math.ceil(-Math.log10(step))));
  const there = fromSi(toSi(toNumber(before.value), before.unit), own);
  const down = (text: string): number => there - (under.percent === true ? (there * Number(text)) / 100 : Number(text));
  return { ...phase, band: { low: down(under.most).toFixed(decimals), high: down(under.least).toFixed(decimals) } };
}
