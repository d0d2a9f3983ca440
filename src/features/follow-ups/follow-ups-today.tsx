'use client';

import type { ShownFollowUp } from '@/core/register';
import { useToday } from '@/device/use-today';
import { subheading } from '@/ui/classes';
import { CalendarFeed } from './calendar-feed';
import { FollowUpList } from './follow-up-list';

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
        <FollowUpList followUps={followUps} today={today} after={after} />
      )}
      <CalendarFeed />
    </section>
  );
}
