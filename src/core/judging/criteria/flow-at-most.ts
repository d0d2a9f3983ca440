import {
  type DuctPoint,
  type Exponent,
  fitDuct,
  flowAt,
  impliedExponent,
  nearestPoint,
  normalExponents,
  usualExponent,
} from '../../physics/duct-flow';
import { instrumentOf } from '../../planning/instruments';
import type { MeasureCriterion } from '../../procedures/phases';
import {
  add,
  compare,
  compareQuantities,
  type Decimal,
  decimal,
  fromNumber,
  fromSi,
  toNumber,
  toSi,
  toText,
  type Unit,
  unitLabel,
} from '../../quantities';
import { type Finding, finding } from '../reasons';
import type { Found, MeasureContext, Measured } from './point';

type FlowAtMost = Extract<MeasureCriterion, { kind: 'flow-at-most' }>;

interface Read extends DuctPoint {
  readonly point: Measured;
}

/** What the points say of the flow at the reference pressure. */
interface AtReference {
  /** What is compared with the limit: the reading itself where it was taken at the reference, else the worse end. */
  readonly judged: Decimal;
  readonly unit: Exclude<Unit, 'C' | 'F' | 'K'>;
  readonly said: Readonly<Record<string, string>>;
  readonly working: readonly string[];
}

/**
 * Duct leakage at the reference pressure against a limit (DOMAIN 3.6, 5.16). At the limit passes; over it by no more than
 * the rig's own leakage is not told; more fails. With three points and more a curve is fitted, and the worse end of its
 * interval is compared (4.18).
 */
export function flowAtMost(context: MeasureContext, criterion: FlowAtMost): Found {
  const { phase, points, plan } = context;
  const flowField = phase.fields.find(({ quantity }) => quantity === 'flow');
  const pressureField = phase.fields.find(({ quantity }) => quantity === 'pressure');
  const meter = instrumentOf(plan, flowField?.instrument);
  const gauge = instrumentOf(plan, pressureField?.instrument);
  const steps = [toSi(Number(gauge.readability), gauge.unit), toSi(Number(meter.readability), meter.unit)] as const;
  const unit = unitLabel(criterion.unit);
  const base = { title: phase.title, limit: criterion.limit, unit, reference: criterion.reference, baseline: criterion.baseline };
  const spoilt = (outcome: string, found: Finding): Found => ({ outcome, spoilt: true, findings: [found], working: [], data: base });

  const under = points.find(({ values }) => values.get('flow')?.belowRange === true);
  if (under !== undefined)
    return spoilt(
      'below-range',
      finding('flow-below-range', { ...base, point: under.label, least: meter.rangeLow, unit: unitLabel(meter.unit) }, phase.id),
    );
  const read: Read[] = points.flatMap((point) => {
    const [pressure, flow] = [point.values.get('pressure'), point.values.get('flow')];
    if (pressure === undefined || flow === undefined) return [];
    return [{ point, pa: toSi(toNumber(pressure.value), pressure.unit), flowM3s: toSi(toNumber(flow.value), flow.unit) }];
  });
  const exponent = exponentOf(read, steps);
  // Points that lie together prove no set-up: without that check the flow means nothing.
  if (exponent === undefined && read.length > 1) return spoilt('unclear', finding('points-together', base, phase.id));
  const notes = exponent === undefined ? [] : [exponentNote(exponent, phase.id)];
  if (exponent?.verdict === 'impossible') return spoilt('impossible', notes[0]);
  const found = atReference(read, criterion, steps, decimal(meter.readability).scale + 1);
  if (found === undefined) return spoilt('unclear', finding('duct-unclear', base, phase.id));

  const { judged } = found;
  const limit = decimal(criterion.limit);
  const over = (by: Decimal): boolean => compareQuantities(judged, found.unit, by, criterion.unit) > 0;
  const withRig = add(limit, decimal(criterion.baseline));
  const outcome = !over(limit) ? 'within' : !over(withRig) && compare(withRig, limit) > 0 ? 'within-rig' : 'over';
  const data = { ...base, ...found.said, judged: toText(judged), judgedUnit: unitLabel(found.unit) };
  const working = [...found.working, `Limit ${criterion.limit} ${unit}, with the rig’s ${criterion.baseline}: ${toText(withRig)} ${unit}`];
  return { outcome, spoilt: false, findings: notes, working, data };
}

/** The exponent between the points that lie furthest apart; they may lie too close to tell. */
function exponentOf(read: readonly Read[], [pressureStep, flowStep]: readonly [number, number]): Exponent | undefined {
  const sorted = [...read].sort((a, b) => a.pa - b.pa);
  const [lowest, highest] = [sorted[0], sorted.at(-1)];
  if (lowest === undefined || highest === undefined || lowest === highest) return undefined;
  const implied = impliedExponent(highest, lowest, pressureStep, flowStep);
  return implied.ok ? implied.value : undefined;
}

function exponentNote({ n, low, high, verdict }: Exponent, phase: string): Finding {
  const data = { n: n.toFixed(2), low: low.toFixed(2), high: high.toFixed(2), usual: normalExponents.join(' to ') };
  const code = verdict === 'normal' ? 'exponent-normal' : verdict === 'suspicious' ? 'exponent-suspicious' : 'exponent-impossible';
  return finding(code, data, phase);
}

function atReference(
  read: readonly Read[],
  { reference, unit }: FlowAtMost,
  [pressureStep, flowStep]: readonly [number, number],
  scale: number,
): AtReference | undefined {
  const referencePa = Number(reference);
  const label = unitLabel(unit);
  const shown = (flow: number): Decimal | undefined => fromNumber(fromSi(flow, unit), scale);
  if (read.length >= 3) {
    const fit = fitDuct(read, referencePa, pressureStep, flowStep);
    if (!fit.ok) return undefined;
    const [middle, low, high] = [shown(fit.value.flowM3s), shown(fit.value.low), shown(fit.value.high)];
    if (middle === undefined || low === undefined || high === undefined) return undefined;
    const c = fromSi(fit.value.c, unit);
    return {
      judged: high,
      unit,
      said: { flow: toText(middle), interval: ` (95 % between ${toText(low)} and ${toText(high)}; the worse end counts)` },
      working: [
        `Q = ${c.toPrecision(4)} × Δp^${fit.value.n.toFixed(3)}, r² ${fit.value.r2.toFixed(4)}, from ${read.length} points`,
        `At ${reference} Pa: ${toText(middle)} ${label}, 95 % between ${toText(low)} and ${toText(high)}`,
      ],
    };
  }
  const nearest = nearestPoint(read, referencePa);
  const [pressure, flow] = [nearest?.point.values.get('pressure'), nearest?.point.values.get('flow')];
  if (nearest === undefined || pressure === undefined || flow === undefined) return undefined;
  if (compareQuantities(pressure.value, pressure.unit, decimal(reference), 'Pa') === 0)
    return {
      judged: flow.value,
      unit: flow.unit,
      said: { flow: toText(flow.value), interval: '' },
      working: [`Read at ${reference} Pa: ${toText(flow.value)} ${unitLabel(flow.unit)}`],
    };
  const at = flowAt(nearest, referencePa);
  const value = at.ok ? shown(at.value) : undefined;
  if (value === undefined) return undefined;
  return {
    judged: value,
    unit,
    said: { flow: toText(value), interval: ` (from ${toText(flow.value)} at ${toText(pressure.value)} ${unitLabel(pressure.unit)})` },
    working: [
      `${toText(flow.value)} ${unitLabel(flow.unit)} × (${reference} Pa / ${toText(pressure.value)} ${unitLabel(pressure.unit)})^${usualExponent} = ${toText(value)} ${label}`,
    ],
  };
}
