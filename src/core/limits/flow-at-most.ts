import { decimalText, oneOf } from '../exact/shape';
import {
  type DuctPoint,
  type Exponent,
  fitDuct,
  flowAt,
  impliedExponent,
  nearestPoint,
  normalExponents,
  possibleExponents,
  usualExponent,
} from '../physics/duct-flow';
import {
  add,
  compare,
  compareQuantities,
  type Decimal,
  decimal,
  type FlowUnit,
  fromNumber,
  fromSi,
  toNumber,
  toSi,
  toText,
  type Unit,
  unitLabel,
  unitsOf,
} from '../quantities';
import type { Measured, PointValue } from './facts';
import { measureRoom, type Verdict } from './room';
import { type Finding, finder, reason } from './say';

type N = 'n' | 'low' | 'high' | 'usual';
type Leaks = 'title' | 'reference' | 'flow' | 'judgedUnit' | 'interval' | 'limit' | 'unit' | 'baseline' | 'withRig' | 'how';
const says = {
  'duct-read': reason<Leaks>(
    'note',
    (d) => `${d.title}: ${d.flow} ${d.judgedUnit} at ${d.reference} Pa${d.interval}.`,
    (d) => [d.how, `Limit ${d.limit} ${d.unit}, with the rig’s ${d.baseline}: ${d.withRig} ${d.unit}`],
  ),
  'duct-unclear': reason<'title'>('inconclusive', (d) => `${d.title}: no leakage can be worked out from these points.`),
  'points-together': reason<'title'>(
    'inconclusive',
    (d) => `${d.title}: the pressures lie too close together to prove the set-up. Read them again, one at about half of the other.`,
  ),
  'flow-below-range': reason<'point' | 'least' | 'unit'>(
    'inconclusive',
    (d) =>
      `${d.point}: no flow was shown. That is below the ring’s ${d.least} ${d.unit} and not zero: fit a smaller ring, or raise the pressure and let the result be brought back to the reference.`,
  ),
  'exponent-normal': reason<N>(
    'note',
    (d) => `Flow grows with pressure as in a duct: n = ${d.n} (${d.low} to ${d.high}; usual ${d.usual}).`,
  ),
  'exponent-suspicious': reason<N>(
    'note',
    (d) => `n = ${d.n} (${d.low} to ${d.high}) is unusual; usual is ${d.usual}. Check hoses, ring and taped registers.`,
  ),
  'exponent-impossible': reason<N>(
    'invalid',
    (d) =>
      `n = ${d.n} (${d.low} to ${d.high}) is physically impossible: flow through leaks grows with the 0.5th to 1st power of pressure. The set-up is wrong: check the hoses, the ring and the taped registers.`,
  ),
} as const;
const find = finder(says);

interface FlowAtMost {
  readonly limit: string;
  readonly unit: FlowUnit;
  readonly reference: string;
  readonly baseline: string;
}

interface Read extends DuctPoint {
  readonly point: Measured;
  readonly pressure: PointValue;
  readonly flow: PointValue;
}

/** What the points say of the flow at the reference pressure. */
interface AtReference {
  /** What is compared with the limit: the reading itself where it was taken at the reference, else the worse end. */
  readonly judged: Decimal;
  readonly unit: Exclude<Unit, 'C' | 'F' | 'K'>;
  readonly said: Readonly<Record<'flow' | 'interval' | 'how', string>>;
}

/**
 * Duct leakage at the reference pressure, Pa, against a limit (DOMAIN 3.6, 5.16). At the limit passes; over it by no more than
 * the rig's own leakage is not told; more fails. With three points and more a curve is fitted, and the worse end of its
 * interval is compared (4.18).
 */
export const flowAtMost = measureRoom(
  'flow-at-most',
  { limit: decimalText, unit: oneOf(...(unitsOf('flow') as readonly FlowUnit[])), reference: decimalText, baseline: decimalText },
  {
    decides: true,
    says,
    sum: (data) => says['duct-read'].working?.(data as never) ?? [],
    hoped: () => 'within',
    outcomes: () => ['within', 'within-rig', 'over', 'below-range', 'impossible', 'unclear'],
    judge: (criterion, { title, points }) => {
      const spoilt = (outcome: string, found: Finding): Verdict => ({ outcome, effect: 'spoils', data: { title }, findings: [found] });
      const under = points.find(({ values }) => values.get('flow')?.belowRange === true);
      const meter = under?.values.get('flow');
      if (under !== undefined && meter !== undefined)
        return spoilt('below-range', find('flow-below-range', { point: under.label, least: meter.least, unit: unitLabel(meter.unit) }));
      const read: Read[] = points.flatMap((point) => {
        const [pressure, flow] = [point.values.get('pressure'), point.values.get('flow')];
        if (pressure === undefined || flow === undefined) return [];
        return [
          { point, pressure, flow, pa: toSi(toNumber(pressure.value), pressure.unit), flowM3s: toSi(toNumber(flow.value), flow.unit) },
        ];
      });
      const [first] = read;
      if (first === undefined) return spoilt('unclear', find('duct-unclear', { title }));
      const steps = [toSi(Number(first.pressure.step), first.pressure.unit), toSi(Number(first.flow.step), first.flow.unit)] as const;
      const exponent = exponentOf(read, steps);
      // Points that lie together prove no set-up: without that check the flow means nothing.
      if (exponent === undefined && read.length > 1) return spoilt('unclear', find('points-together', { title }));
      const notes = exponent === undefined ? [] : [exponentNote(exponent)];
      if (exponent?.verdict === 'impossible') return spoilt('impossible', notes[0]);
      const found = atReference(read, criterion, steps, decimal(first.flow.step).scale + 1, exponent?.n);
      if (found === undefined) return spoilt('unclear', find('duct-unclear', { title }));
      const { judged } = found;
      const limit = decimal(criterion.limit);
      const over = (by: Decimal): boolean => compareQuantities(judged, found.unit, by, criterion.unit) > 0;
      const withRig = add(limit, decimal(criterion.baseline));
      const outcome = !over(limit) ? 'within' : !over(withRig) && compare(withRig, limit) > 0 ? 'within-rig' : 'over';
      const data = {
        title,
        limit: criterion.limit,
        unit: unitLabel(criterion.unit),
        reference: criterion.reference,
        baseline: criterion.baseline,
        withRig: toText(withRig),
        ...found.said,
        judged: toText(judged),
        judgedUnit: unitLabel(found.unit),
      };
      return {
        outcome,
        effect: outcome === 'within' ? 'proves' : outcome === 'over' ? 'fails' : 'leads on',
        data,
        findings: [...notes, find('duct-read', data)],
      };
    },
    sight: ({ limit, unit, reference }, { step, gaugeStep }) => {
      const most = toSi(Number(limit), unit);
      return {
        terms: [
          { what: 'limit', si: most },
          { what: 'step', si: step },
          // A flow goes at most with the pressure itself.
          { what: 'pressures', si: (most * gaugeStep) / Number(reference) },
        ],
        alone: most,
        sure: most + step + (most * gaugeStep) / Number(reference),
        assumes: ['fan, ring and gauge read true to their steps', 'the seals hold'],
        outside: [
          'what each duct loses at its own working pressure',
          'a ring or a tap in the wrong place that the half-pressure check does not show',
        ],
      };
    },
    permits: ({ limit, unit }) => ({ figure: limit, unit }),
    words: ({ limit, unit, reference }) => `At most ${limit} ${unitLabel(unit)} at ${reference} Pa.`,
    reports: (d) => `${d.flow} ${d.judgedUnit} at ${d.reference} Pa${d.interval ?? ''}, at most ${d.limit} ${d.unit}`,
    figures: (d) => [
      { label: `Leakage at ${d.reference} Pa`, value: d.flow ?? '', unit: d.judgedUnit ?? '', beside: `at most ${d.limit} ${d.unit}` },
    ],
  },
);

/** The exponent between the points that lie furthest apart; they may lie too close to tell. */
function exponentOf(read: readonly Read[], [pressureStep, flowStep]: readonly [number, number]): Exponent | undefined {
  const sorted = [...read].sort((a, b) => a.pa - b.pa);
  const [lowest, highest] = [sorted[0], sorted.at(-1)];
  if (lowest === undefined || highest === undefined || lowest === highest) return undefined;
  const implied = impliedExponent(highest, lowest, pressureStep, flowStep);
  return implied.ok ? implied.value : undefined;
}

function exponentNote({ n, low, high, verdict }: Exponent): Finding {
  const data = { n: n.toFixed(2), low: low.toFixed(2), high: high.toFixed(2), usual: normalExponents.join(' to ') };
  const code = verdict === 'normal' ? 'exponent-normal' : verdict === 'suspicious' ? 'exponent-suspicious' : 'exponent-impossible';
  return find(code, data);
}

function atReference(
  read: readonly Read[],
  { reference, unit }: FlowAtMost,
  [pressureStep, flowStep]: readonly [number, number],
  scale: number,
  implied: number | undefined,
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
      said: {
        flow: toText(middle),
        interval: ` (95 % between ${toText(low)} and ${toText(high)}; the worse end counts)`,
        how: `Q = ${c.toPrecision(4)} × Δp^${fit.value.n.toFixed(3)} ${label}, r² ${fit.value.r2.toFixed(4)}, from ${read.length} points; at ${reference} Pa ${toText(middle)}`,
      },
    };
  }
  const nearest = nearestPoint(read, referencePa);
  if (nearest === undefined) return undefined;
  const { pressure, flow } = nearest;
  if (compareQuantities(pressure.value, pressure.unit, decimal(reference), 'Pa') === 0)
    return {
      judged: flow.value,
      unit: flow.unit,
      said: { flow: toText(flow.value), interval: '', how: `Read at ${reference} Pa: ${toText(flow.value)} ${unitLabel(flow.unit)}` },
    };
  // By the usual exponent or by the one that the points give, whichever is worse (DOMAIN 5.16).
  const [least, most] = possibleExponents;
  const exponents = [usualExponent, ...(implied === undefined ? [] : [Math.min(most, Math.max(least, implied))])];
  const worst = exponents.reduce(
    (worse, n) => ((referencePa / nearest.pa) ** n > (referencePa / nearest.pa) ** worse ? n : worse),
    usualExponent as number,
  );
  const at = flowAt(nearest, referencePa, worst);
  const value = at.ok ? shown(at.value) : undefined;
  if (value === undefined) return undefined;
  return {
    judged: value,
    unit,
    said: {
      flow: toText(value),
      interval: ` (from ${toText(flow.value)} at ${toText(pressure.value)} ${unitLabel(pressure.unit)})`,
      how: `${toText(flow.value)} ${unitLabel(flow.unit)} × (${reference} Pa / ${toText(pressure.value)} ${unitLabel(pressure.unit)})^${worst.toFixed(2)} = ${toText(value)} ${label}`,
    },
  };
}
