'use client';

import type { ShownFollowUp } from '@/core/register';
import { useToday } from '@/device/use-today';
import { subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { CalendarFeed } from './calendar-feed';
import { FollowUpList } from './follow-up-list';

/** So many are a day’s work; the rest is folded. */
const shown = 5;

/** What is still to be done after tests, the one that is due first first. */
export function FollowUpsToday({ followUps, after }: { readonly followUps: readonly ShownFollowUp[]; readonly after?: () => void }) {
  const today = useToday();
  return (
    <section aria-labelledby="follow-ups">
      <h2 id="follow-ups" className={subheading}>
        Follow-ups
      </h2>
      {followUps.length === 0 ? (
        <p className="mt-1 text-quiet">
          None is open. A failed or restricted test makes one when it is sealed; more are added on its certificate.
        </p>
      ) : (
        <>
          <FollowUpList followUps={followUps.slice(0, shown)} today={today} after={after} />
          {followUps.length > shown && (
            <Disclosure look="min-h-11 py-2 font-medium" title={`${followUps.length - shown} more, due later`}>
              <FollowUpList followUps={followUps.slice(shown)} today={today} after={after} />
            </Disclosure>
          )}
        </>
      )}
      <CalendarFeed />
    </section>
  );
}
