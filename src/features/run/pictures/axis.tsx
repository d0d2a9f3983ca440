import { ticks } from 'd3-array';
import type { Box } from './scene';

/** Horizontal lines of an axis with their figures at the left, and its unit on top. */
export function Axis({
  lowest,
  highest,
  y,
  box,
  unit,
}: {
  readonly lowest: number;
  readonly highest: number;
  readonly y: (value: number) => number;
  readonly box: Box;
  readonly unit: string;
}) {
  return (
    <g>
      {ticks(lowest, highest, Math.max(2, Math.min(5, Math.floor(box.height / 28))))
        .filter((tick) => y(tick) > box.y + 12)
        .map((tick) => (
          <g key={tick}>
            <line x1={box.x} x2={box.x + box.width} y1={y(tick)} y2={y(tick)} stroke="var(--line)" strokeWidth={tick === 0 ? 1.5 : 0.5} />
            <text
              x={box.x - 6}
              y={Math.min(y(tick) + 4, box.y + box.height - 1)}
              textAnchor="end"
              className="figures fill-quiet text-[11px]"
            >
              {tick}
            </text>
          </g>
        ))}
      <text x={box.x - 6} y={box.y + 6} textAnchor="end" className="fill-quiet text-[11px]">
        {unit}
      </text>
    </g>
  );
}
