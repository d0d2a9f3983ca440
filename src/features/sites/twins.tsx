'use client';

import type { Thing } from '@/core/register';
import { To, useSource } from '@/features/frame/source';
import { useChanges } from '@/features/things/thing-dialog';
import { Button } from '@/ui/button';
import { link } from '@/ui/classes';

/** Sites that two people may have made of one: a person says whether they did. */
export function Twins({ site, twins }: { readonly site: Thing<'site'>; readonly twins: readonly Thing<'site'>[] }) {
  const keep = useChanges();
  const { go, hrefOf } = useSource();
  const there = (id: string) => {
    if (!go({ at: 'site', site: id })) location.assign(hrefOf({ at: 'site', site: id }));
  };
  return twins.map((twin) => (
    <section key={twin.id} className="border-l-4 border-caution bg-surface px-3 py-2" aria-label={`Looks like ${twin.name}`}>
      <p>
        <b>Made twice?</b>{' '}
        <To place={{ at: 'site', site: twin.id }} className={link}>
          {twin.name}, {twin.address}
        </To>{' '}
        looks like this site.
      </p>
      <div className="mt-1 flex flex-wrap gap-3">
        <Button
          tone="quiet"
          onClick={async () => {
            const problem = await keep(
              [{ thing: 'site', of: site.id, fields: { mergedInto: { was: '', is: twin.id }, putAway: { was: false, is: true } } }],
              `Put together with ${twin.name}`,
            );
            if (problem === undefined) there(twin.id);
          }}
        >
          It is the same: put this one into that
        </Button>
        <Button
          tone="quiet"
          onClick={() =>
            keep(
              [{ thing: 'site', of: site.id, fields: { apartFrom: { was: [...site.apartFrom], is: [...site.apartFrom, twin.id] } } }],
              'They are two sites',
            )
          }
        >
          They are two
        </Button>
      </div>
    </section>
  ));
}
