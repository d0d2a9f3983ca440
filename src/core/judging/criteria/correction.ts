import { correctionDoubt, expectedGauge } from '../../physics/gas-temperature';
import { type ReadQuantity, shortestCorrectedS } from '../../procedures/phases';
import {
  atmosphereFromBarometer,
  type Decimal,
  decimal,
  fromNumber,
  fromSi,
  readDecimal,
  referenceTemperatureK,
  subtract,
  toNumber,
  toSi,
  toText,
  type Unit,
  unitLabel,
} from '../../quantities';
import type { GaugePa } from '../../quantities/pressure';
import type { Ends, HoldContext } from './criterion';

/** What temperature and barometer leave of a movement (DOMAIN 3.2, 4.6). */
export type Corrected =
  | {
      readonly kind: 'read';
      /** Corrected fall and how far it may be off, in the instrument's unit, rounded to a tenth of its step. */
      readonly fall: Decimal;
      readonly doubt: Decimal;
      readonly working: readonly string[];
      readonly data: Readonly<Record<string, string>>;
    }
  /** Something that this hold cannot do without was not read, in words. */
  | { readonly kind: 'unread'; readonly missing: string };

interface Pair {
  readonly start: { readonly value: string; readonly unit: Unit };
  readonly end: { readonly value: string; readonly unit: Unit };
}

/** First reading at the start and last at the end of a hold's round. */
function pairOf({ phase, log, withdrawn }: HoldContext, quantity: ReadQuantity): Pair | undefined {
  const taken = log
    .inRound('reading', phase.id)
    .filter((event) => event.quantity === quantity && !withdrawn.has(event.id) && readDecimal(event.value) !== undefined);
  const start = taken.find(({ role }) => role === 'start');
  const end = taken.findLast(({ role }) => role === 'end');
  return start === undefined || end === undefined ? undefined : { start, end };
}

const inSi = ({ value, unit }: Pair['start']): number => toSi(toNumber(decimal(value)), unit);
const text = ({ value, unit }: Pair['start']): string => `${value} ${unitLabel(unit)}`;

/** The corrected movement of a hold that may be corrected; undefined where it may not, or nothing was read and nothing must be. */
export function correctedMovement(context: HoldContext, { start, end }: Ends): Corrected | undefined {
  const { phase, instrument } = context;
  const { corrects } = phase;
  if (corrects === undefined) return undefined;
  // In a shorter hold temperatures are shown, and what was read decides (DOMAIN 4.6).
  const pipe = phase.seconds < shortestCorrectedS ? undefined : pairOf(context, 'temperature');
  const air = pairOf(context, 'barometer');
  const missing = [...(pipe === undefined ? ['pipe temperature'] : []), ...(air === undefined ? ['barometer'] : [])];
  const lacking = corrects.needed === 'barometer' ? missing.filter((what) => what === 'barometer') : corrects.needed ? missing : [];
  if (lacking.length > 0) return { kind: 'unread', missing: `${lacking.join(' and ')} at start and end` };
  if (pipe === undefined && corrects.needed !== 'barometer') return undefined;

  const still = Number(corrects.atmosphereHpa) * 100;
  const startAir = atmosphereFromBarometer(air === undefined ? still : inSi(air.start));
  const endAir = atmosphereFromBarometer(air === undefined ? still : inSi(air.end));
  if (!startAir.ok || !endAir.ok) return { kind: 'unread', missing: 'a barometer reading between 500 and 1100 hPa' };
  const startPa = toSi(toNumber(start.value), instrument.unit) as GaugePa;
  // Without a pipe's temperatures only the barometer corrects; the gas is then taken to stay as warm as it was.
  const startK = pipe === undefined ? referenceTemperatureK : inSi(pipe.start);
  const expected = expectedGauge({
    startGaugePa: startPa,
    startK,
    endK: pipe === undefined ? startK : inSi(pipe.end),
    startAtmospherePa: startAir.value,
    endAtmospherePa: endAir.value,
  });
  const doubt = correctionDoubt({
    absolutePa: startPa + startAir.value,
    kelvin: startK,
    temperatureDoubtK: pipe === undefined ? 0 : Number(corrects.temperatureDoubtK),
    barometerDoubtPa: air === undefined ? 0 : Number(corrects.barometerDoubtHpa) * 100,
  });
  if (!expected.ok || !doubt.ok) return { kind: 'unread', missing: 'a pipe temperature between −73 and 127 °C' };
  const scale = decimal(instrument.readability).scale + 1;
  const foreseen = fromNumber(fromSi(expected.value, instrument.unit), scale);
  const unsure = fromNumber(fromSi(doubt.value, instrument.unit), scale);
  if (foreseen === undefined || unsure === undefined) return { kind: 'unread', missing: 'a pipe temperature between −73 and 127 °C' };
  const fall = subtract(foreseen, end.value);
  const unit = unitLabel(instrument.unit);
  const conditions = [
    ...(pipe === undefined ? [] : [`${text(pipe.start)} to ${text(pipe.end)}`]),
    ...(air === undefined ? [] : [`barometer ${text(air.start)} to ${text(air.end)}`]),
  ].join(', ');
  return {
    kind: 'read',
    fall,
    doubt: unsure,
    data: { corrected: toText(fall), foreseen: toText(foreseen), doubt: toText(unsure), conditions },
    working: [
      `Expected with no leak, pipe ${conditions}: (${start.event.value} ${unit} + atmosphere) × T₂/T₁ − atmosphere = ${toText(foreseen)} ${unit}`,
      `Corrected fall ${toText(foreseen)} − ${end.event.value} = ${toText(fall)} ${unit}, give or take ${toText(unsure)}`,
    ],
  };
}
