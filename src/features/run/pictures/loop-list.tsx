import type { CheckPhase } from '@/core/course';
import type { ItemState } from '@/core/judging';
import type { Box } from './scene';

/** The manifold and its loops: each is filled and purged by itself, and drawn full once that is done. */
export function LoopList({ phase, done, box }: { readonly phase: CheckPhase; readonly done: readonly ItemState[]; readonly box: Box }) {
  // What is shut at the manifold itself is no loop.
  const loops = phase.items.filter((item) => item.boundary === undefined);
  const step = Math.min(34, (box.height - 16) / Math.max(1, loops.length));
  const bar = box.x + 24;
  const end = box.x + box.width - 150;
  return (
    <g>
      <rect x={bar - 8} y={box.y + 4} width="12" height={Math.max(20, step * loops.length)} fill="var(--ink)" />
      {loops.map(({ id, text }, index) => {
        const y = box.y + 4 + step * (index + 0.5);
        const full = done.some((item) => item.id === id);
        const bend = step * 0.28;
        return (
          <g key={id}>
            <path
              d={`M${bar + 4} ${y - bend}H${end}q${bend} 0 ${bend} ${bend}t${-bend} ${bend}H${bar + 4}`}
              fill="none"
              stroke={full ? 'var(--action)' : 'var(--quiet)'}
              strokeWidth={full ? 5 : 2}
              strokeDasharray={full ? undefined : '4 4'}
            />
            <text x={end + 18} y={y + 4} className={`text-[12px] ${full ? 'fill-ink font-semibold' : 'fill-quiet'}`}>
              {text.split(':')[0]}
            </text>
          </g>
        );
      })}
    </g>
  );
}
