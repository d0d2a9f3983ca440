'use client';

import { extent } from 'd3-array';
import { scaleLinear, scaleLog } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useId } from 'react';
import type { Axis, Chart as ChartData } from '@/core/bench';
import { useSize } from './use-size';

const left = 58;
const foot = 44;
const head = 14;
const right = 14;

/** A scale over what is to be shown; a logarithmic one only where all of it lies above zero. */
function scaleOf({ scale, ends }: Axis, values: readonly number[], range: readonly [number, number], across = false) {
  const [low = 0, high = 1] = extent(values) as [number, number];
  if (ends !== undefined) return scaleLinear().domain(ends).range(range);
  // A little air at both ends; whole decades would leave most of the picture empty.
  if (scale === 'log' && low > 0) {
    const [from, to] = high > low ? [low / (high / low) ** 0.08, high * (high / low) ** 0.08] : [low / 2, low * 2];
    return scaleLog().domain([from, to]).range(range);
  }
  if (across && high > low) return scaleLinear().domain([low, high]).range(range);
  const pad = high > low ? (high - low) * 0.06 : Math.max(1, Math.abs(high)) * 0.5;
  return scaleLinear()
    .domain([low >= 0 && low < (high - low) * 0.5 ? 0 : low - pad, high + pad])
    .range(range)
    .nice(5);
}

const tickText = (value: number): string =>
  value === 0 ? '0' : Math.abs(value) >= 1e5 || Math.abs(value) < 1e-3 ? value.toExponential(0) : String(Number(value.toPrecision(3)));

/** Ticks of a logarithmic axis would be too many: the decades, and 2 and 5 between them where there is room. */
function ticksOf(scale: ReturnType<typeof scaleOf>, count: number): readonly number[] {
  const all = scale.ticks(count);
  if (!('base' in scale)) return all;
  const decade = (value: number) => Math.round(Math.log10(value / Number(value.toExponential(0).replace(/^[\d.]+/, '1'))) * 1000) / 1000;
  const firsts = all.filter((value) => [1, 2, 5].includes(Math.round(Number(value.toExponential(6).split('e')[0]))) && decade(value) >= 0);
  const tens = all.filter((value) => Math.round(Number(value.toExponential(6).split('e')[0])) === 1);
  return firsts.length <= count + 3 ? firsts : tens;
}

/** Where a mark's label stands beside its curve: above it, on the side that the curve does not go to. */
function labelPlace(x: number, y: number, rising: boolean, room: number, width: number) {
  const up = Math.max(head + 10, y - 10);
  if (rising) return x - room > left ? { x: x - 12, y: up, anchor: 'end' as const } : { x: x + 12, y: y + 22, anchor: 'start' as const };
  return x + room < width - right ? { x: x + 12, y: up, anchor: 'start' as const } : { x: x - 12, y: y + 22, anchor: 'end' as const };
}

/** A line chart of a calculation: the curve, its doubt, the points read, and a plumb line at what was asked. */
export function Chart({ chart, caption }: { readonly chart: ChartData; readonly caption: string }) {
  const [box, { width, height }] = useSize();
  const clip = useId();
  const { lines, band = [], dots = [], mark, level, plumbs = [] } = chart;
  const points = lines.flatMap((one) => one.points);
  const xs = [...points.map(([x]) => x), ...dots.map(([x]) => x), ...(mark === undefined ? [] : [mark.x]), ...plumbs.map((one) => one.x)];
  const ys = [
    ...points.map(([, y]) => y),
    ...dots.map(([, y]) => y),
    ...band.flatMap(([, low, high]) => [low, high]),
    ...(mark === undefined ? [] : [mark.y]),
    ...(level === undefined ? [] : [level.y]),
  ];
  const x = scaleOf(chart.x, xs, [left, Math.max(left + 40, width - right)], true);
  const y = scaleOf(chart.y, ys, [Math.max(head + 40, height - foot), head]);
  const drawn = line<readonly [number, number]>()
    .x(([at]) => x(at))
    .y(([, value]) => y(value));
  const shaded = area<readonly [number, number, number]>()
    .x(([at]) => x(at))
    .y0(([, low]) => y(low))
    .y1(([, , high]) => y(high));
  const bottom = height - foot;
  // A level is named where the curve is not: over its low end.
  const [first, last] = [lines[0]?.points[0], lines[0]?.points.at(-1)];
  const rising = first !== undefined && last !== undefined && last[1] >= first[1];
  const label = mark === undefined ? undefined : labelPlace(x(mark.x), y(mark.y), rising, mark.label.length * 9, width);
  return (
    <figure className="m-0">
      <div ref={box} className="h-[19rem] w-full">
        <svg width={width} height={height} role="img" aria-label={inWords(chart, caption)} className="block select-none">
          {ticksOf(y, 5).map((tick) => (
            <g key={tick}>
              <line x1={left} x2={width - right} y1={y(tick)} y2={y(tick)} stroke="var(--line)" strokeWidth={0.6} />
              <text x={left - 8} y={y(tick) + 4} textAnchor="end" className="figures fill-quiet text-[12px]">
                {tickText(tick)}
              </text>
            </g>
          ))}
          <line x1={left} x2={width - right} y1={bottom} y2={bottom} stroke="var(--quiet)" strokeWidth={1.2} />
          {ticksOf(x, Math.max(3, Math.floor(width / 110))).map((tick) => (
            <g key={tick}>
              <line x1={x(tick)} x2={x(tick)} y1={bottom} y2={bottom + 5} stroke="var(--quiet)" />
              <text x={x(tick)} y={bottom + 19} textAnchor="middle" className="figures fill-quiet text-[12px]">
                {tickText(tick)}
              </text>
            </g>
          ))}
          <text x={(left + width) / 2} y={height - 6} textAnchor="middle" className="fill-quiet text-[13px]">
            {chart.x.label}
          </text>
          <clipPath id={clip}>
            <rect x={left} y={0} width={Math.max(0, width - left)} height={Math.max(0, bottom)} />
          </clipPath>
          <g clipPath={`url(#${clip})`}>
            {band.length > 0 && <path d={shaded(band) ?? ''} fill="var(--action)" opacity={0.16} />}
            {level !== undefined && (
              <line
                x1={left}
                x2={width - right}
                y1={y(level.y)}
                y2={y(level.y)}
                stroke="var(--caution)"
                strokeWidth={1.6}
                strokeDasharray="2 5"
              />
            )}
            {lines.map((one) => (
              <path
                key={one.label}
                d={drawn(one.points) ?? ''}
                fill="none"
                stroke={one.dashed === true ? 'var(--quiet)' : 'var(--action)'}
                strokeWidth={one.dashed === true ? 1.5 : 2.6}
                strokeDasharray={one.dashed === true ? '7 5' : undefined}
              />
            ))}
            {plumbs.map((one) => (
              <line
                key={one.label}
                x1={x(one.x)}
                x2={x(one.x)}
                y1={head}
                y2={bottom}
                stroke="var(--caution)"
                strokeWidth={1.4}
                strokeDasharray="2 5"
              />
            ))}
            {mark !== undefined && <line x1={x(mark.x)} x2={x(mark.x)} y1={y(mark.y)} y2={bottom} stroke="var(--ink)" strokeWidth={1} />}
          </g>
          {dots.map(([at, value]) => (
            <rect
              key={`${at}-${value}`}
              x={x(at) - 4}
              y={y(value) - 4}
              width={8}
              height={8}
              fill="var(--surface)"
              stroke="var(--ink)"
              strokeWidth={1.6}
            />
          ))}
          {mark !== undefined && (
            <g>
              <path d={`M${x(mark.x)} ${y(mark.y) - 7}l6 5-6 10-6-10z`} fill="var(--ink)" />
              <text
                x={label?.x}
                y={label?.y}
                textAnchor={label?.anchor}
                className="figures fill-ink text-[14px] font-semibold"
                style={{ paintOrder: 'stroke', stroke: 'var(--surface)', strokeWidth: 4 }}
              >
                {mark.label}
              </text>
            </g>
          )}
          {plumbs.map((one, index) => (
            <text
              key={one.label}
              x={x(one.x) + 5}
              y={head + 12 + 17 * index}
              textAnchor="start"
              className="fill-caution text-[12px] font-medium"
              style={{ paintOrder: 'stroke', stroke: 'var(--surface)', strokeWidth: 4 }}
            >
              {one.label}
            </text>
          ))}
          {level !== undefined && (
            <text
              x={rising ? left + 6 : width - right - 4}
              y={y(level.y) - 6 < head + 8 ? y(level.y) + 16 : y(level.y) - 6}
              textAnchor={rising ? 'start' : 'end'}
              className="fill-caution text-[12px] font-medium"
              style={{ paintOrder: 'stroke', stroke: 'var(--surface)', strokeWidth: 4 }}
            >
              {level.label}
            </text>
          )}
        </svg>
      </div>
      <figcaption className="mt-1 flex flex-wrap gap-x-5 gap-y-1 text-sm text-quiet">
        <span className="font-medium text-ink">Up: {chart.y.label}</span>
        {lines.map((one) => (
          <span key={one.label} className="inline-flex items-center gap-2">
            <svg viewBox="0 0 26 6" className="h-1.5 w-6" aria-hidden="true">
              <line
                x1={0}
                x2={26}
                y1={3}
                y2={3}
                stroke={one.dashed === true ? 'var(--quiet)' : 'var(--action)'}
                strokeWidth={one.dashed === true ? 2 : 4}
                strokeDasharray={one.dashed === true ? '7 5' : undefined}
              />
            </svg>
            {one.label}
          </span>
        ))}
        {band.length > 0 && <span>Shaded: 95 %</span>}
      </figcaption>
    </figure>
  );
}

function inWords({ x, y, lines, mark, level }: ChartData, caption: string): string {
  const ends = lines[0]?.points ?? [];
  const [first, last] = [ends[0], ends.at(-1)];
  const course =
    first === undefined || last === undefined
      ? ''
      : ` From ${tickText(first[1])} at ${tickText(first[0])} to ${tickText(last[1])} at ${tickText(last[0])}.`;
  return `${caption}: ${y.label} against ${x.label}.${course}${mark === undefined ? '' : ` Marked: ${mark.label} at ${tickText(mark.x)}.`}${level === undefined ? '' : ` ${level.label}: ${tickText(level.y)}.`}`;
}
