import { scaleLinear } from 'd3-scale';
import { instrumentOf, type MeasurePhase } from '@/core/course';
import { pointsOf } from '@/core/judging';
import { fromSi, toSi, unitLabel } from '@/core/quantities';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

/** Water that a rise of pressure takes: with no air, with the most that is let pass, and as it was read. */
export function AirPicture({ plan, phase, judgement, box }: SceneProps<MeasurePhase>) {
  const { limit: criterion } = phase;
  if (criterion.kind !== 'air-at-most') return null;
  const gauge = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'pressure')?.instrument);
  const pump = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'volume')?.instrument);
  const air = Number(criterion.atmosphereHpa) * 100;
  const read = pointsOf(stateOf(judgement, phase.id)).flatMap(({ values }) =>
    values.pressure === undefined || values.volume === undefined
      ? []
      : [{ pa: toSi(Number(values.pressure), gauge.unit), m3: toSi(Number(values.volume), pump.unit) }],
  );
  const aims = phase.points.flatMap(({ aim }) => (aim === undefined ? [] : [toSi(Number(aim), plan.unit)]));
  const from = read[0]?.pa ?? aims[0] ?? 0;
  const to = Math.max(read[1]?.pa ?? 0, aims[1] ?? from * 1.5);
  const first = read[0]?.m3 ?? 0;
  // Taken up by water and wall, and by air at a share of the volume at atmospheric pressure (DOMAIN 3.7).
  const taken = (share: number, pa: number) =>
    (Number(criterion.litres) / 1000) *
    ((pa - from) * (Number(criterion.softness) / 1e9) + share * air * (1 / (from + air) - 1 / (pa + air)));
  const most = Number(criterion.most);
  const top = Math.max(taken(most, to), ...read.map(({ m3 }) => m3 - first)) * 1.2 || 1e-6;
  const x = scaleLinear([from, to + (to - from) * 0.08], [box.x + 8, box.x + box.width - 150]);
  const y = scaleLinear([0, top], [box.y + box.height - 24, box.y + 8]);
  const curve = (share: number) =>
    Array.from({ length: 21 }, (_, index) => from + ((to - from) * index) / 20)
      .map((pa, index) => `${index === 0 ? 'M' : 'L'}${x(pa)} ${y(taken(share, pa))}`)
      .join('');
  const label = (text: string, share: number, tone: string) => (
    <text x={x(to) + 8} y={y(taken(share, to)) + 4} className={`text-[12px] ${tone}`}>
      {text}
    </text>
  );
  return (
    <g>
      <path d={curve(0)} fill="none" stroke="var(--quiet)" strokeWidth="1.5" />
      {label('no air', 0, 'fill-quiet')}
      <path d={curve(most)} fill="none" stroke="var(--stop)" strokeWidth="1.5" strokeDasharray="5 3" />
      {label(`${most * 100} % air: bleed`, most, 'fill-stop')}
      {read.map(({ pa, m3 }) => (
        <circle key={pa} cx={x(pa)} cy={y(m3 - first)} r="6" fill="var(--ink)" />
      ))}
      {[from, to].map((pa) => (
        <text key={pa} x={x(pa)} y={box.y + box.height - 6} textAnchor="middle" className="figures fill-quiet text-[12px]">
          {Number(fromSi(pa, plan.unit).toFixed(2))} {unitLabel(plan.unit)}
        </text>
      ))}
      <text x={box.x - 6} y={box.y + 16} textAnchor="end" className="figures fill-quiet text-[11px]">
        {Math.round(fromSi(top, pump.unit))}
      </text>
      <text x={box.x - 6} y={box.y + 30} textAnchor="end" className="fill-quiet text-[10px]">
        {unitLabel(pump.unit)}
      </text>
    </g>
  );
}
