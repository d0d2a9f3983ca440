import { scaleLog } from 'd3-scale';
import { instrumentOf, type MeasurePhase } from '@/core/course';
import { pointsOf } from '@/core/judging';
import { fitDuct, flowAt, impliedExponent, usualExponent } from '@/core/physics';
import { fromSi, toSi, unitLabel } from '@/core/quantities';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

/** Room for the axis of flow, px. */
const foot = 22;

interface Read {
  readonly pa: number;
  readonly flowM3s: number;
}

/** Flow against pressure, both logarithmic: what is permitted, the rig's own band above it, the points, and the line through them. */
export function FlowPicture({ plan, phase, judgement, box }: SceneProps<MeasurePhase>) {
  const { limit: criterion } = phase;
  if (criterion.kind !== 'flow-at-most') return null;
  const gauge = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'pressure')?.instrument);
  const fan = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'flow')?.instrument);
  const read = pointsOf(stateOf(judgement, phase.id)).flatMap(({ values }): Read[] =>
    values.pressure === undefined || values.flow === undefined
      ? []
      : [{ pa: toSi(Number(values.pressure), gauge.unit), flowM3s: toSi(Number(values.flow), fan.unit) }],
  );
  const limit = toSi(Number(criterion.limit), criterion.unit);
  const rig = toSi(Number(criterion.baseline), criterion.unit);
  const reference = Number(criterion.reference);
  const aims = phase.points.flatMap(({ aim }) => (aim === undefined ? [] : [toSi(Number(aim), gauge.unit)]));
  const pressures = [...aims, reference, ...read.map(({ pa }) => pa)];
  const ends = [Math.min(...pressures) / 1.5, Math.max(...pressures) * 1.5] as const;
  const permitted = (pa: number, at = limit) => at * (pa / reference) ** usualExponent;
  const flows = [permitted(ends[0]), permitted(ends[1], limit + rig), ...read.map(({ flowM3s }) => flowM3s)];
  const x = scaleLog()
    .domain(ends)
    .range([box.x + 4, box.x + box.width - 8]);
  const y = scaleLog()
    .domain([Math.min(...flows) / 1.4, Math.max(...flows) * 1.4])
    .range([box.y + box.height - foot, box.y + 4]);
  const along = (flow: (pa: number) => number) => `M${x(ends[0])} ${y(flow(ends[0]))}L${x(ends[1])} ${y(flow(ends[1]))}`;
  const unit = unitLabel(criterion.unit);
  // Whole figures of the unit that is shown, not of the one that is drawn with.
  const figures = scaleLog()
    .domain(y.domain().map((flow) => fromSi(flow, criterion.unit)))
    .ticks(4)
    .map((tick) => ({ tick, at: y(toSi(tick, criterion.unit)) }));
  const steps = [toSi(Number(gauge.readability), gauge.unit), toSi(Number(fan.readability), fan.unit)] as const;
  const fitted = lineThrough(read, reference, steps);
  return (
    <g>
      {rig > 0 && (
        <path
          d={`${along(permitted)}L${x(ends[1])} ${y(permitted(ends[1], limit + rig))}L${x(ends[0])} ${y(permitted(ends[0], limit + rig))}z`}
          fill="var(--caution)"
          opacity="0.2"
        >
          <title>{`Over the limit by no more than the rig’s own ${criterion.baseline} ${unit}: not told`}</title>
        </path>
      )}
      {aims.map((pa) => (
        <g key={pa}>
          <line x1={x(pa)} x2={x(pa)} y1={box.y + 4} y2={box.y + box.height - foot} stroke="var(--line)" />
          <text x={x(pa)} y={box.y + box.height - 6} textAnchor="middle" className="figures fill-quiet text-[11px]">
            {Number(pa.toPrecision(3))} Pa
          </text>
        </g>
      ))}
      {apart(figures)
        .filter(({ at }) => at > box.y + 14)
        .map(({ tick, at }) => (
          <text key={tick} x={box.x - 6} y={at + 4} textAnchor="end" className="figures fill-quiet text-[11px]">
            {tick}
          </text>
        ))}
      <text x={box.x - 6} y={box.y + 6} textAnchor="end" className="fill-quiet text-[11px]">
        {unit}
      </text>
      <path d={along(permitted)} stroke="var(--stop)" strokeWidth="1.6" strokeDasharray="5 3" fill="none" />
      <text x={box.x + box.width - 8} y={box.y + box.height - foot - 6} textAnchor="end" className="figures fill-stop text-[11px]">
        at most {criterion.limit} {unit} at {criterion.reference} Pa
      </text>
      {fitted !== undefined && <path d={along(fitted.flow)} stroke="var(--ink)" strokeWidth="1.5" fill="none" />}
      {fitted?.interval !== undefined && (
        <path
          d={`M${x(reference)} ${y(fitted.interval[0])}V${y(fitted.interval[1])}M${x(reference) - 6} ${y(fitted.interval[0])}h12M${x(reference) - 6} ${y(fitted.interval[1])}h12`}
          stroke="var(--ink)"
          strokeWidth="2"
        />
      )}
      <rect x={x(reference) - 5} y={y(limit) - 5} width="10" height="10" fill="var(--surface)" stroke="var(--stop)" strokeWidth="2" />
      {read.map(({ pa, flowM3s }) => (
        <circle key={pa} cx={x(pa)} cy={y(flowM3s)} r="6" fill="var(--ink)" />
      ))}
      <text x={box.x + 10} y={box.y + 16} className="fill-ink text-[12px] font-semibold">
        {fitted?.words ?? 'flow against pressure, both logarithmic'}
      </text>
    </g>
  );
}

/** Ticks that do not stand in one another's way; a logarithmic scale gives more than it is asked for. */
function apart<T extends { readonly at: number }>(ticks: readonly T[]): readonly T[] {
  let last = Number.POSITIVE_INFINITY;
  return ticks.filter(({ at }) => {
    const keep = last - at >= 18;
    if (keep) last = at;
    return keep;
  });
}

/** The line that the points give, and what its slope says of the set-up: the half-pressure check. */
function lineThrough(
  read: readonly Read[],
  reference: number,
  [pressureStep, flowStep]: readonly [number, number],
): { readonly flow: (pa: number) => number; readonly words: string; readonly interval?: readonly [number, number] } | undefined {
  const sorted = [...read].sort((a, b) => a.pa - b.pa);
  const [low, high] = [sorted[0], sorted.at(-1)];
  if (low === undefined || high === undefined) return undefined;
  if (low === high) {
    const at = flowAt(low, reference);
    return at.ok
      ? { flow: (pa) => low.flowM3s * (pa / low.pa) ** usualExponent, words: `one point, n = ${usualExponent} assumed` }
      : undefined;
  }
  const exponent = impliedExponent(high, low, pressureStep, flowStep);
  if (!exponent.ok) return undefined;
  const { n, verdict } = exponent.value;
  const meaning = { normal: 'usual', suspicious: 'look at hoses, ring and seals', impossible: 'the set-up is wrong' }[verdict];
  const fit = read.length >= 3 ? fitDuct(read, reference, pressureStep, flowStep) : undefined;
  if (fit?.ok === true)
    return {
      flow: (pa) => fit.value.c * pa ** fit.value.n,
      words: `n = ${fit.value.n.toFixed(2)}: ${meaning}`,
      interval: [fit.value.low, fit.value.high],
    };
  return { flow: (pa) => high.flowM3s * (pa / high.pa) ** n, words: `n = ${n.toFixed(2)}: ${meaning}` };
}
