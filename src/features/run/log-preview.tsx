import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useMemo } from 'react';
import type { Point } from '@/core/judging';
import { thinned } from '@/core/judging';
import type { GaugeLog, LogWindow } from '@/core/record';

const [width, height] = [560, 120];

/** The whole log, with the part that would be taken marked. */
export function LogPreview({ log, window }: { readonly log: GaugeLog; readonly window?: LogWindow }) {
  const points = useMemo(() => {
    const all: Point[] = [];
    // By row, not by time: a clock that ran back would draw over itself.
    for (let row = 0; row < log.times.length; row += 1) all.push({ seconds: row, value: log.values[row] / 10 ** log.scale });
    return thinned(all, 280);
  }, [log]);
  const [low = 0, high = 1] = extent(points, ({ value }) => value);
  const x = scaleLinear([0, Math.max(1, log.times.length - 1)], [2, width - 2]);
  const y = scaleLinear([low, high === low ? low + 1 : high], [height - 6, 6]);
  const path = line<Point>(
    ({ seconds }) => x(seconds),
    ({ value }) => y(value),
  );
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full border border-line bg-surface"
      role="img"
      aria-label={`The log, from ${low} to ${high}`}
    >
      {window !== undefined && (
        <rect
          x={x(window.start)}
          width={Math.max(2, x(window.end) - x(window.start))}
          y={0}
          height={height}
          fill="var(--action)"
          opacity="0.2"
        />
      )}
      <path d={path(points) ?? ''} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  );
}
