import { type HoldPhase, inPlanUnit, thresholdOf } from '@/core/course';
import { heldSoFar } from '@/core/judging';
import { startOf } from './scene';
import type { SceneProps } from './scenery';

/** Widest that the riser is drawn, px. */
const widest = 74;

/** Water standing in the open riser, on the axis of its trace: the mark at the start, where it stands now, and the fall that counts. */
export function LevelRiser({
  plan,
  phase,
  judgement,
  traced,
  box,
  y: onAxis,
}: Omit<SceneProps<HoldPhase>, 'events'> & {
  /** Where a level stands, px. */
  readonly y: (level: number) => number;
}) {
  const start = startOf(plan, judgement, phase);
  const threshold = Number(thresholdOf(phase.limit) ?? '1');
  const last = traced.find((one) => one.phase === phase.id)?.points.at(-1)?.value;
  const end = heldSoFar(judgement.phases.find(({ id }) => id === phase.id))?.end;
  const now = end === undefined ? last : inPlanUnit(plan, Number(end), phase);
  const width = Math.min(widest, box.width * 0.18);
  const x = box.x + 10;
  const top = box.y + 8;
  const bottom = box.y + box.height - 6;
  const y = (level: number) => Math.max(top, Math.min(bottom - 4, onAxis(level)));
  const surface = y(now ?? start ?? 0);
  return (
    <g>
      <rect x={x} y={top} width={width} height={bottom - top} fill="var(--surface)" opacity="0.9" />
      <rect x={x} y={surface} width={width} height={bottom - surface} fill="var(--action)" opacity="0.3" />
      <path d={`M${x} ${top}V${bottom}M${x + width} ${top}V${bottom}`} stroke="var(--ink)" strokeWidth="3" />
      <path d={`M${x} ${surface}h${width}`} stroke="var(--ink)" strokeWidth="2" />
      {start !== undefined && (
        <>
          <path d={`M${x - 6} ${y(start)}h${width + 12}`} stroke="var(--quiet)" strokeWidth="1.5" strokeDasharray="2 3" />
          <text x={x + width + 8} y={y(start) - 4} className="figures halo fill-quiet text-[11px]">
            mark {start}
          </text>
          <path d={`M${x - 6} ${y(start - threshold)}h${width + 12}`} stroke="var(--stop)" strokeWidth="1.5" strokeDasharray="5 3" />
          <text x={x + width + 8} y={y(start - threshold) + 12} className="figures halo fill-stop text-[11px]">
            {threshold} mm counts
          </text>
        </>
      )}
      {now !== undefined && start !== undefined && (
        <text x={x + width / 2} y={bottom - 8} textAnchor="middle" className="figures fill-ink text-[13px] font-semibold">
          {now} mm
        </text>
      )}
    </g>
  );
}
