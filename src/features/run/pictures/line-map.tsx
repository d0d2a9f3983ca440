import { itemsOf } from '@/core/judging';
import { lineGroups, type Opening, parseOpenings, parseTrials, plugsFor } from '@/core/sizing';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

const kindLetters: Record<Opening['kind'], string> = { standard: 'plug', hook: 'hook plug', long: 'long plug', inflatable: 'inflatable' };

/** Outlets against trials, the lines they turned out to be, and the plugs that this line takes. */
export function LineMap({ plan, judgement, box }: SceneProps) {
  const { trials } = parseTrials(plan.answers.trials ?? '');
  const { openings } = parseOpenings(plan.answers.openings ?? '');
  const plugs = plugsFor(openings);
  const groups = lineGroups(trials);
  const named = [...openings.map(({ place }) => place), ...groups.flat()];
  const names = [...new Map(named.map((name) => [name.toLowerCase(), name])).values()];
  const set = plan.phases
    .flatMap(({ id }) => itemsOf(stateOf(judgement, id)))
    .filter(({ id }) => id === 'open-plug' || plan.boundaries.some((edge) => edge.id === id)).length;
  const column = Math.min(110, (box.width - 130) / Math.max(1, trials.length + 1));
  // Too little room to say it over each column: it is said once, before them.
  const narrow = column < 105;
  const row = Math.min(40, (box.height - 44) / Math.max(1, names.length));
  const x = (index: number) => box.x + 126 + column * index;
  const y = (index: number) => box.y + 28 + row * (index + 0.5);
  const heard = (trial: (typeof trials)[number], name: string) =>
    [trial.at, ...trial.answered].some((one) => one.toLowerCase() === name.toLowerCase());
  const openingAt = (name: string) => openings.find(({ place }) => place.toLowerCase() === name.toLowerCase());
  return (
    <g>
      {trials.map(({ at }, index) => (
        <text key={at} x={x(index) + column / 2} y={box.y + 16} textAnchor="middle" className="fill-quiet text-[12px]">
          {narrow ? at : `air at ${at}`}
        </text>
      ))}
      {narrow && trials.length > 0 && (
        <text x={box.x + 6} y={box.y + 16} className="fill-quiet text-[12px]">
          air put in at
        </text>
      )}
      <text x={x(trials.length) + column / 2} y={box.y + 16} textAnchor="middle" className="fill-ink text-[12px] font-semibold">
        {plan.answers.line}
      </text>
      {names.map((name, index) => {
        const opening = openingAt(name);
        return (
          <g key={name}>
            {opening !== undefined && (
              <rect x={box.x} y={y(index) - row / 2 + 1} width={box.width - 4} height={row - 2} fill="var(--action)" opacity="0.1" />
            )}
            <text
              x={box.x + 6}
              y={y(index) + 4}
              className={`text-[13px] ${opening !== undefined ? 'fill-ink font-semibold' : 'fill-quiet'}`}
            >
              {name}
            </text>
            {trials.map((trial, place) =>
              heard(trial, name) ? (
                <circle
                  key={trial.at}
                  cx={x(place) + column / 2}
                  cy={y(index)}
                  r="6"
                  fill={trial.at.toLowerCase() === name.toLowerCase() ? 'var(--ink)' : 'none'}
                  stroke="var(--ink)"
                  strokeWidth="2"
                />
              ) : (
                <path key={trial.at} d={`M${x(place) + column / 2 - 4} ${y(index)}h8`} stroke="var(--line)" strokeWidth="2" />
              ),
            )}
            {opening !== undefined && (
              <text x={x(trials.length) + column / 2} y={y(index) + 4} textAnchor="middle" className="fill-ink text-[12px]">
                {opening.valve ? 'valve' : plugs.ok && plugs.value.open.name === opening.name ? 'open plug' : kindLetters[opening.kind]}
              </text>
            )}
          </g>
        );
      })}
      <text x={box.x + 6} y={box.y + box.height - 4} className="fill-quiet text-[12px]">
        {groups.length > 0 && `${groups.length} line${groups.length === 1 ? '' : 's'} by the trials · `}
        {plugs.ok && `${plugs.value.closed.length} closed and 1 open plug, ${set} of ${openings.length} set`}
      </text>
    </g>
  );
}
