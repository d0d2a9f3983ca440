import { gaugeFindings } from '../planning/gauge';
import type { Plan } from '../planning/plan';
import { unitLabel } from '../quantities';
import { boundaryProved } from './boundaries';
import { localDate } from './events';
import type { PhaseJudgement } from './judge';
import type { Log } from './log';
import { type Finding, finding } from './reasons';

/** Doubts about the gauge that no reading can lift: calibration on the day, range, readability (DOMAIN 4.7). */
export function doubtsOfGauge(plan: Plan, log: Log): readonly Finding[] {
  const first = log.of('reading')[0];
  if (first === undefined) return [];
  const { gauge } = plan;
  const on = localDate(first);
  const limitUnit = unitLabel(plan.unit);
  return gaugeFindings(gauge, { highest: plan.highest, limit: plan.limit, unit: plan.unit, on }).map(({ code }) =>
    finding(code, {
      due: gauge.calibration.needed ? gauge.calibration.due : '',
      on,
      readability: gauge.readability,
      unit: unitLabel(gauge.unit),
      limit: plan.limit,
      limitUnit,
      high: gauge.rangeHigh,
      needed: plan.highest,
      neededUnit: limitUnit,
    }),
  );
}

/** Boundaries that nothing has proved, once the hold that judges was read (DOMAIN 4.13). */
export function doubtsOfBoundaries(plan: Plan, phases: readonly PhaseJudgement[]): readonly Finding[] {
  if (!phases.some(({ id, endAt }) => id === plan.judgedBy && endAt !== undefined)) return [];
  return plan.boundaries
    .filter((boundary) => !boundaryProved(plan, boundary, phases))
    .map(({ label }) => finding('boundary-unproved', { label }));
}

/** What must be said beside a verdict, and changes none: a simulated gauge, the house rules used. */
export function saidBeside(plan: Plan, log: Log, begun: boolean): readonly Finding[] {
  const readings = log.of('reading');
  const simulated = readings.length > 0 && (plan.gauge.simulated || readings.some(({ source }) => source === 'simulated gauge'));
  return [
    ...(simulated ? [finding('simulated')] : []),
    ...plan.figures
      .filter(({ source }) => begun && source === 'house rule')
      .map(({ label, value, unit, procedureValue, reference = '' }) =>
        finding('house-rule', { label, value, unit, procedure: procedureValue, reference }),
      ),
  ];
}
