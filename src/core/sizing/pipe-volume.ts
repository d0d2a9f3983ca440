import { fromSi, parseQuantity, readDecimal, toNumber, toSi, unitLabel } from '../quantities';
import { bad, good, type Problem, type Result, refuse } from '../quantities/result';
import { readMeasured } from './measured-line';

/** Internal diameters in mm by material and size (DOMAIN 3.4); `nominalMm` is the outside size that scopes speak of. */
interface Bore {
  readonly boreMm: number;
  readonly nominalMm: number;
}

const copper: Record<string, number> = { '10': 8.8, '12': 10.8, '15': 13.6, '22': 20.2, '28': 26.2, '35': 32.6, '42': 39.6, '54': 51.6 };
const mediumSteel: Record<string, number> = { '15': 16.1, '20': 21.7, '25': 27.3, '32': 36.0, '40': 41.9, '50': 53.1 };
const schedule40Inch: Record<string, number> = {
  '1/2': 0.622,
  '3/4': 0.824,
  '1': 1.049,
  '1-1/4': 1.38,
  '1-1/2': 1.61,
  '2': 2.067,
  '2-1/2': 2.469,
  '3': 3.068,
  '4': 4.026,
};
/** Copper tube by its nominal inches: the thinnest usual wall, so that the volume is never understated. */
const copperInch: Record<string, number> = {
  '3/8': 0.45,
  '1/2': 0.569,
  '3/4': 0.811,
  '1': 1.055,
  '1-1/4': 1.291,
  '1-1/2': 1.527,
  '2': 2.009,
};
/** PEX by its nominal inches, outside as copper tube, the wall a ninth of it. */
const pexInch: Record<string, number> = { '3/8': 0.36, '1/2': 0.485, '5/8': 0.584, '3/4': 0.681, '1': 0.875, '1-1/4': 1.07, '1-1/2': 1.26 };
const plastic: Record<string, number> = { '16x2': 12, '20x2': 16, '20x2.25': 15.5, '26x3': 20, '32x3': 26 };

export type PipeMaterial = 'cu' | 'steel' | 'sch40' | 'pex' | 'cu-inch' | 'pex-inch' | 'bore';

export const pipeMaterials: readonly { readonly id: PipeMaterial; readonly label: string; readonly sizes: readonly string[] }[] = [
  { id: 'cu', label: 'Copper', sizes: Object.keys(copper) },
  { id: 'steel', label: 'Medium steel DN', sizes: Object.keys(mediumSteel) },
  { id: 'sch40', label: 'Schedule 40, inches', sizes: Object.keys(schedule40Inch) },
  { id: 'pex', label: 'PEX or multilayer', sizes: Object.keys(plastic) },
  { id: 'cu-inch', label: 'Copper, inches', sizes: Object.keys(copperInch) },
  { id: 'pex-inch', label: 'PEX, inches', sizes: Object.keys(pexInch) },
  { id: 'bore', label: 'Own bore, mm', sizes: [] },
];

export interface PipeRun {
  readonly material: PipeMaterial;
  readonly size: string;
  /** Length, or the high end of an estimate. */
  readonly lengthM: number;
  /** Low end, where the length is an estimate. */
  readonly lowestM?: number;
  /** The line as typed, kept for the record. */
  readonly text: string;
}

/** Bore of a listed size, mm; the outside size of an own bore is taken as the bore. */
export function boreOf(material: PipeMaterial, size: string): Result<Bore> {
  const tables: Partial<Record<PipeMaterial, Record<string, number>>> = { cu: copper, steel: mediumSteel, pex: plastic };
  if (material === 'bore') {
    const bore = Number(size);
    return !(bore >= 1 && bore <= 1500)
      ? bad('bore-range', 'An own bore must lie between 1 and 1500 mm.', 'size')
      : good({ boreMm: bore, nominalMm: bore });
  }
  const inchTables: Partial<Record<PipeMaterial, Record<string, number>>> = {
    sch40: schedule40Inch,
    'cu-inch': copperInch,
    'pex-inch': pexInch,
  };
  const inchTable = inchTables[material];
  if (inchTable !== undefined) {
    const inches = inchTable[size];
    if (inches === undefined) return unknownSize(material, size);
    const [first, second] = size.split('-').map(evaluate);
    return good({ boreMm: inches * 25.4, nominalMm: (first + (second ?? 0)) * 25.4 });
  }
  const boreMm = tables[material]?.[size];
  return boreMm === undefined ? unknownSize(material, size) : good({ boreMm, nominalMm: Number.parseFloat(size) });
}

const evaluate = (part: string): number => {
  const [over, under = '1'] = part.split('/');
  return Number(over) / Number(under);
};

const unknownSize = (material: PipeMaterial, size: string) => {
  const known = pipeMaterials.find((entry) => entry.id === material)?.sizes.join(', ') ?? '';
  return bad('pipe-size', `${size} is not in the table for that pipe. Use one of ${known}, or type the bore: 21.3bore 4.`, 'size');
};

/** Splits an estimate at its dots or its “to”: `6..9`, `40 to 60 ft`. A low end without a unit takes the high end's. */
function ends(text: string): readonly [low: string | undefined, high: string] {
  const match = /^(.*?)\s*(?:\.\.|\bto\b)\s*(.*)$/.exec(text.trim());
  if (match === null) return [undefined, text];
  const [, low, high] = match;
  const unit = /[^\d\s.,/-].*$/.exec(high)?.[0] ?? '';
  return [/[^\d\s.,/-]/.test(low) ? low : `${low} ${unit}`, high];
}

const words: Readonly<Record<string, PipeMaterial>> = {
  cu: 'cu',
  copper: 'cu',
  dn: 'steel',
  steel: 'steel',
  sch40: 'sch40',
  s40: 'sch40',
  pvc: 'sch40',
  'sch 40': 'sch40',
  pex: 'pex',
  pert: 'pex',
  'pe-rt': 'pex',
  ml: 'pex',
  mlcp: 'pex',
  multilayer: 'pex',
  bore: 'bore',
};
const pipeLine = new RegExp(
  String.raw`^([\d./x-]+(?:\s\d+\/\d+)?)\s*(in\b|"|″|inch\b|mm\b)?\s*(${Object.keys(words)
    .sort((a, b) => b.length - a.length)
    .join('|')})\b\.?\s+(.+)$`,
);

/** Copper and plastic are sold by mm and by inches: a fraction, an inch mark, or a size that only the inches have tells which. */
function materialOf(word: string, size: string, marked: boolean): PipeMaterial {
  const named = words[word];
  const inch = named === 'cu' ? ('cu-inch' as const) : named === 'pex' ? ('pex-inch' as const) : undefined;
  if (inch === undefined) return named;
  const own = named === 'cu' ? copper : plastic;
  return size.includes('/') || (marked && own[size] === undefined) || (own[size] === undefined && /^[12]$/.test(size)) ? inch : named;
}

/**
 * Reads a line of the pipe schedule as people type it: `22cu 6.5`, `1sch40 40ft`, `20dn 3`, `20x2.25pex 12`, `21.3bore 4`.
 * A length without a unit is in metres; a length that is not known is a low and a high estimate, `22cu 6..9`.
 */
export function parsePipeLine(text: string): Result<PipeRun> {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/×/g, 'x')
    .replace(/(\d),(\d)/g, '$1.$2');
  const match = pipeLine.exec(clean);
  if (match === null)
    return bad('pipe-line', `“${text.trim()}” is not a pipe line. Type size, material and length, like 22cu 6.5 or 1sch40 40ft.`);
  const [, sizeText, mark, word, lengthText] = match;
  const size = sizeText.trim().replace(/\s+(?=\d+\/)/, '-');
  const material = materialOf(word, size, mark !== undefined);
  const bore = boreOf(material, size);
  if (!bore.ok) return bore;
  const [low, high] = ends(lengthText);
  const length = lengthOf(high);
  if (!length.ok) return length;
  const lowest = low === undefined ? undefined : lengthOf(low);
  if (lowest?.ok === false) return lowest;
  if (lowest !== undefined && lowest.value > length.value)
    return bad('pipe-estimate', 'The low end of an estimate comes first, as in 6..9.', 'length');
  return good({
    material,
    size,
    lengthM: length.value,
    lowestM: lowest?.value,
    text: text.trim(),
  });
}

function lengthOf(text: string): Result<number> {
  const length = parseQuantity(text, 'length', 'm');
  if (!length.ok) return length;
  const metres = toSi(toNumber(length.value.value), length.value.unit);
  return metres > 0 && metres <= 10_000
    ? good(metres)
    : bad('pipe-length', 'A pipe length must be above zero and at most 10 000 m.', 'length');
}

/** Litres in one metre of a bore: π/4·d² (DOMAIN 3.4). */
export const litresPerMetre = (boreMm: number): number => (Math.PI / 4) * (boreMm / 1000) ** 2 * 1000;

export interface VolumeInput {
  readonly pipes: readonly PipeRun[];
  /** Fittings are counted one by one in the schedule, so no 10 % is added. */
  readonly fittingsItemised?: boolean;
  /** Meter and rig hose, litres. */
  readonly meterL: number;
  readonly rigHoseL: number;
}

export interface VolumeSum {
  readonly pipesL: number;
  readonly fittingsL: number;
  readonly meterL: number;
  readonly rigHoseL: number;
  /** The high estimate, where lengths are estimates: a larger volume hides a larger leak. */
  readonly totalL: number;
  readonly lowestL?: number;
  /** Without the rig: what limits and times that go by volume are compared with. */
  readonly systemL: number;
  readonly largestNominalMm: number;
}

/** Gas or water space of a system, litres: pipes, 10 % for fittings unless itemised, meter and rig hose. */
export function systemVolume(input: VolumeInput): Result<VolumeSum> {
  let pipesL = 0;
  let lowestPipesL = 0;
  let largestNominalMm = 0;
  for (const pipe of input.pipes) {
    const bore = boreOf(pipe.material, pipe.size);
    if (!bore.ok) return bore;
    const perMetre = litresPerMetre(bore.value.boreMm);
    pipesL += perMetre * pipe.lengthM;
    lowestPipesL += perMetre * (pipe.lowestM ?? pipe.lengthM);
    largestNominalMm = Math.max(largestNominalMm, bore.value.nominalMm);
  }
  const { meterL, rigHoseL } = input;
  if (!(meterL >= 0 && meterL <= 10_000 && rigHoseL >= 0 && rigHoseL <= 100))
    return bad('volume-range', 'Meter and rig volumes must be zero or more litres.');
  const fittingsShare = input.fittingsItemised ? 0 : 0.1;
  const fittingsL = pipesL * fittingsShare;
  const estimated = input.pipes.some(({ lowestM }) => lowestM !== undefined);
  return good({
    pipesL,
    fittingsL,
    meterL,
    rigHoseL,
    totalL: pipesL + fittingsL + meterL + rigHoseL,
    lowestL: estimated ? lowestPipesL * (1 + fittingsShare) + meterL + rigHoseL : undefined,
    systemL: pipesL + fittingsL + meterL,
    largestNominalMm,
  });
}

/**
 * Reads a stated volume, such as `12.5`, `12,5 L` or an estimate `40..60 L`; litres, the high end first. A volume that was
 * measured is what was let in, and the rise that it caused or the gauge before and after it: `0.6 L at 20 mbar`,
 * `0.6 L from 1.0 to 21.0 mbar` (DOMAIN 3.4).
 */
export function parseVolume(text: string): Result<{ readonly litres: number; readonly lowest?: number; readonly measured?: true }> {
  const measured = readMeasured(text);
  if (measured !== undefined) return measured;
  const [low, high] = ends(text);
  const litres = litresOf(high);
  if (!litres.ok) return litres;
  const lowest = low === undefined ? undefined : litresOf(low);
  if (lowest?.ok === false) return lowest;
  if (lowest !== undefined && lowest.value > litres.value)
    return bad('volume-estimate', 'The low end of an estimate comes first, as in 40..60 L.', 'volume');
  return good({ litres: litres.value, lowest: lowest?.value });
}

const largestL = 1_000_000;

function litresOf(text: string): Result<number> {
  const typed = parseQuantity(text, 'volume', 'L');
  if (!typed.ok) return refuse({ ...typed.problem, field: 'volume' });
  const litres = toSi(toNumber(typed.value.value), typed.value.unit) * 1000;
  if (litres > 0 && litres <= largestL) return good(litres);
  const most = `${Number(fromSi(largestL / 1000, typed.value.unit).toPrecision(6))} ${unitLabel(typed.value.unit)}`;
  return bad('volume-range', `“${text.trim()}”: a volume must be above zero and at most ${most}.`, 'volume');
}

/** Whole schedule, a line or comma-free entry each; every fault with its line number. */
export function parsePipeSchedule(text: string): { readonly pipes: readonly PipeRun[]; readonly problems: readonly Problem[] } {
  const pipes: PipeRun[] = [];
  const problems: Problem[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const pipe = parsePipeLine(line);
    if (pipe.ok) pipes.push(pipe.value);
    else problems.push({ ...pipe.problem, message: `Line ${index + 1}: ${pipe.problem.message}` });
  }
  return { pipes, problems };
}

/** True for a decimal that can be a readability. */
export const isStep = (text: string): boolean => {
  const value = readDecimal(text);
  return value !== undefined && value.digits > 0n;
};
