import { inBand } from '../limits';
import { unitOfHold } from '../planning/instruments';
import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { atLeast, atMost, type Decimal, decimal, isMultipleOf, readDecimal, unitLabel } from '../quantities';
import type { Instrument } from '../sizing/gauge';
import type { EventOf } from './events';

export interface Taken {
  readonly event: EventOf<'reading'>;
  readonly value: Decimal;
}

/** Why a figure cannot have been read on this gauge, in words that follow "does not count:"; undefined when it can. */
export function readingFault(gauge: Instrument, value: string, unit: string): string | undefined {
  const figure = readDecimal(value);
  if (figure === undefined) return 'it is not a figure';
  if (unit !== gauge.unit) return `the gauge shows ${unitLabel(gauge.unit)}`;
  if (!atLeast(figure, decimal(gauge.rangeLow)) || !atMost(figure, decimal(gauge.rangeHigh)))
    return `the gauge shows ${gauge.rangeLow} to ${gauge.rangeHigh} ${unitLabel(gauge.unit)}`;
  if (!isMultipleOf(figure, decimal(gauge.readability))) return `the gauge shows steps of ${gauge.readability}`;
  return undefined;
}

export const valueText = (event: EventOf<'reading'>): { value: string; unit: string } => ({
  value: event.value,
  unit: unitLabel(event.unit),
});

/** Whether a figure on a hold's instrument lies in the band that its start needs. */
export const inStartBand = (plan: Plan, phase: HoldPhase, value: Decimal, unit: Instrument['unit']): boolean =>
  inBand(value, unit, phase.band.low, phase.band.high, unitOfHold(plan, phase));
