import { hierarchy, tree } from 'd3-hierarchy';
import type { Section } from '@/core/locating';

interface Node {
  readonly section: Section;
  readonly children: readonly Node[];
}

const branch = (sections: readonly Section[], parent: string | undefined): readonly Node[] =>
  sections.filter((section) => section.parent === parent).map((section) => ({ section, children: branch(sections, section.id) }));

/** A system's sections as a small tree, drawn from what isolates what; while a leak is searched, shaded by how likely it is in each. */
export function Schematic({
  sections,
  name,
  likelihood,
  shut,
  choose,
}: {
  readonly sections: readonly Section[];
  readonly name: string;
  /** Per section id, adding up to 1. */
  readonly likelihood?: ReadonlyMap<string, number>;
  /** Sections that are shut off, or would be. */
  readonly shut?: ReadonlySet<string>;
  readonly choose?: (section: string) => void;
}) {
  const [root] = branch(sections, undefined);
  if (root === undefined) return null;
  const searched = likelihood !== undefined;
  const laid = tree<Node>().nodeSize([searched ? 50 : 30, searched ? 170 : 150])(hierarchy(root, ({ children }) => [...children]));
  const nodes = laid.descendants();
  const low = Math.min(...nodes.map(({ x }) => x));
  const height = Math.max(...nodes.map(({ x }) => x)) - low + (searched ? 60 : 36);
  const width = Math.max(...nodes.map(({ y }) => y)) + 190;
  const share = (id: string) => likelihood?.get(id) ?? 0;
  const most = Math.max(...sections.map(({ id }) => share(id)), 1e-9);
  const percent = (id: string) => `${Math.round(share(id) * 100)} %`;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ maxWidth: searched ? width * 1.3 : width }}
      className="w-full"
      role={choose === undefined ? 'img' : 'group'}
      aria-label={`${name}: ${nodes.map(({ data }) => `${data.section.name}${searched ? ` ${percent(data.section.id)}` : ''}`).join(', ')}`}
    >
      <g transform={`translate(10 ${(searched ? 28 : 18) - low})`}>
        {laid.links().map(({ source, target }) => (
          <path
            key={target.data.section.id}
            d={`M${source.y} ${source.x}H${target.y - 30}V${target.x}H${target.y}`}
            fill="none"
            stroke={shut?.has(target.data.section.id) === true ? 'var(--stop)' : 'var(--quiet)'}
            strokeWidth="2.5"
            strokeDasharray={shut?.has(target.data.section.id) === true ? '5 4' : undefined}
          />
        ))}
        {nodes.map(({ x, y, data: { section }, depth }) => (
          <g key={section.id} transform={`translate(${y} ${x})`}>
            {searched && (
              <rect x="-8" y="-22" width="150" height="40" fill="var(--caution)" opacity={0.04 + 0.5 * (share(section.id) / most)} />
            )}
            {depth === 0 ? (
              <path d="M-7 -7L7 7V-7L-7 7Z" fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
            ) : (
              <rect x="-5" y="-5" width="10" height="10" fill="var(--action)" />
            )}
            <text x="12" y={searched ? -8 : depth === 0 ? -10 : -6} className="fill-ink text-[12px]">
              {section.name.split(',')[0]}
            </text>
            {searched && (
              <text x="12" y="14" className="figures fill-ink text-[11px]">
                {percent(section.id)}
                {section.hidden === true ? ', hidden' : ''}
              </text>
            )}
            {choose !== undefined && depth > 0 && (
              // biome-ignore lint/a11y/useSemanticElements: a button cannot stand inside a drawing.
              <rect
                x="-8"
                y="-22"
                width="150"
                height="40"
                fill="transparent"
                className="cursor-pointer"
                role="button"
                tabIndex={0}
                aria-label={`Shut off ${section.name}`}
                onClick={() => choose(section.id)}
                onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && choose(section.id)}
              />
            )}
          </g>
        ))}
      </g>
    </svg>
  );
}
