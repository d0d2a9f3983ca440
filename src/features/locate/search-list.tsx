import { useState } from 'react';
import type { SearchLog, Section } from '@/core/locating';
import { unitLabel } from '@/core/quantities';
import { clockTime } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { WithdrawForm } from '@/features/run/withdraw-form';
import { Button } from '@/ui/button';
import { subheading } from '@/ui/classes';
import { nameOf } from './section-name';

/** What was looked at and isolated so far, the latest first. What was mistaken is withdrawn with a reason, and counts no more. */
export function SearchList({
  log,
  sections,
  mayWithdraw,
  write,
}: {
  readonly log: SearchLog;
  readonly sections: readonly Section[];
  readonly mayWithdraw: boolean;
  readonly write: OpenRun['write'];
}) {
  const [asking, setAsking] = useState<string>();
  const lines = [
    ...log.isolated.map((one) => ({
      id: one.id,
      at: one.at,
      text: `${nameOf(sections, one.section)} shut off${one.start === undefined ? '' : `: ${one.start} to ${one.end} ${unitLabel(one.unit ?? 'mbar')}`}`,
      result: one.stillLeaks ? 'still leaks: not in there' : 'holds: it is in there',
    })),
    ...log.looked.map((one) => ({
      id: one.id,
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
        {lines.map(({ id, at, text, result }) => (
          <li key={id} className="py-1.5">
            <div className="flex flex-wrap items-center justify-between gap-x-4">
              <span className="first-letter:uppercase">
                <span className="figures mr-2 text-sm text-quiet">{clockTime(at)}</span>
                {text}
              </span>
              <span className="flex items-center gap-3">
                <b>{result}</b>
                {asking !== id && (
                  <Button tone="bare" className="px-1 text-sm" disabled={!mayWithdraw} onClick={() => setAsking(id)}>
                    Withdraw…
                  </Button>
                )}
              </span>
            </div>
            {asking === id && <WithdrawForm id={id} write={write} close={() => setAsking(undefined)} />}
          </li>
        ))}
      </ul>
    </section>
  );
}
