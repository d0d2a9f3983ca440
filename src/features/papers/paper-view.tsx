import { Fragment } from 'react';
import { type Block, tones as colours, type Drawing, type Paper } from '@/core/papers';
import { verdictShapes } from '@/core/record';

/* A paper as a page of the browser: the same blocks that the PDF draws, as headings, tables and figures. It is white in every theme, as paper is. */

type Of<K extends Block['kind']> = Extract<Block, { kind: K }>;
interface Around {
  /** Address of a picture by the hash of the paper's copy; none where only a file is at hand. */
  readonly picture: (hash: string) => string | undefined;
}

export function PaperView({ paper, picture }: { readonly paper: Paper } & Around) {
  const { firm, blocks, foot, language } = paper;
  return (
    <article
      lang={language}
      aria-label={paper.title}
      data-layout={paper.layout}
      className={`mx-auto w-full max-w-[54rem] border border-line bg-white text-[15px] leading-snug text-[#23282b] ${paper.size === 'roll' ? 'px-3 py-4' : 'px-5 py-6 sm:px-10 sm:py-9'}`}
    >
      <header className="mb-4 flex items-start gap-4">
        {firm.logo !== undefined && picture(firm.logo) !== undefined && (
          // biome-ignore lint/performance/noImgElement: a picture of the firm's own, of any size, from its own address
          <img src={picture(firm.logo)} alt={`Logo of ${firm.name}`} className="max-h-14 max-w-24" />
        )}
        <div>
          <p className="font-bold">{firm.name}</p>
          {firm.lines.map((line) => (
            <p key={line} className="text-[13px] text-[#575e62]">
              {line}
            </p>
          ))}
        </div>
      </header>
      {blocks.map((block, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a paper's blocks never change their places
        <Fragment key={index}>{shown(block, picture)}</Fragment>
      ))}
      <footer className="mt-8 border-t border-[#d5cfc1] pt-2 text-[12px] text-[#575e62]">{foot}</footer>
    </article>
  );
}

function shown(block: Block, picture: Around['picture']) {
  switch (block.kind) {
    case 'page':
      return <hr className="my-8 border-[#d5cfc1]" />;
    case 'title':
      return (
        <>
          <h2 className="text-2xl font-bold tracking-tight">{block.text}</h2>
          <p className="figures mb-3 text-[13px] text-[#575e62]">{block.under}</p>
        </>
      );
    case 'heading': {
      const Tag = block.rank === 2 ? 'h3' : 'h4';
      return <Tag className={block.level === 2 ? 'mb-1 mt-6 text-lg font-bold' : 'mb-0.5 mt-4 font-bold'}>{block.text}</Tag>;
    }
    case 'say':
      return <p className={tones[block.tone]}>{block.text}</p>;
    case 'list':
      return (
        <ul className="my-1 list-[square] pl-5">
          {block.items.map((item) => (
            <li key={item}>{item}</li>
          ))}
        </ul>
      );
    case 'verdict':
      return <Verdict block={block} />;
    case 'figures':
      return (
        <dl className="my-4 grid grid-cols-[repeat(auto-fit,minmax(8.5rem,1fr))] gap-x-6 border-t border-[#d5cfc1]">
          {block.figures.map(({ label, value, unit, beside }) => (
            <div key={label} className="py-2">
              <dt className="text-[13px] text-[#575e62]">{label}</dt>
              <dd>
                <span className="figures text-2xl font-semibold">{value}</span> <span className="figures">{unit}</span>
                {beside !== undefined && <span className="block text-[13px] text-[#575e62]">{beside}</span>}
              </dd>
            </div>
          ))}
        </dl>
      );
    case 'drawing':
      return (
        <figure className="my-4">
          <DrawingView drawing={block.drawing} says={block.says} />
          <figcaption className="text-[13px] text-[#575e62]">{block.caption}</figcaption>
        </figure>
      );
    case 'table':
      return <TableView block={block} />;
    case 'photographs':
      return (
        <ul className="my-3 grid grid-cols-2 gap-4 sm:grid-cols-3">
          {block.photographs.map(({ copy, label, taken }, index) => (
            <li key={`${copy ?? 'absent'} ${index.toString()}`}>
              {copy === undefined || picture(copy) === undefined ? (
                <p className="border border-dashed border-[#575e62] p-3 text-[13px]">{copy === undefined ? 'not here' : 'in the PDF'}</p>
              ) : (
                // biome-ignore lint/performance/noImgElement: from its own address, already small
                <img src={picture(copy)} alt={label} loading="lazy" className="w-full" />
              )}
              <p className="text-[13px]">{label}</p>
              <p className="figures text-[12px] text-[#575e62]">{taken}</p>
            </li>
          ))}
        </ul>
      );
    case 'signatures':
      return (
        <ul className="my-3 grid gap-6 sm:grid-cols-2">
          {block.signatures.map(({ role, said, strokes }) => (
            <li key={role} className="min-w-0">
              <Strokes strokes={strokes} says={`Signature: ${role}, ${said}`} />
              <p className="border-t border-[#575e62] pt-1 text-[13px]">
                {role}: {said}
              </p>
            </li>
          ))}
        </ul>
      );
    case 'seal':
      return (
        <dl className="figures my-2 text-[12px] text-[#575e62]">
          <div>
            <dt className="inline">Check at </dt>
            <dd className="inline break-all">{block.address}</dd>
          </div>
          {block.lines.map(({ label, value }) => (
            <div key={label}>
              <dt className="inline">{label} </dt>
              <dd className="inline break-all">{value}</dd>
            </div>
          ))}
        </dl>
      );
  }
}

const tones: Readonly<Record<Of<'say'>['tone'], string>> = {
  lead: 'mb-4 text-[17px]',
  plain: 'my-1',
  quiet: 'my-0.5 text-[13px] text-[#575e62]',
  caution: 'my-2 border-l-4 border-[#7a5200] pl-3 text-[#7a5200]',
  stop: 'my-2 border-l-4 border-[#8a2b1d] pl-3 font-bold text-[#8a2b1d]',
};

function Verdict({ block: { verdict, title, meaning } }: { readonly block: Of<'verdict'> }) {
  const { path, drawn } = verdictShapes[verdict];
  return (
    <div className="my-3 flex items-start gap-4">
      <svg width="44" height="44" viewBox="0 0 24 24" aria-hidden="true" className="mt-1 shrink-0">
        <path d={path} {...(drawn === 'filled' ? { fill: colours.ink } : { fill: 'none', stroke: colours.ink, strokeWidth: 2 })} />
      </svg>
      <div>
        <p className="text-3xl font-bold tracking-tight">{title}</p>
        <p className="text-[16px]">{meaning}</p>
      </div>
    </div>
  );
}

function TableView({ block: { caption, columns, rows } }: { readonly block: Of<'table'> }) {
  const whole = columns.reduce((sum, { share }) => sum + share, 0);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it is wider than its place, and is scrolled by keys too
    <section className="my-3 overflow-x-auto" aria-label={caption} tabIndex={0}>
      <table className="w-full min-w-[29rem] table-fixed border-collapse text-left text-[13px]">
        <caption className="sr-only">{caption}</caption>
        <colgroup>
          {columns.map(({ title, share }) => (
            <col key={title} style={{ width: `${(share / whole) * 100}%` }} />
          ))}
        </colgroup>
        <thead>
          <tr>
            {columns.map(({ title }) => (
              <th key={title} scope="col" className="border-b border-[#575e62] py-1 pr-2 font-bold text-[#575e62]">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a paper's rows never change their places
            <tr key={index} className="border-b border-[#d5cfc1] align-top">
              {row.map((cell, place) => (
                <td key={columns[place].title} className={`break-words py-1 pr-2 ${columns[place].figures === true ? 'figures' : ''}`}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const pairs = (points: readonly number[]): string =>
  points.reduce((text, value, index) => `${text}${index === 0 ? '' : index % 2 === 0 ? ' ' : ','}${value}`, '');

export function DrawingView({ drawing: { width, height, marks }, says }: { readonly drawing: Drawing; readonly says: string }) {
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={says} className="w-full">
      {marks.map((mark, index) => {
        const key = index.toString();
        switch (mark.do) {
          case 'line':
            return (
              <polyline
                key={key}
                points={pairs(mark.points)}
                fill="none"
                stroke={colours[mark.tone]}
                strokeWidth={mark.width}
                strokeLinejoin="round"
                strokeDasharray={mark.dashed === true ? '3 2' : undefined}
              />
            );
          case 'area':
            return <polygon key={key} points={pairs(mark.points)} fill={colours[mark.tone]} opacity={mark.opacity} />;
          case 'dot':
            return (
              <circle
                key={key}
                cx={mark.x}
                cy={mark.y}
                r={mark.radius}
                {...(mark.hollow === true ? { fill: 'none', stroke: colours[mark.tone], strokeWidth: 1.2 } : { fill: colours[mark.tone] })}
              />
            );
          case 'text':
            return (
              <text
                key={key}
                x={mark.x}
                y={mark.y}
                textAnchor={mark.anchor}
                fontSize={mark.size}
                fill={colours[mark.tone]}
                fontWeight={mark.strong === true ? 700 : undefined}
                className={mark.figures === true ? 'figures' : undefined}
              >
                {mark.text}
              </text>
            );
        }
        return null;
      })}
    </svg>
  );
}

function Strokes({ strokes, says }: { readonly strokes: readonly (readonly number[])[]; readonly says: string }) {
  const all = strokes.flat();
  if (all.length === 0) return <div className="h-16" />;
  const xs = all.filter((_, index) => index % 2 === 0);
  const ys = all.filter((_, index) => index % 2 === 1);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  const [wide, tall] = [Math.max(1, Math.max(...xs) - x), Math.max(1, Math.max(...ys) - y)];
  return (
    <svg
      viewBox={`${x - wide * 0.02} ${y - tall * 0.05} ${wide * 1.04} ${tall * 1.1}`}
      role="img"
      aria-label={says}
      className="h-16 max-w-full"
      preserveAspectRatio="xMinYMid meet"
    >
      {strokes.map((stroke, index) => (
        <polyline
          key={index.toString()}
          points={pairs(stroke)}
          fill="none"
          stroke={colours.ink}
          strokeWidth={1.4}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
