import type { Contents } from '../limits';
import { kelvinForGas } from '../physics/gas-temperature';
import { type InstrumentUnit, referencePressure, unitKind, unitLabel } from '../quantities';
import { degreesOf, unitOfHold } from './instruments';
import type { HoldPhase, Part } from './phases';
import type { PlanShape as Plan } from './plan-shape';

/** What a phase of a plan holds: its part's, that of the part whose valve it proves, or the plan's first. */
function contentsOf(plan: Plan, id: string): Contents | undefined {
  const valves = (part: Part): readonly string[] => {
    const phase = plan.phases.find((one) => one.id === part.phase);
    return part.letBys ?? (phase?.kind === 'hold' ? phase.valve : undefined) ?? [];
  };
  const part = plan.sight.find(({ phase }) => phase === id) ?? plan.sight.find((one) => valves(one).includes(id)) ?? plan.sight[0];
  return part?.contents;
}

/**
 * Kelvins that the pipe would have to warm, negative to cool, to move a hold's gauge so (DOMAIN 3.2, 3.7). None for a level, for soft
 * pipe, which gives no sign, and where there is nothing to warm.
 * @param movedPa rise, negative for a fall @param startPa gauge pressure that it started from
 */
export function kelvinThatMoves(plan: Plan, phase: HoldPhase, movedPa: number, startPa: number): number | undefined {
  const contents = contentsOf(plan, phase.id);
  if (contents === undefined || unitKind(unitOfHold(plan, phase)) !== 'pressure') return undefined;
  if (contents.kind === 'gas' || contents.kind === 'unknown') return kelvinForGas(movedPa, Math.max(1, startPa + referencePressure));
  if (contents.kind !== 'water' || contents.expansionPpm === undefined) return undefined;
  const expansion = Number(contents.expansionPpm) * 1e-6;
  const softness = Number(contents.softness) / 1e9 + Number(contents.airPercent) / 100 / (startPa + referencePressure);
  return expansion > 0 ? (movedPa * softness) / expansion : undefined;
}

/** What the pipe would have to do to move a gauge so, in a clause: `a pipe that cools by 0.07 °C does as much`; none where it gives no sign. */
export function weatherWords(plan: Plan, phase: HoldPhase, movedPa: number, startPa: number): string | undefined {
  const kelvin = movedPa === 0 ? undefined : kelvinThatMoves(plan, phase, movedPa, startPa);
  if (kelvin === undefined) return undefined;
  return `a pipe that ${kelvin < 0 ? 'cools' : 'warms'} by ${degreesText(kelvin, unitOfHold(plan, phase))} does as much`;
}

/** A change of temperature in the trade's unit. */
export function degreesText(kelvin: number, unit: InstrumentUnit): string {
  const shown = degreesOf(unit);
  const value = Math.abs(kelvin) * (shown === 'F' ? 9 / 5 : 1);
  return `${Number(value.toPrecision(2))} ${unitLabel(shown)}`;
}
