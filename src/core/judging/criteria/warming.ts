import { expectedGauge } from '../../physics/gas-temperature';
import { instrumentOf } from '../../planning/instruments';
import type { Plan } from '../../planning/plan';
import type { HoldPhase } from '../../procedures/phases';
import {
  bad,
  decimal,
  fromSi,
  parseQuantity,
  type Result,
  referencePressure,
  type TemperatureUnit,
  type Typed,
  toNumber,
  toSi,
  toText,
  unitKind,
  unitLabel,
} from '../../quantities';
import type { GaugePa } from '../../quantities/pressure';
import type { HoldResult } from '../hold';
import type { Log } from '../log';
import { type Finding, finding } from '../reasons';

/** Coldest and hottest pipe that a reading is taken for, K; inside what the gas law is used for here (200–400 K). */
const pipeRange = [230, 360] as const;

/** Reads a pipe's temperature as people write it; refuses what no pipe has, with the range in the unit that was typed. */
export function readPipeTemperature(text: string, assumed: TemperatureUnit): Result<Typed> {
  const typed = parseQuantity(text, 'temperature', assumed);
  if (!typed.ok) return typed;
  const { value, unit } = typed.value;
  const kelvin = toSi(toNumber(value), unit);
  const [coldest, hottest] = pipeRange;
  if (kelvin >= coldest && kelvin <= hottest) return typed;
  const ends = pipeRange.map((end) => Math.round(fromSi(end, unit))).join(' and ');
  return bad(
    'pipe-temperature',
    `${toText(value)} ${unitLabel(unit)} is not a pipe’s temperature; it must lie between ${ends} ${unitLabel(unit)}.`,
  );
}

/** Pipe temperatures as read at both ends of a hold, and what they alone would have moved the gauge by, in its unit. */
export interface Warming {
  readonly start: string;
  readonly end: string;
  readonly unit: string;
  readonly effect: number;
}

/** The warming of a hold's round, where the temperature was read at both ends in one unit and lies in range. */
export function warmingOf(
  phase: HoldPhase,
  plan: Plan,
  log: Log,
  start: string,
  withdrawn: ReadonlySet<string> = new Set(),
): Warming | undefined {
  const taken = log.inRound('reading', phase.id).filter(({ id, quantity }) => quantity === 'temperature' && !withdrawn.has(id));
  const first = taken.find(({ role }) => role === 'start');
  const last = taken.findLast(({ role }) => role === 'end');
  if (first === undefined || last === undefined || first.unit !== last.unit) return undefined;
  const { unit } = instrumentOf(plan, phase.instrument);
  if (unitKind(unit) !== 'pressure') return undefined;
  const startPa = toSi(toNumber(decimal(start)), unit) as GaugePa;
  const expected = expectedGauge({
    startGaugePa: startPa,
    startK: toSi(Number(first.value), first.unit),
    endK: toSi(Number(last.value), last.unit),
    startAtmospherePa: referencePressure,
    endAtmospherePa: referencePressure,
  });
  if (!expected.ok) return undefined;
  return { start: first.value, end: last.value, unit: unitLabel(first.unit), effect: fromSi(expected.value - startPa, unit) };
}

/** What the pipe's temperatures alone would have moved the gauge by; shown, not applied, in holds that are not corrected. */
export function temperatureNote(
  phase: HoldPhase,
  plan: Plan,
  log: Log,
  result: HoldResult,
  withdrawn: ReadonlySet<string>,
): readonly Finding[] {
  if (phase.corrects !== undefined || result.start === undefined || result.endAt === undefined) return [];
  const warming = warmingOf(phase, plan, log, result.start, withdrawn);
  if (warming === undefined) return [];
  const { start, end, unit, effect } = warming;
  return [
    finding(
      'temperature',
      {
        title: phase.title,
        start,
        end,
        unit,
        effect: effect.toFixed(2),
        pressureUnit: unitLabel(instrumentOf(plan, phase.instrument).unit),
      },
      phase.id,
    ),
  ];
}
