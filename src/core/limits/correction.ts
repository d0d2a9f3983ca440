import { decimalText, may, type Of, oneOf, shape } from '../exact/shape';
import { expectedGauge } from '../physics/gas-temperature';
import { unnoticedK, unreadBarometerPa } from '../physics/hold-sight';
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
  unitKind,
  unitLabel,
} from '../quantities';
import type { GaugePa } from '../quantities/pressure';
import type { Condition, HoldFacts } from './facts';

/** Shortest hold whose gas the pipe's temperatures correct, s (DOMAIN 4.6): in a shorter one they are shown, and what was read decides. */
export const shortestCorrectedS = 600;
/** Only holds of so long need temperatures, and the barometer where it counts. */
export const longestUncorrectedS = 14_400;

/** Where a hold on gas is corrected for temperature and barometer (DOMAIN 4.6). */
export const correctionShape = shape({
  /** Atmosphere where no barometer is read. */
  atmosphereHpa: decimalText,
  /** What must be read at both ends, else the hold proves nothing. */
  needed: oneOf('nothing', 'temperatures', 'barometer', 'both'),
  /** Step of the thermometer that the plan names, K; then it is read at both ends. */
  thermometerK: may(decimalText),
  /** Step of the barometer that the plan names, Pa; then it is read at both ends. */
  barometerPa: may(decimalText),
});
export type Correction = Of<typeof correctionShape>;

/** Over so much doubt a thermometer is too coarse, and corrects nothing in favour of a pass; K (DOMAIN 3.3). */
const coarseK = 0.5;
/** A barometer is never trusted nearer than this, Pa. */
const surelyPa = 20;

/** Two readings of a barometer may each be off by 0.2 hPa or by its step, the larger; Pa. */
export const barometerDoubtPa = (stepPa = 0): number => Math.SQRT2 * Math.max(surelyPa, stepPa);

/** What temperature and barometer leave of a movement. */
export type Corrected =
  /** Nothing was read that could tell, or what was read differs by no more than its doubt: the raw movement decides. */
  | { readonly kind: 'raw'; readonly corrected?: CorrectedFall }
  /** They differ by more than their doubt: the corrected movement speaks too. */
  | ({ readonly kind: 'differs' } & CorrectedFall)
  /** Something that this hold cannot do without was not read, in words. */
  | { readonly kind: 'unread'; readonly missing: string };

export interface CorrectedFall {
  /** Corrected fall and how far it may be off, in the instrument's unit, to a tenth of its step. */
  readonly fall: Decimal;
  readonly doubt: Decimal;
  /** Too coarse to clear a fall. */
  readonly coarse: boolean;
  readonly conditions: string;
  /** Temperature of the gas at the start, K; the reference where none was read. */
  readonly startK: number;
  /** How far the gauge may have moved in between by the weather alone: what the temperatures and barometers read span, and the doubt. */
  readonly slack: Decimal;
}

const inSi = ({ value, unit }: Condition): number => toSi(toNumber(decimal(value)), unit);
const shown = ({ value, unit }: Condition): string => `${value} ${unitLabel(unit)}`;

/** What one step of a thermometer is, K, as its figure was typed: 18 is a whole degree, 18.3 a tenth. */
const stepK = ({ value, unit }: Condition): number => 10 ** -(readDecimal(value)?.scale ?? 0) * (unit === ('F' satisfies Unit) ? 5 / 9 : 1);

/**
 * Doubt of the difference of two pipe temperatures, K (DOMAIN 3.3): the thermometer's step, and for the spot 0.1 K or a tenth
 * of the difference, the larger.
 */
export const temperatureDoubtK = (start: Condition, end: Condition, namedStepK = 0): number =>
  Math.max(stepK(start), stepK(end), namedStepK) + Math.max(0.1, Math.abs(inSi(end) - inSi(start)) / 10);

const conditionWords = { temperature: 'the pipe’s temperature', barometer: 'the barometer' } as const;

/** What must be read at both ends, or the hold proves nothing: what the procedure needs, and what the plan names. */
export const mustRead = ({ needed, thermometerK, barometerPa }: Correction): readonly ('temperature' | 'barometer')[] => [
  ...(needed === 'temperatures' || needed === 'both' || thermometerK !== undefined ? (['temperature'] as const) : []),
  ...(needed === 'barometer' || needed === 'both' || barometerPa !== undefined ? (['barometer'] as const) : []),
];

/** What the conditions leave of a hold's movement; undefined where it may not be corrected at all. */
export function correctedBy(facts: HoldFacts): Corrected {
  const plan = facts.corrects;
  if (plan === undefined || unitKind(facts.unit) !== 'pressure') return { kind: 'raw' };
  const { start, end, seconds, unit, step, conditions } = facts;
  const { pipe, air } = conditions;
  const read = { temperature: pipe, barometer: air };
  const missing = mustRead(plan).flatMap((what) => (read[what] === undefined ? [conditionWords[what]] : []));
  if (missing.length > 0) return { kind: 'unread', missing: `${missing.join(' and ')} at start and end` };
  if (seconds < shortestCorrectedS && plan.needed !== 'barometer' && plan.barometerPa === undefined) return { kind: 'raw' };
  // In a shorter hold temperatures are shown, and what was read decides.
  const warms = seconds >= shortestCorrectedS ? pipe : undefined;
  // A barometer that was read at both ends says what it says, also where its usual change would not matter.
  const presses = air;
  if (warms === undefined && presses === undefined) return { kind: 'raw' };
  const still = Number(plan.atmosphereHpa) * 100;
  const startAir = atmosphereFromBarometer(presses === undefined ? still : inSi(presses.start));
  const endAir = atmosphereFromBarometer(presses === undefined ? still : inSi(presses.end));
  if (!startAir.ok || !endAir.ok) return { kind: 'unread', missing: 'a barometer reading between 500 and 1100 hPa' };
  const startPa = toSi(toNumber(start.value), unit) as GaugePa;
  const startK = warms === undefined ? referenceTemperatureK : inSi(warms.start);
  const endK = warms === undefined ? startK : inSi(warms.end);
  const expected = expectedGauge({ startGaugePa: startPa, startK, endK, startAtmospherePa: startAir.value, endAtmospherePa: endAir.value });
  if (!expected.ok) return { kind: 'unread', missing: 'a pipe temperature between −73 and 127 °C' };
  const doubtK = warms === undefined ? 0 : temperatureDoubtK(warms.start, warms.end, Number(plan.thermometerK ?? 0));
  const airDoubt = presses === undefined ? 0 : barometerDoubtPa(Number(plan.barometerPa ?? '0'));
  const doubtPa = Math.hypot(((startPa + startAir.value) / startK) * doubtK, airDoubt);
  const scale = step.scale + 1;
  const foreseen = fromNumber(fromSi(expected.value, unit), scale);
  const doubt = fromNumber(fromSi(doubtPa, unit), scale);
  if (foreseen === undefined || doubt === undefined) return { kind: 'unread', missing: 'a pipe temperature between −73 and 127 °C' };
  const kelvins = [startK, endK, ...(warms === undefined ? [] : meanwhile(conditions))];
  const span = Math.max(...kelvins) - Math.min(...kelvins);
  const slackPa = ((startPa + startAir.value) / startK) * (span > doubtK ? span : 0) + Math.abs(endAir.value - startAir.value) + doubtPa;
  const slack = fromNumber(span > doubtK || endAir.value !== startAir.value ? fromSi(slackPa, unit) : 0, scale) ?? decimal('0');
  const found: CorrectedFall = {
    fall: subtract(foreseen, end.value),
    doubt,
    coarse: doubtK > coarseK || pipe?.overdue === true || air?.overdue === true,
    startK,
    conditions: [
      ...(warms === undefined ? [] : [`pipe ${shown(warms.start)} to ${shown(warms.end)}`]),
      ...(presses === undefined ? [] : [`barometer ${shown(presses.start)} to ${shown(presses.end)}`]),
    ].join(', '),
    slack,
  };
  const differs =
    (warms !== undefined && Math.abs(endK - startK) > doubtK) ||
    (presses !== undefined && Math.abs(endAir.value - startAir.value) > airDoubt);
  return differs ? { kind: 'differs', ...found } : { kind: 'raw', corrected: found };
}

/** What drift a hold's readings leave open: of the pipe, K, and of the air, Pa; none where that was not read, or may correct nothing. */
export function driftsOf({ corrects, seconds, conditions }: Pick<HoldFacts, 'corrects' | 'seconds' | 'conditions'>): Drifts | undefined {
  if (corrects === undefined || (conditions.pipe === undefined && conditions.air === undefined)) return undefined;
  const { pipe, air } = conditions;
  const kept = (amount: number, read: boolean): KeptDrift => ({ amount: String(Number(amount.toFixed(6))), read });
  const drift = (unread: number, doubt: number, moved: number, overdue: boolean | undefined): KeptDrift => {
    // Beyond its doubt what was read decides, and nobody may say that nothing moved.
    if (moved > doubt) return kept(overdue === true ? Math.max(unread, doubt) : doubt, true);
    return overdue !== true && doubt < unread ? kept(doubt, true) : kept(unread, false);
  };
  const moved = ({ start, end }: { readonly start: Condition; readonly end: Condition }) => Math.abs(inSi(end) - inSi(start));
  return {
    ...(pipe === undefined || seconds < shortestCorrectedS
      ? {}
      : {
          warms: drift(
            unnoticedK(seconds),
            temperatureDoubtK(pipe.start, pipe.end, Number(corrects.thermometerK ?? 0)),
            moved(pipe),
            pipe.overdue,
          ),
        }),
    ...(air === undefined
      ? {}
      : { presses: drift(unreadBarometerPa(seconds), barometerDoubtPa(Number(corrects.barometerPa ?? '0')), moved(air), air.overdue) }),
  };
}
/** A drift as a judgement keeps it: a decimal text, since it is hashed with the rest. */
interface KeptDrift {
  readonly amount: string;
  readonly read: boolean;
}
export interface Drifts {
  readonly warms?: KeptDrift;
  readonly presses?: KeptDrift;
}

const meanwhile = (conditions: HoldFacts['conditions']): readonly number[] =>
  conditions.meanwhile.map(({ reading }) => inSi(reading)).filter((kelvin) => kelvin >= 200 && kelvin <= 400);

export const correctionData = ({ fall, doubt, conditions }: CorrectedFall) => ({
  corrected: toText(fall),
  doubt: toText(doubt),
  conditions,
});
