import type { Phase } from '@/core/course';

export interface Block {
  readonly phase: Phase;
  readonly x: number;
  readonly width: number;
}

/** Times the median that one waiting hold may be drawn at most: a longer one is drawn broken, so that all can be seen. */
const mostTimes = 6;

/** Widths in proportion to time, but never too small to touch; the open phase takes the larger part. */
export function layOut(phases: readonly Phase[], current: string | undefined, width: number, share: number): readonly Block[] {
  const times = phases.flatMap((phase) => (phase.kind === 'hold' ? [phase.seconds] : [])).sort((a, b) => a - b);
  const longest = (times[Math.floor(times.length / 2)] ?? 60) * mostTimes;
  const weight = (phase: Phase) => (phase.kind === 'hold' ? Math.max(30, Math.min(longest, phase.seconds)) : 24);
  const others = phases.filter(({ id }) => id !== current);
  const hasCurrent = others.length < phases.length;
  const rest = hasCurrent && others.length > 0 ? width * (1 - share) : width;
  const total = others.reduce((sum, phase) => sum + weight(phase), 0);
  // Half of what the others have is shared evenly, so that a list beside an hour's hold can still be seen.
  const even = (rest * 0.4) / Math.max(1, others.length);
  let x = 0;
  return phases.map((phase) => {
    const own =
      phase.id === current ? (others.length === 0 ? width : width * share) : even + (rest * 0.6 * weight(phase)) / Math.max(1, total);
    const block = { phase, x, width: own };
    x += own;
    return block;
  });
}

/** A phase as a block of stone: done, open or waiting. */
export function BlockShape({
  phase,
  x,
  width,
  top,
  state,
}: {
  readonly phase: Phase;
  readonly x: number;
  readonly width: number;
  readonly top: number;
  readonly state: string;
}) {
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
