import { max, ticks } from 'd3-array';
import { area, line } from 'd3-shape';
import { useId } from 'react';
import { expectedCourse } from '@/core/judging/course';
import type { Estimate, Point } from '@/core/judging/estimate';
import type { Judgement } from '@/core/judging/judge';
import type { Traced } from '@/core/judging/trace';
import { inPlanUnit } from '@/core/planning/gauge-scale';
import type { Plan } from '@/core/planning/plan';
import { type HoldPhase, type Phase, thresholdOf } from '@/core/procedures/phases';
import { unitLabel } from '@/core/quantities';

/** While a hold is watched the axis closes in on it, so that a movement at the threshold can be seen. */
function closeUp(plan: Plan, judgement: Judgement): readonly [number, number] | undefined {
  const phase = plan.phases.find(({ id }) => id === judgement.current);
  const start = startOf(plan, judgement, judgement.current);
  const perceptible = phase?.kind === 'hold' ? thresholdOf(phase.criterion) : undefined;
  if (phase?.kind !== 'hold' || perceptible === undefined || start === undefined) return undefined;
  const threshold = Number(perceptible);
  const limit = phase.criterion.kind === 'no-fall' ? Number(phase.criterion.permitted ?? threshold) : threshold;
  return [start - Math.max(limit, threshold) * 1.6, start + threshold * 2.4];
}

/** A phase's start reading in the plan's unit, in which everything here is drawn. */
function startOf(plan: Plan, judgement: Judgement, id: string | undefined): number | undefined {
  const start = judgement.phases.find((state) => state.id === id)?.start;
  const phase = plan.phases.find((one) => one.id === id);
  return start === undefined ? undefined : inPlanUnit(plan, Number(start), phase?.kind === 'hold' ? phase : {});
}

interface Block {
  readonly phase: Phase;
  readonly x: number;
  readonly width: number;
}

/** Widths in proportion to time, but never too small to touch; the open phase takes the larger part. */
function layOut(phases: readonly Phase[], current: string | undefined, width: number, share: number): readonly Block[] {
  const weight = (phase: Phase) => (phase.kind === 'hold' ? Math.max(30, phase.seconds) : 24);
  const others = phases.filter(({ id }) => id !== current);
  const hasCurrent = others.length < phases.length;
  const rest = hasCurrent && others.length > 0 ? width * (1 - share) : width;
  const total = others.reduce((sum, phase) => sum + weight(phase), 0);
  let x = 0;
  return phases.map((phase) => {
    const own = phase.id === current ? (others.length === 0 ? width : width * share) : (rest * weight(phase)) / total;
    const block = { phase, x, width: own };
    x += own;
    return block;
  });
}

/**
 * The course: phases left to right as blocks, the trace above on the same axis with each phase's corridor, the floor
 * that the gauge must not reach, the forecast fan, and a plumb line at now.
 */
export function CoursePicture({
  plan,
  judgement,
  traced,
  estimate,
  nowSeconds,
  width,
  height,
  narrow,
}: {
  readonly plan: Plan;
  readonly judgement: Judgement;
  readonly traced: readonly Traced[];
  readonly estimate?: Estimate;
  /** Seconds into the open hold, if one runs. */
  readonly nowSeconds?: number;
  readonly width: number;
  readonly height: number;
  readonly narrow: boolean;
}) {
  const phases = expectedCourse(plan, judgement);
  const left = 34;
  const foot = 46;
  const blocks = layOut(
    phases,
    judgement.current,
    width - left - 6,
    plan.phases.find(({ id }) => id === judgement.current)?.kind === 'hold' ? (narrow ? 0.62 : 0.5) : narrow ? 0.4 : 0.22,
  ).map((block) => ({ ...block, x: block.x + left }));
  const tallest =
    max(
      traced.flatMap(({ points }) => points),
      ({ value }) => value,
    ) ?? 0;
  const near = nowSeconds === undefined ? undefined : closeUp(plan, judgement);
  const [lowest, highest] = near ?? [0, Math.max(Number(plan.highest), tallest) * 1.12];
  const y = (value: number) => height - foot - ((value - lowest) / (highest - lowest)) * (height - foot - 8);
  const clip = useId();
  return (
    <svg width={width} height={height} role="img" aria-label={courseInWords(plan, judgement)} className="block select-none">
      {ticks(lowest, highest, 5).map((tick) => (
        <g key={tick}>
          <line x1={left} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--line)" strokeWidth={tick === 0 ? 1.5 : 0.5} />
          <text x={left - 6} y={y(tick) + 4} textAnchor="end" className="figures fill-quiet text-[11px]">
            {tick}
          </text>
        </g>
      ))}
      <text x={left - 6} y={height - foot + 18} textAnchor="end" className="fill-quiet text-[10px]">
        {unitLabel(plan.unit)}
      </text>
      {blocks.map(({ phase, x, width: own }) => (
        <BlockShape
          key={phase.id}
          phase={phase}
          x={x}
          width={own}
          height={height}
          foot={foot}
          state={judgement.phases.find(({ id }) => id === phase.id)?.state ?? 'waiting'}
        />
      ))}
      <clipPath id={clip}>
        <rect x={left} y={0} width={width} height={height - foot} />
      </clipPath>
      {near !== undefined && (
        <text x={left + 6} y={height - foot - 8} className="fill-quiet text-[11px]">
          close-up of the open hold
        </text>
      )}
      <g clipPath={`url(#${clip})`}>
        {blocks.map(({ phase, x, width: own }) =>
          phase.kind === 'hold' ? (
            <HoldTrace
              key={phase.id}
              phase={phase}
              x={x}
              width={own}
              y={y}
              start={startOf(plan, judgement, phase.id)}
              points={traced.find((one) => one.phase === phase.id)?.points ?? []}
              estimate={phase.id === judgement.current ? estimate : undefined}
              nowSeconds={phase.id === judgement.current ? nowSeconds : undefined}
              bottom={height - foot}
            />
          ) : null,
        )}
      </g>
    </svg>
  );
}

function BlockShape({
  phase,
  x,
  width,
  height,
  foot,
  state,
}: {
  readonly phase: Phase;
  readonly x: number;
  readonly width: number;
  readonly height: number;
  readonly foot: number;
  readonly state: string;
}) {
  const top = height - foot + 4;
  const fill = state === 'done' ? 'var(--quiet)' : state === 'current' ? 'var(--action)' : 'var(--sunken)';
  const room = Math.floor(width / 7.2);
  const label = phase.title.length <= room ? phase.title : room >= 4 ? `${phase.title.slice(0, room - 1)}…` : '';
  return (
    <g>
      <title>{`${phase.title}: ${state}`}</title>
      <path d={`M${x + 1} ${top}h${Math.max(2, width - 9)}q6 0 6 6v10h${-Math.max(2, width - 3)}z`} fill={fill} stroke="var(--line)" />
      {state === 'done' && width > 12 && (
        <path d={`M${x + width / 2 - 4} ${top + 8}l3 3l5 -6`} stroke="var(--surface)" strokeWidth="2" fill="none" />
      )}
      <text x={x + 2} y={top + 32} className={`text-[11px] ${state === 'current' ? 'fill-ink font-semibold' : 'fill-quiet'}`}>
        {label}
      </text>
    </g>
  );
}

function HoldTrace({
  phase,
  x,
  width,
  y,
  start,
  points,
  estimate,
  nowSeconds,
  bottom,
}: {
  readonly phase: HoldPhase;
  readonly x: number;
  readonly width: number;
  readonly y: (value: number) => number;
  /** Start reading, in the plan's unit. */
  readonly start?: number;
  readonly points: readonly Point[];
  readonly estimate?: Estimate;
  readonly nowSeconds?: number;
  readonly bottom: number;
}) {
  const last = points.at(-1)?.seconds ?? 0;
  const span = Math.max(phase.seconds, last, nowSeconds ?? 0) * 1.02;
  const at = (seconds: number) => x + 2 + (seconds / span) * (width - 6);
  const floor =
    start !== undefined && phase.criterion.kind === 'no-fall'
      ? start - Number(phase.criterion.permitted ?? phase.criterion.threshold)
      : undefined;
  const perceptible =
    start !== undefined && phase.criterion.kind === 'no-fall' && phase.criterion.permitted !== undefined
      ? start - Number(phase.criterion.threshold)
      : undefined;
  const ceiling = start !== undefined && phase.criterion.kind === 'no-rise' ? start + Number(phase.criterion.threshold) : undefined;
  const path = line<Point>(
    (point) => at(point.seconds),
    (point) => y(point.value),
  );
  const fan =
    start !== undefined && estimate !== undefined && phase.criterion.kind !== 'wait'
      ? area<number>(
          (second) => at(second),
          (second) => y(start - estimate.low * second),
          (second) => y(start - estimate.high * second),
        )([nowSeconds ?? 0, phase.seconds])
      : undefined;
  return (
    <g>
      <rect
        x={at(0)}
        width={Math.max(2, at(span) - at(0))}
        y={y(Number(phase.band.high))}
        height={Math.max(3, y(Number(phase.band.low)) - y(Number(phase.band.high)))}
        fill="var(--action)"
        opacity="0.16"
      >
        <title>{`Start between ${phase.band.low} and ${phase.band.high}`}</title>
      </rect>
      {fan && <path d={fan} fill="var(--caution)" opacity="0.25" />}
      {perceptible !== undefined && width > 120 && (
        <g>
          <line x1={at(0)} x2={at(span)} y1={y(perceptible)} y2={y(perceptible)} stroke="var(--quiet)" strokeDasharray="1.5 4" />
          <text x={at(span) - 2} y={y(perceptible) - 4} textAnchor="end" className="figures fill-quiet text-[11px]">
            perceptible {perceptible.toFixed(2)}
          </text>
        </g>
      )}
      {[floor, ceiling].map((limit) =>
        limit === undefined ? null : (
          <g key={limit}>
            <line x1={at(0)} x2={at(span)} y1={y(limit)} y2={y(limit)} stroke="var(--stop)" strokeWidth="1.5" strokeDasharray="5 3" />
            {width > 120 && (
              <text x={at(span) - 2} y={y(limit) + (limit === floor ? 12 : -4)} textAnchor="end" className="figures fill-stop text-[11px]">
                {limit === floor ? 'floor' : 'limit'} {limit.toFixed(2)}
              </text>
            )}
          </g>
        ),
      )}
      <path
        d={path(points.filter(({ seconds }) => seconds >= 0)) ?? ''}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
        strokeLinejoin="round"
      />
      {points.length > 0 &&
        points.length < 8 &&
        points.map((point) => <circle key={point.seconds} cx={at(point.seconds)} cy={y(point.value)} r="3.5" fill="var(--ink)" />)}
      {nowSeconds !== undefined && (
        <g>
          <line x1={at(nowSeconds)} x2={at(nowSeconds)} y1={8} y2={bottom} stroke="var(--ink)" strokeWidth="1" />
          <path d={`M${at(nowSeconds) - 4} ${bottom - 9}h8l-4 9z`} fill="var(--ink)" />
        </g>
      )}
    </g>
  );
}

function courseInWords(plan: Plan, judgement: Judgement): string {
  const phase = plan.phases.find(({ id }) => id === judgement.current);
  const state = judgement.phases.find(({ id }) => id === judgement.current);
  return `The course of the test. ${phase === undefined ? 'All phases are done.' : `Open now: ${phase.title}${state?.start === undefined ? '' : `, started at ${state.start} ${plan.gauge.unit}`}.`}`;
}
