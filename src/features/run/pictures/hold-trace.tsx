import { area, line } from 'd3-shape';
import type { HoldPhase } from '@/core/course';
import { limitLines } from '@/core/course';
import type { Estimate, Point } from '@/core/judging';
import { drawn } from '@/core/judging';
import type { Unit } from '@/core/quantities';
import { wordsOfLines } from './hold-limits';

/** One hold over its block: the corridor it starts in, the lines it must not reach, its trace, and what is forecast. */
export function HoldTrace({
  phase,
  x,
  width,
  y,
  unit,
  start,
  points,
  estimate,
  nowSeconds,
  bottom,
}: {
  readonly phase: HoldPhase;
  readonly x: number;
  readonly width: number;
  /** Of a figure in the hold's unit. */
  readonly y: (value: number) => number;
  readonly unit: Unit;
  /** Start reading, in the hold's unit. */
  readonly start: number | undefined;
  readonly points: readonly Point[];
  readonly estimate: Estimate | undefined;
  readonly nowSeconds: number | undefined;
  readonly bottom: number;
}) {
  const last = points.at(-1)?.seconds ?? 0;
  const span = Math.max(phase.seconds, last, nowSeconds ?? 0) * 1.02;
  const at = (seconds: number) => x + 2 + (seconds / span) * (width - 6);
  const path = line<Point>(
    (point) => at(point.seconds),
    (point) => y(point.value),
  );
  const fan =
    start !== undefined && estimate !== undefined && phase.limit.kind !== 'wait'
      ? area<number>(
          (second) => at(second),
          (second) => y(start - estimate.low * second),
          (second) => y(start - estimate.high * second),
        )([nowSeconds ?? 0, phase.seconds])
      : undefined;
  const limits = limitLines(phase, start, unit);
  // What stands fed is wherever its regulator puts it; a level is wherever it was filled to.
  const corridor = phase.fed !== true && unit !== 'mm' && unit !== 'turn';
  return (
    <g>
      {corridor && (
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
      )}
      {fan && <path d={fan} fill="var(--caution)" opacity="0.25" />}
      {limits.map(({ at: value, label, decides }) => (
        <line
          key={label}
          x1={at(0)}
          x2={at(span)}
          y1={y(value)}
          y2={y(value)}
          stroke={decides ? 'var(--stop)' : 'var(--quiet)'}
          strokeWidth={decides ? 1.5 : 1}
          strokeDasharray={decides ? '5 3' : '1.5 4'}
        />
      ))}
      <path
        d={path(drawn(points, Math.max(20, Math.round(width / 2)))) ?? ''}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
        strokeLinejoin="round"
      />
      {/* Over the trace: a limit is read where the trace comes near it. */}
      {width > 120 &&
        wordsOfLines(limits, y, bottom - 4).map(({ label, decides, words }) => (
          <text
            key={label}
            x={at(span) - 2}
            y={words}
            textAnchor="end"
            className={`figures halo text-[11px] ${decides ? 'fill-stop' : 'fill-quiet'}`}
          >
            {label}
          </text>
        ))}
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
