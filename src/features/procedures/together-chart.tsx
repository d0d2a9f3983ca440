import Link from 'next/link';
import type { Together } from '@/core/library';
import { inSentence } from '@/core/record';
import { link, subheading } from '@/ui/classes';

/** Two tests done at once by one person: who is busy when, what waits, and when each alarm sounds. */
export function TogetherChart({ title, together }: { readonly title: string; readonly together: Together }) {
  const { day, alarms } = together;
  const share = (minute: number) => `${(100 * minute) / Math.max(1, day.minutes)}%`;
  const rows = [...day.tasks].sort((a, b) => a.startMinute - b.startMinute);
  return (
    <section aria-label="Done together">
      <h2 className={subheading}>
        Done together with{' '}
        <Link href={`/procedures/${together.id}`} className={link}>
          {inSentence(together.title)}
        </Link>
      </h2>
      <p>
        Side by side <b className="figures">{day.minutes}</b> min, one after the other <b className="figures">{day.oneByOne}</b> min. Alarms
        at {alarms.map(({ minute, task }) => `${minute} min (${task.toLowerCase()})`).join(', ')}.
      </p>
      <ol className="mt-2 space-y-1">
        {rows.map(({ test, task, startMinute, freeMinute, endMinute, supply }) => (
          <li key={test + task} className="grid grid-cols-[minmax(9rem,15rem)_1fr] items-center gap-3 text-sm">
            <span className={test === together.id ? 'text-quiet' : ''}>
              {task}
              {supply !== undefined && (
                <span className="text-quiet">
                  , {supply.of} {supply.state}
                </span>
              )}
            </span>
            <span className="relative block h-5 bg-sunken">
              <span
                className={`absolute inset-y-0 ${test === together.id ? 'bg-quiet' : 'bg-action'}`}
                style={{ left: share(startMinute), width: share(freeMinute - startMinute) }}
              />
              {endMinute > freeMinute && (
                <span
                  className={`absolute inset-y-1 border-y-2 border-r-2 ${test === together.id ? 'border-quiet' : 'border-action'}`}
                  style={{ left: share(freeMinute), width: share(endMinute - freeMinute) }}
                />
              )}
              <span className="sr-only">
                minute {startMinute} to {freeMinute} hands busy
                {endMinute > freeMinute && `, waiting to ${endMinute}`}
              </span>
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-sm text-quiet">
        Filled: hands busy. Open: waiting. {title} in green, {together.title.toLowerCase()} in grey.
      </p>
    </section>
  );
}
