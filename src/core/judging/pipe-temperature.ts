import {
  bad,
  fromSi,
  parseQuantity,
  type Result,
  type TemperatureUnit,
  type Typed,
  toNumber,
  toSi,
  toText,
  unitLabel,
} from '../quantities';

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
