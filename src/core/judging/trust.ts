import { demandOf, instrumentOf, instrumentsOf, quantityOf, unitOfHold } from '../course/instruments';
import { compareAcross, type Finding } from '../limits';
import type { Plan } from '../planning/plan';
import { add, decimal, type InstrumentUnit, readDecimal, unitKind, unitLabel } from '../quantities';
import { gaugeFindings } from '../sizing/gauge';
import { type EventOf, localDate } from './events';
import { find } from './sayings';

const dayMs = 86_400_000;

/** Doubts about the instruments that no reading can lift: calibration on the day of any reading, range, readability (DOMAIN 4.7). */
export function doubtsOfGauge(plan: Plan, days: ReadonlySet<string>): readonly Finding[] {
  if (days.size === 0) return [];
  const said = new Set<string>();
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

  add({ observedAt, offsetMinutes }: EventOf<'reading'>): void {
    if (observedAt >= this.from && observedAt < this.to && offsetMinutes === this.offset) return;
    const offset = offsetMinutes * 60_000;
    this.offset = offsetMinutes;
    this.from = Math.floor((observedAt + offset) / dayMs) * dayMs - offset;
    this.to = this.from + dayMs;
    this.all.add(localDate({ observedAt, offsetMinutes }));
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

/** A reading over what the weakest part may see by more than a step of the gauge, in any phase that has a ceiling (DOMAIN 4.29). */
export function overRating(plan: Plan, event: EventOf<'reading'>): Finding | undefined {
  const phase = plan.phases.find(({ id }) => id === event.phase);
  if (phase?.kind !== 'hold' || phase.ceiling === undefined || event.role === 'zero') return undefined;
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const value = readDecimal(event.value);
  if (value === undefined || event.quantity !== quantityOf(unit) || unitKind(event.unit) !== unitKind(unit)) return undefined;
  const asked = unitOfHold(plan, phase);
  const own = event.unit as InstrumentUnit;
  const over =
    own === unit
      ? compareAcross(value, own, decimal(phase.ceiling), asked) > 0 &&
        compareAcross(
          add(value, { digits: -decimal(readability).digits, scale: decimal(readability).scale }),
          own,
          decimal(phase.ceiling),
          asked,
        ) > 0
      : compareAcross(value, own, decimal(phase.ceiling), asked) > 0;
  return over
    ? find(
        'over-rating',
        { value: event.value, unit: unitLabel(event.unit), title: phase.title, ceiling: phase.ceiling, limitUnit: unitLabel(asked) },
        phase.id,
      )
    : undefined;
}
