import Link from 'next/link';
import { facts, figurePairs, type Pair, type ProcedureView, type Shared, shared } from '@/core/library';
import { Page } from '@/features/frame/page';
import { link, subheading } from '@/ui/classes';
import { Beside } from './beside';
import { CourseDrawing } from './course-drawing';

/** Two procedures beside each other: their courses, and row by row where they differ. */
export function CompareScreen({
  first,
  second,
  all,
}: {
  readonly first: ProcedureView;
  readonly second: ProcedureView;
  readonly all: readonly { readonly id: string; readonly title: string }[];
}) {
  const rows = facts(first, second);
  const figures = figurePairs(first, second);
  const differing = [...rows, ...figures.both].filter(({ differs }) => differs).length;
  return (
    <Page
      title="Side by side"
      trail={
        <Link href="/procedures" className="underline">
          Procedures
        </Link>
      }
    >
      <div className="space-y-8">
        <div>
          <div className="mt-3 flex flex-wrap items-end gap-3">
            <Beside all={all} first={first.id} second={second.id} />
          </div>
          <p className="mt-3 text-quiet">
            {differing} rows differ; each is marked <DiffMark /> in the margin. What one of them alone has is marked with its side.
          </p>
        </div>
        <div className="grid gap-8 xl:grid-cols-2">
          {[first, second].map((view, index) => (
            <section key={view.id} aria-label={view.title} className="min-w-0">
              <h2 className={subheading}>
                <SideMark side={index === 0 ? 'first' : 'second'} />{' '}
                <Link href={`/procedures/${view.id}`} className={link}>
                  {view.title}
                </Link>
              </h2>
              <p className="mb-3 mt-1 text-quiet">{view.purpose}</p>
              {view.worked !== undefined && <CourseDrawing course={view.worked.course} title={view.title} />}
            </section>
          ))}
        </div>
        <Rows title="In a few words" rows={rows} first={first} second={second} />
        {figures.both.length > 0 && <Rows title="Figures that both have" rows={figures.both} first={first} second={second} />}
        <section aria-label="Figures of one alone">
          <h2 className={subheading}>Figures of one alone</h2>
          <div className="mt-2 grid gap-6 md:grid-cols-2">
            {[figures.onlyFirst, figures.onlySecond].map((texts, index) => (
              <ul key={index === 0 ? first.id : second.id} className="space-y-0.5">
                {texts.map((text) => (
                  <li key={text} className="flex gap-2">
                    <span className="shrink-0">
                      <SideMark side={index === 0 ? 'first' : 'second'} />
                    </span>
                    {text}
                  </li>
                ))}
                {texts.length === 0 && <li className="text-quiet">None.</li>}
              </ul>
            ))}
          </div>
        </section>
        <section aria-label="Why schools differ">
          <h2 className={subheading}>Where schools differ, and what is taken here</h2>
          <div className="mt-2 grid gap-6 md:grid-cols-2">
            {[first, second].map((view) => (
              <p key={view.id} className="max-w-prose">
                <b>{view.title}.</b> {view.guide.schools ?? 'No other school is known here.'}
              </p>
            ))}
          </div>
        </section>
        <Lists title="What it tells" items={shared(first.guide.tells, second.guide.tells)} />
        <Lists title="What it cannot tell" items={shared(first.guide.cannotTell, second.guide.cannotTell)} />
        <Lists title="Kit" items={shared(first.kit, second.kit)} />
        <Lists title="Cautions" items={shared(first.cautions, second.cautions)} />
      </div>
    </Page>
  );
}

/** A split block: the two halves do not meet. */
const DiffMark = () => (
  <svg viewBox="0 0 20 14" className="inline h-3.5" role="img" aria-label="differs">
    <path d="M1 2h8v4H1zM11 8h8v4h-8z" fill="var(--caution)" />
  </svg>
);

/** A block on its side of a joint; both sides for what is shared. */
function SideMark({ side }: { readonly side: Shared['in'] }) {
  const label = side === 'both' ? 'in both' : side === 'first' ? 'only in the first' : 'only in the second';
  return (
    <svg viewBox="0 0 22 12" className="inline h-3" role="img" aria-label={label}>
      <rect x="1" y="1" width="9" height="10" fill={side === 'second' ? 'none' : 'var(--action)'} stroke="var(--quiet)" />
      <rect x="12" y="1" width="9" height="10" fill={side === 'first' ? 'none' : 'var(--action)'} stroke="var(--quiet)" />
    </svg>
  );
}

function Rows({
  title,
  rows,
  first,
  second,
}: {
  readonly title: string;
  readonly rows: readonly Pair[];
  readonly first: ProcedureView;
  readonly second: ProcedureView;
}) {
  return (
    <section aria-label={title}>
      <h2 className={subheading}>{title}</h2>
      <div className="overflow-x-auto">
        <table className="mt-2 w-full min-w-[38rem] border-collapse text-left align-top">
          <thead>
            <tr className="border-b border-line text-sm text-quiet">
              <th className="w-6" aria-label="Differs" />
              <th className="w-48 py-1 pr-4 font-medium" scope="col">
                What
              </th>
              <th className="py-1 pr-4 font-medium" scope="col">
                {first.title}
              </th>
              <th className="py-1 font-medium" scope="col">
                {second.title}
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.label} className="border-b border-line/60 align-top">
                <td className="py-1.5">{row.differs && <DiffMark />}</td>
                <th scope="row" className="py-1.5 pr-4 font-normal text-quiet">
                  {row.label}
                </th>
                {[row.first, row.second].map((text, index) => (
                  <td
                    key={index === 0 ? first.id : second.id}
                    className={`whitespace-pre-line py-1.5 pr-4 ${row.differs ? 'font-medium' : 'text-quiet'}`}
                  >
                    {text === '' ? <span className="text-quiet">none of its own</span> : text}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Lists({ title, items }: { readonly title: string; readonly items: readonly Shared[] }) {
  return (
    <section aria-label={title}>
      <h2 className={subheading}>{title}</h2>
      <ul className="mt-2 gap-x-8 md:columns-2">
        {items.map(({ text, in: side }) => (
          <li key={text + side} className="mb-1 flex break-inside-avoid gap-2">
            <span className="shrink-0 pt-0.5">
              <SideMark side={side} />
            </span>
            <span className={side === 'both' ? 'text-quiet' : ''}>{text}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
