import type { Metadata } from 'next';
import { unitLabel } from '@/core/quantities';
import { TagForm } from '@/features/follow-ups/tag-form';
import { readTag } from '@/server/tags';
import { Notice } from '@/ui/notice';

export const metadata: Metadata = { title: 'Read the gauge', robots: { index: false }, referrer: 'no-referrer' };
export const dynamic = 'force-dynamic';

/** For whoever stands before a guard gauge with its tag in hand. */
export default async function TagPage({ params }: { readonly params: Promise<{ code: string }> }) {
  const { code } = await params;
  const tag = await readTag(code.toUpperCase());
  if (!tag.ok)
    return (
      <main className="mx-auto max-w-xl space-y-4 p-6">
        <h1 className="text-3xl font-semibold tracking-tight">No gauge has this tag</h1>
        <p>Look at the code on the tag again, or ring the firm whose name stands on it.</p>
      </main>
    );
  const { firm, firmNumber, system, site, ended, unit, readability, looks } = tag.value;
  const [left] = looks;
  return (
    <main className="mx-auto max-w-xl space-y-5 p-4 sm:p-6">
      <p className="text-quiet">{firm}</p>
      <h1 className="text-3xl font-semibold tracking-tight">Read the gauge</h1>
      <p>
        {system}, {site}.{' '}
        {left !== undefined && (
          <>
            It was left at{' '}
            <b className="figures">
              {left.value} {unitLabel(unit)}
            </b>{' '}
            on {left.day}.
          </>
        )}
      </p>
      {ended ? (
        <Notice>This gauge is not watched any more. Ask {firm} if you think that it should be.</Notice>
      ) : (
        <TagForm code={code.toUpperCase()} unit={unitLabel(unit)} readability={readability} firm={firm} number={firmNumber} />
      )}
      {looks.length > 1 && (
        <section aria-labelledby="looks">
          <h2 id="looks" className="font-semibold">
            Looks so far
          </h2>
          <ul className="mt-1 divide-y divide-line border-y border-line">
            {looks.slice(1).map(({ at, moment, value, alarm }) => (
              <li key={at} className="flex justify-between gap-4 py-1.5">
                <span className="figures">
                  {value} {unitLabel(unit)}
                </span>
                <span className={alarm ? 'font-semibold text-stop' : 'text-quiet'}>
                  {moment}: {alarm ? 'has fallen' : 'in order'}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
