import type { CheckPhase } from '@/core/course';
import { itemsOf } from '@/core/judging';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

/** The line from the tank with its appliances and their burners; a block for each look of the round, filled as it is done. */
export function ApplianceRound({ plan, phase, judgement, box }: SceneProps<CheckPhase>) {
  const listed = (plan.answers.appliances ?? '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const count = Math.max(1, Math.min(12, Math.round(Number(plan.answers.count ?? listed.length) || listed.length || 1)));
  const names = Array.from({ length: count }, (_, index) => listed[index]?.split(',')[0] ?? `Appliance ${index + 1}`);
  const before = (plan.answers['last-visit'] ?? '')
    .toLowerCase()
    .split('\n')
    .map((line) => line.trim());
  const isNew = (index: number) =>
    listed[index] !== undefined && before.some((line) => line !== '') && !before.includes(listed[index].toLowerCase());
  const done = itemsOf(stateOf(judgement, phase.id));
  const lit = plan.phases.some(({ id }) => itemsOf(stateOf(judgement, id)).some((item) => item.id === 'lit'));
  const step = (box.width - 90) / count;
  const pipe = box.y + 40;
  const look = (box.width - 8) / phase.items.length;
  return (
    <g>
      <ellipse cx={box.x + 36} cy={pipe} rx="32" ry="18" fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
      <text x={box.x + 36} y={pipe + 4} textAnchor="middle" className="fill-ink text-[12px]">
        tank
      </text>
      <path d={`M${box.x + 68} ${pipe}H${box.x + 80 + step * (count - 0.5)}`} stroke="var(--quiet)" strokeWidth="4" />
      {names.map((name, index) => {
        const x = box.x + 80 + step * (index + 0.5);
        return (
          <g key={`${name}${index.toString()}`}>
            <path d={`M${x} ${pipe}v24`} stroke="var(--quiet)" strokeWidth="3" />
            <rect
              x={x - Math.min(46, step * 0.45)}
              y={pipe + 24}
              width={Math.min(92, step * 0.9)}
              height="40"
              fill="var(--surface)"
              stroke={isNew(index) ? 'var(--caution)' : 'var(--ink)'}
              strokeWidth="2"
            />
            {[-18, 0, 18].map((offset) => (
              <circle
                key={offset}
                cx={x + offset}
                cy={pipe + 44}
                r="7"
                fill={lit ? 'var(--action)' : 'none'}
                stroke="var(--ink)"
                strokeWidth="1.5"
              />
            ))}
            <text x={x} y={pipe + 82} textAnchor="middle" className="fill-ink text-[12px]">
              {name.length * 6.6 > step ? `${name.slice(0, Math.max(3, Math.floor(step / 6.6) - 1))}…` : name}
            </text>
            {isNew(index) && (
              <text x={x} y={pipe + 97} textAnchor="middle" className="fill-caution text-[11px] font-semibold">
                {step > 150 ? 'new since the last visit' : 'new'}
              </text>
            )}
          </g>
        );
      })}
      {phase.items.map(({ id, text }, index) => (
        <rect
          key={id}
          x={box.x + 4 + look * index}
          y={box.y + box.height - 26}
          width={look - 4}
          height="16"
          fill={done.some((item) => item.id === id) ? 'var(--action)' : 'var(--sunken)'}
          stroke="var(--line)"
        >
          <title>{text}</title>
        </rect>
      ))}
      <text x={box.x + 4} y={box.y + box.height - 32} className="fill-quiet text-[12px]">
        {done.length} of {phase.items.length} looks of the round
      </text>
    </g>
  );
}
