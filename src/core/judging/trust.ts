import { gaugeFindings } from '../planning/gauge';
import { demandOf, instrumentsOf } from '../planning/instruments';
import type { Plan } from '../planning/plan';
import { unitLabel } from '../quantities';
import { boundaryProved } from './boundaries';
import { localDate } from './events';
import type { PhaseJudgement } from './judge';
import type { Log } from './log';
import { type Finding, finding } from './reasons';

/** Doubts about the instruments that no reading can lift: calibration on the day, range, readability (DOMAIN 4.7). */
export function doubtsOfGauge(plan: Plan, log: Log): readonly Finding[] {
  const readings = log.of('reading');
  const first = readings[0];
  if (first === undefined) return [];
  const on = localDate(first);
  return instrumentsOf(plan).flatMap(({ role, instrument }) => {
    const demand = demandOf(plan, role);
    if (demand === undefined) return [];
    const limitUnit = unitLabel(demand.unit);
    return gaugeFindings(instrument, { ...demand, on }).map(({ code }) =>
      finding(code, {
        due: instrument.calibration.needed ? instrument.calibration.due : '',
        last: instrument.calibration.needed ? instrument.calibration.last : '',
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
        ...(demand.rangeAtLeast === undefined ? {} : { leastTimes: demand.rangeAtLeast }),
        ...(role === undefined ? {} : { name: instrument.name }),
      }),
    );
  });
}

/** Boundaries that nothing has proved, once the hold that judges was read (DOMAIN 4.13). */
export function doubtsOfBoundaries(plan: Plan, phases: readonly PhaseJudgement[]): readonly Finding[] {
  if (!phases.some(({ id, endAt }) => id === plan.judgedBy && endAt !== undefined)) return [];
  return plan.boundaries
    .filter((boundary) => !boundaryProved(plan, boundary, phases))
    .map(({ label }) => finding('boundary-unproved', { label }));
}

/** What must be said beside a verdict, and changes none: a simulated gauge, the house rules and own figures used. */
export function saidBeside(plan: Plan, log: Log, begun: boolean): readonly Finding[] {
  const readings = log.of('reading');
  const simulated =
    readings.length > 0 &&
    (instrumentsOf(plan).some(({ instrument }) => instrument.simulated) || readings.some(({ source }) => source === 'simulated gauge'));
  return [
    ...(simulated ? [finding('simulated')] : []),
    ...plan.figures
      .filter(({ source }) => begun && source !== 'procedure')
      .map(({ label, value, unit, procedureValue, source, reference = '' }) =>
        finding(source === 'house rule' ? 'house-rule' : 'own-figure', { label, value, unit, procedure: procedureValue, reference }),
      ),
  ];
}
