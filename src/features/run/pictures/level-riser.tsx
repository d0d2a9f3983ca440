import { type HoldPhase, inPlanUnit, thresholdOf } from '@/core/course';
import { heldSoFar } from '@/core/judging';
import { startOf } from './scene';
import type { SceneProps } from './scenery';

/** Widest that the riser is drawn, px, and how much of a fall fills the tube below the mark. */
const widest = 74;
const shownThresholds = 6;

/** Water standing in the open riser: the mark at the start, where it stands now, and the fall that counts. */
export function LevelRiser({ plan, phase, judgement, traced, box }: SceneProps<HoldPhase>) {
  const start = startOf(plan, judgement, phase);
  const threshold = Number(thresholdOf(phase.limit) ?? '1');
  const last = traced.find((one) => one.phase === phase.id)?.points.at(-1)?.value;
  const end = heldSoFar(judgement.phases.find(({ id }) => id === phase.id))?.end;
  const now = end === undefined ? last : inPlanUnit(plan, Number(end), phase);
  const width = Math.min(widest, box.width * 0.18);
  const x = box.x + 10;
  const top = box.y + 8;
  const bottom = box.y + box.height - 6;
  const mark = top + (bottom - top) * 0.3;
  // A fall of the threshold must be seen: the tube shows a few of them, however tall the riser is.
  const fall = start === undefined || now === undefined ? 0 : start - now;
  const y = (lost: number) => Math.max(top, Math.min(bottom - 4, mark + (lost / threshold) * ((bottom - mark) / shownThresholds)));
  return (
    <g>
      <rect x={x} y={top} width={width} height={bottom - top} fill="var(--surface)" opacity="0.9" />
      <rect x={x} y={y(fall)} width={width} height={bottom - y(fall)} fill="var(--action)" opacity="0.3" />
      <path d={`M${x} ${top}V${bottom}M${x + width} ${top}V${bottom}`} stroke="var(--ink)" strokeWidth="3" />
      <path d={`M${x} ${y(fall)}h${width}`} stroke="var(--ink)" strokeWidth="2" />
      {start !== undefined && (
        <>
          <path d={`M${x - 6} ${mark}h${width + 12}`} stroke="var(--quiet)" strokeWidth="1.5" strokeDasharray="2 3" />
          <text x={x + width + 8} y={mark - 4} className="figures halo fill-quiet text-[11px]">
            mark {start}
          </text>
          <path d={`M${x - 6} ${y(threshold)}h${width + 12}`} stroke="var(--stop)" strokeWidth="1.5" strokeDasharray="5 3" />
          <text x={x + width + 8} y={y(threshold) + 12} className="figures halo fill-stop text-[11px]">
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
