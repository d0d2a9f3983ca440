import { scaleLinear } from 'd3-scale';
import { inPlanUnit, type MeasurePhase } from '@/core/course';
import { pointsOf } from '@/core/judging';
import { type Unit, unitLabel } from '@/core/quantities';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

/** A figure on its scale of named ranges: a supply's pressure, a ball's, a regulator's under flow. */
export function BandsPicture({ plan, phase, judgement, box }: SceneProps<MeasurePhase>) {
  const { limit: criterion } = phase;
  if (criterion.kind !== 'in-bands') return null;
  const { steps, beyond } = criterion.bands;
  const field = phase.fields[0];
  const values = pointsOf(stateOf(judgement, phase.id)).flatMap(({ values: read }) => {
    const value = read[field.quantity];
    return value === undefined
      ? []
      : [
          inPlanUnit(plan, Number(value), {
            instrument: field.instrument,
            unit: criterion.unit,
          }),
        ];
  });
  const edges = steps.map(({ below }) => Number(below));
  const top = Math.max(...edges, ...values) * 1.25;
  const x = scaleLinear([0, top], [box.x + 6, box.x + box.width - 10]);
  const y = box.y + box.height / 2;
  const ranges = [
    ...steps.map(({ outcome }, index) => ({ outcome, from: edges[index - 1] ?? 0, to: edges[index] })),
    { outcome: beyond, from: edges.at(-1) ?? 0, to: top },
  ];
  return (
    <g>
      {ranges.map(({ outcome, from, to }) => {
        const bad = criterion.worst.includes(outcome);
        return (
          <g key={outcome}>
            <rect
              x={x(from) + 1}
              y={y - 16}
              width={Math.max(2, x(to) - x(from) - 2)}
              height="32"
              fill={bad ? 'var(--caution)' : 'var(--action)'}
              opacity={bad ? 0.22 : 0.35}
            />
            <text x={(x(from) + x(to)) / 2} y={y + 5} textAnchor="middle" className="fill-ink text-[13px]">
              {outcome.replaceAll('-', ' ')}
            </text>
          </g>
        );
      })}
      {edges.map((edge) => (
        <text key={edge} x={x(edge)} y={y + 34} textAnchor="middle" className="figures fill-quiet text-[12px]">
          {edge}
        </text>
      ))}
      <text x={box.x + box.width - 10} y={y + 34} textAnchor="end" className="fill-quiet text-[12px]">
        {unitLabel(criterion.unit as Unit)}
      </text>
      {values.map((value) => (
        <g key={value}>
          <path d={`M${x(value)} ${y - 22}l-7 -12h14z`} fill="var(--ink)" />
          <text x={x(value)} y={y - 42} textAnchor="middle" className="figures fill-ink text-[20px] font-semibold">
            {Number(value.toFixed(2))}
          </text>
        </g>
      ))}
    </g>
  );
}
