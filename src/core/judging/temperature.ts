import { expectedGauge } from '../physics/gas-temperature';
import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { decimal, fromSi, referencePressure, toNumber, toSi, unitLabel } from '../quantities';
import type { GaugePa } from '../quantities/pressure';
import type { HoldResult } from './hold';
import type { Log } from './log';
import { type Finding, finding } from './reasons';

/** What the pipe's temperatures alone would have moved the gauge by; shown, not applied, in holds under ten minutes. */
export function temperatureNote(phase: HoldPhase, plan: Plan, log: Log, result: HoldResult): readonly Finding[] {
  if (result.start === undefined || result.endAt === undefined) return [];
  const taken = log.inRound('reading', phase.id).filter(({ quantity }) => quantity === 'temperature');
  const first = taken.find(({ role }) => role === 'start');
  const last = taken.findLast(({ role }) => role === 'end');
  if (first === undefined || last === undefined || first.unit !== last.unit) return [];
  const startPa = toSi(toNumber(decimal(result.start)), plan.gauge.unit) as GaugePa;
  const expected = expectedGauge({
    startGaugePa: startPa,
    startK: toSi(Number(first.value), first.unit),
    endK: toSi(Number(last.value), last.unit),
    startAtmospherePa: referencePressure,
    endAtmospherePa: referencePressure,
  });
  if (!expected.ok) return [];
  const effect = fromSi(expected.value - startPa, plan.gauge.unit).toFixed(2);
  return [
    finding(
      'temperature',
      {
        title: phase.title,
        start: first.value,
        end: last.value,
        unit: unitLabel(first.unit),
        effect,
        pressureUnit: unitLabel(plan.gauge.unit),
      },
      phase.id,
    ),
  ];
}
