import type { Box } from './scene';

/** A thread of dye at the opening: hanging, or drawn in; and what each of them says. */
export function DyePicture({ box, seen }: { readonly box: Box; readonly seen?: string }) {
  const half = box.width / 2;
  const wall = Math.min(60, half * 0.3);
  const middle = box.y + box.height * 0.42;
  // The thread ends within the water, however low the picture.
  const k = Math.min(1, (box.y + box.height - 42 - middle) / 66);
  const one = (at: number, drawn: boolean) => {
    const hole = at + half - wall - 30;
    const picked = seen === undefined || (seen === 'drawn') === drawn;
    return (
      <g key={String(drawn)} opacity={picked ? 1 : 0.3}>
        <rect x={at + 4} y={box.y + 4} width={half - 16} height={box.height - 40} fill="var(--action)" opacity="0.1" />
        <rect x={hole} y={box.y + 4} width={wall} height={box.height - 40} fill="var(--quiet)" opacity="0.35" />
        <rect x={hole} y={middle - 12} width={wall} height="24" fill="var(--surface)" />
        <path d={`M${hole} ${middle - 12}h${wall}M${hole} ${middle + 12}h${wall}`} stroke="var(--ink)" strokeWidth="2" />
        <path
          d={
            drawn
              ? `M${hole - half * 0.35} ${middle - 30 * k}q${half * 0.16} ${26 * k} ${half * 0.28} ${28 * k}t${half * 0.07 + wall + 14} 2`
              : `M${hole - half * 0.28} ${middle - 30 * k}q-14 ${18 * k} 2 ${34 * k}t-10 ${36 * k}t4 ${18 * k}`
          }
          fill="none"
          stroke="var(--stop)"
          strokeWidth="3"
          strokeLinecap="round"
        />
        <text x={at + half / 2 - 8} y={box.y + box.height - 18} textAnchor="middle" className="fill-ink text-[13px] font-semibold">
          {drawn ? 'Drawn in' : 'Hangs, or drifts away'}
        </text>
        <text x={at + half / 2 - 8} y={box.y + box.height - 3} textAnchor="middle" className="fill-quiet text-[12px]">
          {drawn ? 'it leaks below the water' : 'not cleared: no pass'}
        </text>
      </g>
    );
  };
  return (
    <g>
      {one(box.x, false)}
      {one(box.x + half, true)}
    </g>
  );
}
