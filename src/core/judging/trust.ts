import { demandOf, instrumentOf, instrumentsOf, quantityOf, unitOfHold } from '../course/instruments';
import { compareAcross, type Finding, stoodBetween } from '../limits';
import type { Plan } from '../planning/plan';
import { type Decimal, decimal, type InstrumentUnit, readDecimal, subtract, toText, unitKind, unitLabel } from '../quantities';
import { gaugeFindings } from '../sizing/gauge';
import { datedAt, type EventOf, localDate } from './events';
import { find } from './sayings';

const dayMs = 86_400_000;

/** Doubts about the instruments that no reading can lift: calibration on the day of any reading, range, readability (DOMAIN 4.7). */
export function doubtsOfGauge(plan: Plan, days: ReadonlySet<string>): readonly Finding[] {
  if (days.size === 0) return [];
  const said = new Set<string>();
  return [...weatherOverdue(plan, days), ...ofInstruments(plan, days, said)];
}

/** Thermometer and barometer out of calibration correct nothing in favour of a pass, and that is said. */
const weatherOverdue = ({ weather }: Plan, days: ReadonlySet<string>): readonly Finding[] =>
  [weather?.thermometer, weather?.barometer].flatMap((one) => {
    if (one === undefined || !one.calibration.needed) return [];
    const { due } = one.calibration;
    const on = [...days].find((day) => due < day);
    return on === undefined ? [] : [find('weather-overdue', { name: one.name, due, on })];
  });

function ofInstruments(plan: Plan, days: ReadonlySet<string>, said: Set<string>): readonly Finding[] {
  return [...days].flatMap((on) =>
    instrumentsOf(plan).flatMap(({ role, instrument }) => {
      const demand = demandOf(plan, role);
      if (demand === undefined) return [];
      const limitUnit = unitLabel(demand.unit);
      return gaugeFindings(instrument, { ...demand, on }).flatMap(({ code }): Finding[] => {
        if (said.has(`${role ?? ''} ${code}`)) return [];
        said.add(`${role ?? ''} ${code}`);
        const needed = instrument.calibration.needed;
        return [
          find(code, {
            name: role === undefined ? 'The gauge' : instrument.name,
            due: needed ? instrument.calibration.due : '',
            last: needed ? instrument.calibration.last : '',
            years: String(demand.certificateYears ?? ''),
            on,
            readability: instrument.readability,
            unit: unitLabel(instrument.unit),
            limit: demand.limit,
            limitUnit,
            high: instrument.rangeHigh,
            needed: demand.highest,
            neededUnit: limitUnit,
            times: demand.rangeAtMost ?? '',
            leastTimes: demand.rangeAtLeast ?? '',
          }),
        ];
      });
    }),
  );
}

/** The local days on which instruments of the plan were read. */
export class LocalDays {
  readonly all = new Set<string>();
  private from = 0;
  private to = 0;
  private offset = 0;

  add(event: EventOf<'reading'>): void {
    const { offsetMinutes } = event;
    const at = datedAt(event);
    if (at >= this.from && at < this.to && offsetMinutes === this.offset) return;
    const offset = offsetMinutes * 60_000;
    this.offset = offsetMinutes;
    this.from = Math.floor((at + offset) / dayMs) * dayMs - offset;
    this.to = this.from + dayMs;
    this.all.add(localDate(event));
  }
}

/** What must be said beside a verdict, and changes none: a simulated gauge, the house rules and own figures used. */
export function saidBeside(
  plan: Plan,
  { begun, anyReading, simulated }: { readonly begun: boolean; readonly anyReading: boolean; readonly simulated: boolean },
): readonly Finding[] {
  const byPlan = anyReading && instrumentsOf(plan).some(({ instrument }) => instrument.simulated);
  return [
    ...(simulated || byPlan ? [find('simulated', {})] : []),
    ...plan.figures
      .filter(({ source }) => begun && source !== 'procedure')
      .map(({ label, value, unit, procedureValue, source, reference = '' }) =>
        find(source === 'house rule' ? 'house-rule' : 'own-figure', { label, value, unit, procedure: procedureValue, reference }),
      ),
  ];
}

/**
 * A figure over what the weakest part may see by more than a step of the gauge, in any phase that has a ceiling (DOMAIN 4.29): a
 * reading, or of a trace the highest median over ten seconds (4.20).
 */
export function overRating(plan: Plan, event: EventOf<'reading' | 'trace'>): Finding | undefined {
  const phase = plan.phases.find(({ id }) => id === event.phase);
  if (phase?.kind !== 'hold') return undefined;
  const ceiling = phase.rating ?? phase.ceiling;
  if (ceiling === undefined) return undefined;
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const asked = unitOfHold(plan, phase);
  const own = event.unit as InstrumentUnit;
  if (unitKind(own) !== unitKind(unit)) return undefined;
  const step = decimal(readability);
  const isOver = (value: Decimal): boolean =>
    compareAcross(value, own, decimal(ceiling), asked) > 0 &&
    (own !== unit || compareAcross(subtract(value, step), own, decimal(ceiling), asked) > 0);
  const value = event.type === 'trace' ? stoodHighest(event, isOver) : readAs(event, unit);
  return value !== undefined && isOver(value)
    ? find(
        'over-rating',
        { value: toText(value), unit: unitLabel(own), title: phase.title, ceiling, limitUnit: unitLabel(asked) },
        phase.id,
      )
    : undefined;
}

const readAs = ({ role, quantity, value }: EventOf<'reading'>, unit: InstrumentUnit): Decimal | undefined =>
  role === 'zero' || quantity !== quantityOf(unit) ? undefined : readDecimal(value);

/** The highest that a trace stood at; undefined where no sample of it is over. */
function stoodHighest(trace: EventOf<'trace'>, isOver: (value: Decimal) => boolean): Decimal | undefined {
  const { startAt, stepMs, values, scale } = trace;
  let [low, top] = [values[0], values[0]];
  for (const value of values) {
    if (value > top) top = value;
    if (value < low) low = value;
  }
  if (top === undefined || !isOver({ digits: BigInt(top), scale })) return undefined;
  // No median lies below the lowest sample, so that one beside them changes nothing.
  const lowest = { at: [startAt], steps: [low], scale };
  return stoodBetween(startAt, startAt + values.length * stepMs, lowest, [trace]).highest;
}
