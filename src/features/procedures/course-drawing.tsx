'use client';

import { scaleLog } from 'd3-scale';
import { line } from 'd3-shape';
import type { CourseStep, CourseView } from '@/core/library';
import { useSize } from '@/ui/use-size';
import { type LaidStep, layCourse, type PathPoint, pressureScale, pressureWay } from './course-layout';

const left = 52;
const foot = 58;
const head = 26;
/** With holds, and without any. */
const heights = { holds: 300, none: 104 } as const;

/**
 * The course of a sound test, drawn from its data: steps left to right, holds in proportion to their time, the corridor that
 * each starts in, the floor or ceiling that it must not cross, and the pressure on its way.
 */
export function CourseDrawing({ course, title }: { readonly course: CourseView; readonly title: string }) {
  const [box, { width }] = useSize();
  const laid = layCourse(course.steps, Math.max(280, width - left - 8));
  const last = laid.at(-1);
  const full = left + (last === undefined ? 0 : last.x + last.width) + 4;
  const drawn = course.steps.some((step) => step.kind === 'hold' || step.flow !== undefined);
  const tall = drawn ? heights.holds : heights.none;
  const bottom = tall - foot;
  const y = pressureScale(course, head, bottom);
  const read = course.steps.some((step) => step.kind === 'hold' && step.band !== undefined);
  const way = pressureWay(laid);
  const path = line<PathPoint>(
    (point) => left + point.x,
    (point) => y(point.pressure),
  );
  return (
    <figure className="m-0">
      <div ref={box} className="w-full overflow-x-auto" style={{ minHeight: tall }}>
        <svg
          width={Math.max(full, width)}
          height={tall}
          role="img"
          aria-label={`${title}: the course of a sound test. ${inWords(course)}`}
          className="block select-none"
        >
          {read && (
            <>
              {y.ticks(5).map((tick) => (
                <g key={tick}>
                  <line x1={left} x2={full} y1={y(tick)} y2={y(tick)} stroke="var(--line)" strokeWidth={tick === 0 ? 1.4 : 0.5} />
                  <text x={left - 8} y={y(tick) + 4} textAnchor="end" className="figures fill-quiet text-[12px]">
                    {tick}
                  </text>
                </g>
              ))}
              <text x={left - 8} y={head - 12} textAnchor="end" className="fill-quiet text-[12px]">
                {course.unit}
              </text>
            </>
          )}
          {laid.map((one) => (
            <Step key={one.step.id} laid={one} y={y} bottom={bottom} through={way.through.get(one.step.id)} />
          ))}
          {read && <path d={path(way.points) ?? ''} fill="none" stroke="var(--ink)" strokeWidth={2} strokeLinejoin="round" />}
        </svg>
      </div>
      <figcaption className="mt-1 flex flex-wrap gap-x-5 gap-y-1 text-sm text-quiet">
        {course.steps.some((step) => step.kind !== 'hold' && step.flow !== undefined) && <Key mark={dashes}>permitted</Key>}
        {read && (
          <>
            <Key mark={<rect x="1" y="3" width="18" height="8" fill="var(--action)" opacity="0.22" />}>starts in here</Key>
            <Key mark={dashes}>must not cross</Key>
            <Key mark={<line x1="1" x2="19" y1="7" y2="7" stroke="var(--ink)" strokeWidth="2" />}>pressure on its way</Key>
          </>
        )}
        <span>Numbers are those of the steps below; steps that only a fault brings about are not drawn.</span>
      </figcaption>
    </figure>
  );
}

function Key({ mark, children }: { readonly mark: React.ReactNode; readonly children: React.ReactNode }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width="20" height="14" aria-hidden="true">
        {mark}
      </svg>
      {children}
    </span>
  );
}

const dashes = <line x1="1" x2="19" y1="7" y2="7" stroke="var(--stop)" strokeWidth="2" strokeDasharray="5 3" />;

const fills: Readonly<Record<CourseStep['kind'], string>> = {
  hold: 'var(--action)',
  list: 'var(--sunken)',
  look: 'var(--sunken)',
  zero: 'var(--sunken)',
  figures: 'var(--quiet)',
};

function Step({
  laid: { step, x, width, broken },
  y,
  bottom,
  through,
}: {
  readonly laid: LaidStep;
  readonly y: (pressure: number) => number;
  readonly bottom: number;
  readonly through: number | undefined;
}) {
  const from = left + x + 1;
  const top = bottom + 6;
  const inside = width - 3;
  const dark = step.kind === 'hold' && !step.waits;
  return (
    <g>
      <title>{`${step.number}. ${step.title}${step.kind === 'hold' ? `, ${step.time}: ${step.rule}` : ''}`}</title>
      {step.kind === 'hold' && <Hold step={step} from={from} width={inside} y={y} bottom={bottom} through={through} />}
      <path
        d={`M${from} ${top}h${Math.max(2, inside - 6)}q6 0 6 6v14h${-inside}z`}
        fill={fills[step.kind]}
        opacity={step.kind === 'hold' && step.waits ? 0.45 : 1}
        stroke="var(--line)"
      />
      <text
        x={from + inside / 2}
        y={top + 15}
        textAnchor="middle"
        className={`figures text-[12px] font-semibold ${dark ? 'fill-on-action' : step.kind === 'figures' ? 'fill-surface' : 'fill-ink'}`}
      >
        {step.number}
      </text>
      {step.kind !== 'hold' && step.flow !== undefined && <Flow flow={step.flow} from={from} width={inside} bottom={bottom} />}
      {step.kind !== 'hold' && width > 90 && step.flow === undefined && (
        <text x={from} y={bottom - 6} className="fill-ink text-[13px]">
          {step.title}
        </text>
      )}
      {broken && (
        <path
          d={`M${from + inside - 16} ${top - 3}l-5 26M${from + inside - 10} ${top - 3}l-5 26`}
          stroke="var(--surface)"
          strokeWidth={2.5}
        />
      )}
      {step.kind === 'hold' && (
        <text x={from} y={top + 36} className="figures fill-ink text-[12px]">
          {step.time}
        </text>
      )}
      {step.kind !== 'hold' && step.closing && (
        <path d={`M${from + inside / 2 - 5} ${top + 27}h10v9h-10zm2 0v-3q3 -4 6 0v3`} fill="none" stroke="var(--quiet)" strokeWidth={1.4} />
      )}
    </g>
  );
}

/** A line that is to be seen beside the pressure however small the step is, px. */
const apart = 5;

function Hold({
  step,
  from,
  width,
  y,
  bottom,
  through,
}: {
  readonly step: Extract<CourseStep, { kind: 'hold' }>;
  readonly from: number;
  readonly width: number;
  readonly y: (pressure: number) => number;
  readonly bottom: number;
  /** Pressure through it. */
  readonly through: number | undefined;
}) {
  const { band, ceiling, fall, rise, reads } = step;
  const room = Math.floor(width / 6.6);
  const title = step.title.length <= room ? step.title : `${step.title.slice(0, Math.max(1, room - 1))}…`;
  const at = through === undefined ? undefined : y(through);
  const limits = [
    ...(at === undefined || through === undefined || fall === undefined ? [] : [Math.max(at + apart, y(Math.max(0, through - fall)))]),
    ...(at === undefined || through === undefined || rise === undefined ? [] : [Math.min(at - apart, y(through + rise))]),
    ...(ceiling === undefined ? [] : [y(ceiling)]),
  ];
  const highest = Math.min(reads === undefined ? bottom : bottom - levelHeight - 8, ...(band === undefined ? [] : [y(band[1])]), ...limits);
  return (
    <g>
      <rect x={from} width={width} y={head - 8} height={bottom - head + 8} fill="var(--ink)" opacity={step.decides ? 0.05 : 0.025} />
      {reads !== undefined && <Other reads={reads} from={from} width={width} bottom={bottom} />}
      {band !== undefined && (
        <rect
          x={from}
          width={width}
          y={y(band[1])}
          height={Math.max(3, y(band[0]) - y(band[1]))}
          fill="var(--action)"
          opacity={step.waits ? 0.14 : 0.24}
        />
      )}
      {limits.map((limit) => (
        <line key={limit} x1={from} x2={from + width} y1={limit} y2={limit} stroke="var(--stop)" strokeWidth={1.6} strokeDasharray="5 3" />
      ))}
      {width > 50 && (
        <text
          x={from + 8}
          y={Math.max(head - 10, highest - 8)}
          className={`text-[12px] ${step.waits ? 'fill-quiet' : 'fill-ink font-semibold'}`}
        >
          {title}
        </text>
      )}
    </g>
  );
}

/** What leaks grows with the pressure as its power of 0.6 (DOMAIN 3.6), where one point stands for the others. */
const exponent = 0.6;

/** Flow against pressure on logarithmic axes: what is permitted, and where it is read. */
function Flow({
  flow: { limit, unit, reference, at },
  from,
  width,
  bottom,
}: {
  readonly flow: NonNullable<Extract<CourseStep, { kind: 'figures' | 'list' | 'look' | 'zero' }>['flow']>;
  readonly from: number;
  readonly width: number;
  readonly bottom: number;
}) {
  const pressures = [...at, reference].sort((a, b) => a - b);
  const ends = [pressures[0] / 1.6, pressures[pressures.length - 1] * 1.6] as const;
  const permitted = (pa: number) => limit * (pa / reference) ** exponent;
  const x = scaleLog()
    .domain(ends)
    .range([from + 8, from + width - 8]);
  const label = `at most ${limit} ${unit} at ${reference} Pa`;
  // On the side where it has room.
  const beside = x(reference) + 12 + label.length * 7.5 < from + width;
  const y = scaleLog()
    .domain([permitted(ends[0]) / 2, permitted(ends[1]) * 1.5])
    .range([bottom - 24, head + 8]);
  return (
    <g>
      <rect x={from} width={width} y={head - 8} height={bottom - head + 8} fill="var(--ink)" opacity={0.04} />
      {at.map((pa) => (
        <g key={pa}>
          <line x1={x(pa)} x2={x(pa)} y1={head + 8} y2={bottom - 20} stroke="var(--quiet)" strokeWidth={0.8} />
          <text x={x(pa)} y={bottom - 6} textAnchor="middle" className="figures fill-quiet text-[12px]">
            {Number(pa.toPrecision(3))} Pa
          </text>
        </g>
      ))}
      <path
        d={`M${x(ends[0])} ${y(permitted(ends[0]))}L${x(ends[1])} ${y(permitted(ends[1]))}`}
        stroke="var(--stop)"
        strokeWidth={1.6}
        strokeDasharray="5 3"
        fill="none"
      />
      <rect x={x(reference) - 5} y={y(limit) - 5} width={10} height={10} fill="var(--surface)" stroke="var(--stop)" strokeWidth={2} />
      <text
        x={beside ? x(reference) + 12 : x(reference) - 12}
        y={y(limit) + (beside ? 18 : -12)}
        textAnchor={beside ? 'start' : 'end'}
        className="figures fill-ink text-[12px] font-semibold"
      >
        {label}
      </text>
      <text x={from + 8} y={head + 6} className="fill-quiet text-[12px]">
        flow against pressure, both logarithmic
      </text>
    </g>
  );
}

const levelHeight = 96;

/** What is read instead of a pressure: standing water with the mark that it must not fall below, or a dial. */
function Other({
  reads,
  from,
  width,
  bottom,
}: {
  readonly reads: string;
  readonly from: number;
  readonly width: number;
  readonly bottom: number;
}) {
  const top = bottom - levelHeight;
  if (reads === 'level')
    return (
      <g>
        <rect x={from} width={width} y={top} height={levelHeight} fill="var(--quiet)" opacity={0.16} />
        <line x1={from} x2={from + width} y1={top} y2={top} stroke="var(--ink)" strokeWidth={2} />
        <line x1={from} x2={from + width} y1={top + apart} y2={top + apart} stroke="var(--stop)" strokeWidth={1.6} strokeDasharray="5 3" />
        <text x={from + 8} y={top + 24} className="fill-quiet text-[12px]">
          standing water
        </text>
      </g>
    );
  return (
    <g>
      <circle cx={from + 34} cy={bottom - 48} r={24} fill="none" stroke="var(--quiet)" strokeWidth={1.5} />
      <path d={`M${from + 34} ${bottom - 48}v-18`} stroke="var(--ink)" strokeWidth={2} />
      <text x={from + 8} y={bottom - 8} className="fill-quiet text-[12px]">
        {reads}
      </text>
    </g>
  );
}

const inWords = ({ steps, unit }: CourseView): string =>
  steps
    .map((step) =>
      step.kind === 'hold'
        ? `${step.number}, ${step.title}, ${step.time}${step.band === undefined ? '' : ` from ${step.band[0]} to ${step.band[1]} ${unit}`}`
        : `${step.number}, ${step.title}`,
    )
    .join('; ');
