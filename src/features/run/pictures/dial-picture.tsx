import type { HoldPhase } from '@/core/course';
import { startOf } from './scene';
import type { SceneProps } from './scenery';

/** Part of a turn as a point on a circle; a quarter turn is to the right. */
const onCircle = (turns: number, radius: number): readonly [number, number] => [
  Math.sin(turns * 2 * Math.PI) * radius,
  -Math.cos(turns * 2 * Math.PI) * radius,
];

/** The meter's smallest dial: where its hand was marked, where it stands, and the part of a turn that counts. */
export function DialPicture({ plan, phase, judgement, traced, box }: SceneProps<HoldPhase>) {
  if (phase.limit.kind !== 'dial') return null;
  const start = startOf(plan, judgement, phase);
  const points = traced.find((one) => one.phase === phase.id)?.points ?? [];
  const now = points.at(-1)?.value ?? start;
  const radius = Math.min(box.height / 2 - 14, box.width / 4);
  const threshold = Number(phase.limit.threshold);
  const moved = start === undefined || now === undefined ? 0 : now - start;
  const mark = start ?? 0;
  // A fiftieth of a turn is hardly seen on the dial's own face: the arc beside it shows it ten times as large.
  const arc = (from: number, to: number, at: number) => {
    const [x1, y1] = onCircle(from, at);
    const [x2, y2] = onCircle(to, at);
    return `M${x1} ${y1}A${at} ${at} 0 ${to - from > 0.5 ? 1 : 0} 1 ${x2} ${y2}`;
  };
  // It stands under three lines of words, and ends within the picture.
  const wide = Math.max(12, Math.min(50, (box.height - 26 - 56 - 24) / 2));
  const [handX, handY] = onCircle(now ?? 0, radius - 10);
  const [markX, markY] = onCircle(mark, radius);
  const [innerX, innerY] = onCircle(mark, radius - 16);
  return (
    <g>
      <g transform={`translate(${box.x + radius + 20} ${box.y + box.height / 2})`}>
        <circle r={radius} fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
        {Array.from({ length: 10 }, (_, index) => {
          const [x1, y1] = onCircle(index / 10, radius);
          const [x2, y2] = onCircle(index / 10, radius - 7);
          return <path key={index.toString()} d={`M${x1} ${y1}L${x2} ${y2}`} stroke="var(--quiet)" strokeWidth="1.5" />;
        })}
        {start !== undefined && (
          <path d={`M${innerX} ${innerY}L${markX} ${markY}`} stroke="var(--caution)" strokeWidth="4" strokeLinecap="square" />
        )}
        {now !== undefined && <path d={`M0 0L${handX} ${handY}`} stroke="var(--ink)" strokeWidth="3" strokeLinecap="round" />}
        <circle r="4" fill="var(--ink)" />
      </g>
      <g transform={`translate(${box.x + 2 * radius + 60} ${box.y + 26})`}>
        <text className="fill-quiet text-[12px]">moved since the mark</text>
        <text y="30" className="figures fill-ink text-[26px] font-semibold">
          {moved.toFixed(3)}
        </text>
        <text y="48" className="fill-quiet text-[12px]">
          of a turn; {threshold} counts
        </text>
        <g transform={`translate(${wide + 10} ${62 + wide + 8})`}>
          <path d={arc(0, 0.5, wide)} fill="none" stroke="var(--line)" strokeWidth="10" />
          <path
            d={arc(0, Math.max(0.001, Math.min(0.5, (moved / threshold) * 0.25)), wide)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="10"
          />
          <path d={`M${onCircle(0.25, wide - 10).join(' ')}L${onCircle(0.25, wide + 10).join(' ')}`} stroke="var(--stop)" strokeWidth="3" />
        </g>
      </g>
    </g>
  );
}
