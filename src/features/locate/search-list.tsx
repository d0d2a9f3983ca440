import type { searchLog } from '@/core/locating/search-log';
import type { Section } from '@/core/locating/sections';
import { unitLabel } from '@/core/quantities';
import { clockTime } from '@/features/run/use-now';
import { subheading } from '@/ui/classes';
import { nameOf } from './section-name';

/** What was looked at and isolated so far, the latest first. */
export function SearchList({ log, sections }: { readonly log: ReturnType<typeof searchLog>; readonly sections: readonly Section[] }) {
  const lines = [
    ...log.isolated.map((one) => ({
      at: one.at,
      text: `${nameOf(sections, one.section)} shut off${one.start === undefined ? '' : `: ${one.start} to ${one.end} ${unitLabel(one.unit ?? 'mbar')}`}`,
      result: one.stillLeaks ? 'still leaks: not in there' : 'holds: it is in there',
    })),
    ...log.looked.map((one) => ({
      at: one.at,
      text: `${nameOf(sections, one.section)}, ${one.method}${one.text === '' ? '' : `: ${one.text}`}`,
      result: one.leak ? 'leak' : 'nothing seen',
    })),
  ].sort((a, b) => b.at - a.at);
  if (lines.length === 0) return null;
  return (
    <section className="mt-5" aria-label="Search log">
      <h2 className={subheading}>Log of the search</h2>
      <ul className="mt-1 divide-y divide-line border-y border-line">
        {lines.map(({ at, text, result }) => (
          <li key={`${at}${text}`} className="flex flex-wrap justify-between gap-x-4 py-1.5">
            <span className="first-letter:uppercase">
              <span className="figures mr-2 text-sm text-quiet">{clockTime(at)}</span>
              {text}
            </span>
            <b>{result}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}
