import type { InstrumentUnit } from '../planning/gauge';
import { instrumentOf } from '../planning/instruments';
import type { Plan } from '../planning/plan';
import type { MeasurePhase, ReadQuantity } from '../procedures/phases';
import { decimal, readDecimal, toText, unitLabel } from '../quantities';
import { airAtMost } from './criteria/air-at-most';
import { flowAtMost } from './criteria/flow-at-most';
import { inBands } from './criteria/in-bands';
import { makeUpAtMost } from './criteria/make-up';
import type { Found, MeasureContext, Measured, PointValue } from './criteria/point';
import { disturbance, type HoldResult } from './hold';
import type { Log } from './log';
import { readingFault, valueText } from './readings';
import { type Finding, finding } from './reasons';

export interface MeasureResult extends Partial<Found> {
  readonly startAt?: number;
  readonly endAt?: number;
  readonly findings: readonly Finding[];
  /** Points read whole so far. */
  readonly points: readonly { readonly id: string; readonly values: Readonly<Partial<Record<ReadQuantity, string>>> }[];
}

/**
 * Judges one round of a measuring phase. The first reading of each figure at a point stands; a second is shown and changes
 * nothing, as with a hold's start and end. Over when every point has every figure.
 */
export function judgeMeasure(
  phase: MeasurePhase,
  plan: Plan,
  log: Log,
  withdrawn: ReadonlySet<string>,
  holds: ReadonlyMap<string, HoldResult>,
  openFrom: number,
): MeasureResult {
  const notReached = log.inRound('not-reached', phase.id)[0];
  if (notReached !== undefined)
    return { outcome: 'not-reached', spoilt: false, endAt: notReached.observedAt, findings: [], working: [], data: {}, points: [] };
  const notes: Finding[] = [];
  const values = new Map<string, Map<ReadQuantity, PointValue>>(phase.points.map(({ id }) => [id, new Map()]));
  let startAt: number | undefined;
  let endAt: number | undefined;
  for (const event of log.inRound('reading', phase.id)) {
    const point = values.get(event.point ?? phase.points[0].id);
    const field = phase.fields.find(({ quantity }) => quantity === event.quantity);
    if (withdrawn.has(event.id) || point === undefined || field === undefined) continue;
    const about = { ...valueText(event), title: phase.title };
    const instrument = instrumentOf(plan, field.instrument);
    const belowRange = event.qualifier === 'below range';
    const why =
      belowRange && readDecimal(event.value) !== undefined
        ? event.unit === instrument.unit
          ? undefined
          : `the instrument shows ${unitLabel(instrument.unit)}`
        : readingFault(instrument, event.value, event.unit);
    if (why !== undefined) notes.push(finding('reading-refused', { ...about, why }, phase.id));
    else if (event.observedAt < openFrom) notes.push(finding('start-too-soon', about, phase.id));
    else if (point.has(event.quantity)) notes.push(finding('second-point', about, phase.id));
    else {
      point.set(event.quantity, { value: decimal(event.value), unit: event.unit as InstrumentUnit, belowRange });
      startAt = Math.min(startAt ?? event.observedAt, event.observedAt);
      endAt = Math.max(endAt ?? event.observedAt, event.observedAt);
    }
  }
  const whole = phase.points.filter(({ id }) => values.get(id)?.size === phase.fields.length);
  const points: readonly Measured[] = whole.map(({ id, label }) => ({ id, label, values: values.get(id) ?? new Map() }));
  const shown = points.map(({ id, values: read }) => ({
    id,
    values: Object.fromEntries([...read].map(([quantity, { value }]) => [quantity, toText(value)])),
  }));
  const [from, until] = [startAt ?? Number.POSITIVE_INFINITY, endAt ?? Number.NEGATIVE_INFINITY];
  const during = ({ observedAt }: { readonly observedAt: number }) => observedAt >= from && observedAt <= until;
  const begun = { ...(startAt === undefined ? {} : { startAt }), points: shown };
  if (whole.length < phase.points.length || endAt === undefined) return { ...begun, findings: notes };
  const spoiltBy = disturbance(log, phase, during, notes);
  if (spoiltBy !== undefined) return { ...begun, endAt, outcome: 'void', spoilt: true, working: [], findings: [...notes, spoiltBy] };
  const found = decide({ phase, plan, log, points, holds, withdrawn });
  return { ...begun, endAt, ...found, findings: [...notes, ...found.findings] };
}

function decide(context: MeasureContext): Found {
  const { criterion } = context.phase;
  switch (criterion.kind) {
    case 'recorded':
      return { outcome: 'recorded', spoilt: false, findings: [], working: [], data: {} };
    case 'in-bands':
      return inBands(context, criterion);
    case 'air-at-most':
      return airAtMost(context, criterion);
    case 'flow-at-most':
      return flowAtMost(context, criterion);
    case 'make-up-at-most':
      return makeUpAtMost(context, criterion);
  }
}
