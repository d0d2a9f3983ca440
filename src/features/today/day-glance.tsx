'use client';

import { useEffect, useState } from 'react';
import { dateText } from '@/core/judging';
import { sideBySide } from '@/core/planning';
import { DayChart } from '@/features/day/day-chart';
import { type DayPlan, dayTests, readDay } from '@/features/day/day-plan';
import { now, offsetMinutes } from '@/features/field/clock';
import { takeAlong } from '@/features/field/take-along';
import type { Kit } from '@/server/field';
import { link, subheading } from '@/ui/classes';

interface Glance {
  readonly siteId: string;
  readonly site: string;
  readonly day: DayPlan;
}

/** The days that were laid out on this device for today, as time charts. */
export function DayGlance({ sites }: { readonly sites: readonly { readonly id: string; readonly name: string }[] }) {
  const [kit, setKit] = useState<Kit>();
  const [days, setDays] = useState<readonly Glance[]>([]);
  useEffect(() => {
    const on = dateText(now() + offsetMinutes() * 60_000);
    const found = sites
      .map(({ id, name }) => ({ siteId: id, site: name, day: readDay(id, on) }))
      .filter(({ day }) => day.entries.length > 0);
    setDays(found);
    if (found.length > 0) takeAlong().then(setKit);
  }, [sites]);
  if (days.length === 0) return null;
  return (
    <section aria-labelledby="day">
      <h2 id="day" className={subheading}>
        The day
      </h2>
      {days.map(({ siteId, site, day }) => {
        const tests = kit === undefined ? [] : dayTests(kit, day.entries, day.on);
        const laid =
          tests.length === 0
            ? undefined
            : sideBySide(tests, { people: day.people, ...(day.ordered ? { order: tests.map(({ id }) => id) } : {}) });
        return (
          <div key={siteId} className="mt-2">
            <p className="flex flex-wrap justify-between gap-3">
              <b>{site}</b>
              <a className={link} href={`/field?day=${siteId}`}>
                Change the day
              </a>
            </p>
            {laid !== undefined && <DayChart day={laid} tests={tests} startAt={day.startAt ?? now()} />}
          </div>
        );
      })}
    </section>
  );
}
