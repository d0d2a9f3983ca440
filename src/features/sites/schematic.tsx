import { hierarchy, tree } from 'd3-hierarchy';
import type { Section } from '@/db/schema';

interface Node {
  readonly section: Section;
  readonly children: readonly Node[];
}

const branch = (sections: readonly Section[], parent: string | undefined): readonly Node[] =>
  sections.filter((section) => section.parent === parent).map((section) => ({ section, children: branch(sections, section.id) }));

/** A system's sections as a small tree, drawn from what isolates what. */
export function Schematic({ sections, name }: { readonly sections: readonly Section[]; readonly name: string }) {
  const [root] = branch(sections, undefined);
  if (root === undefined) return null;
  const laid = tree<Node>().nodeSize([30, 150])(hierarchy(root, ({ children }) => [...children]));
  const nodes = laid.descendants();
  const low = Math.min(...nodes.map(({ x }) => x));
  const height = Math.max(...nodes.map(({ x }) => x)) - low + 36;
  const width = Math.max(...nodes.map(({ y }) => y)) + 190;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ maxWidth: width }}
      className="w-full"
      role="img"
      aria-label={`${name}: ${nodes.map(({ data }) => data.section.name).join(', ')}`}
    >
      <g transform={`translate(10 ${18 - low})`}>
        {laid.links().map(({ source, target }) => (
          <path
            key={target.data.section.id}
            d={`M${source.y} ${source.x}H${target.y - 30}V${target.x}H${target.y}`}
            fill="none"
            stroke="var(--quiet)"
            strokeWidth="2.5"
          />
        ))}
        {nodes.map(({ x, y, data, depth }) => (
          <g key={data.section.id} transform={`translate(${y} ${x})`}>
            {depth === 0 ? (
              <path d="M-7 -7L7 7V-7L-7 7Z" fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
            ) : (
              <rect x="-5" y="-5" width="10" height="10" fill="var(--action)" />
            )}
            <text x="12" y={depth === 0 ? -10 : -6} className="fill-ink text-[12px]">
              {data.section.name.split(',')[0]}
            </text>
          </g>
        ))}
      </g>
    </svg>
  );
}
