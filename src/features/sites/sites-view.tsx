'use client';

import { type ReactNode, useState } from 'react';
import type { Thing } from '@/core/register';
import { Page } from '@/features/frame/page';
import { To, useSource } from '@/features/frame/source';
import { siteFields } from '@/features/things/fields';
import { AddThing } from '@/features/things/thing-dialog';
import { Button } from '@/ui/button';
import { subheading } from '@/ui/classes';
import { SearchField } from '@/ui/search-field';

export interface ListedSite {
  readonly site: Pick<Thing<'site'>, 'id' | 'name' | 'address' | 'occupier'>;
  readonly systems: readonly string[];
}

/** Sites with a search that answers as one types. */
export function SitesView({
  words,
  search,
  found,
  total,
  beyond,
  signal,
}: {
  readonly words: string;
  readonly search: (words: string) => void;
  readonly found: readonly ListedSite[];
  /** How many there are, whatever is searched for. */
  readonly total: number;
  /** What else there is, beside those that are at hand. */
  readonly beyond?: ReactNode;
  readonly signal?: ReactNode;
}) {
  const [adding, setAdding] = useState(false);
  const { go, hrefOf } = useSource();
  return (
    <Page
      title="Sites"
      signal={signal}
      actions={
        <Button tone="quiet" shortcut="n" onClick={() => setAdding(true)}>
          Add a site
        </Button>
      }
    >
      <SearchField
        label="Search sites and systems"
        isLabelled={false}
        className="max-w-xl"
        placeholder="Search by name, address, occupier or system"
        words={words}
        maxLength={200}
        search={search}
      />
      <SiteRows sites={found} />
      {found.length === 0 && (
        <p className="mt-4 text-quiet">
          {total === 0
            ? 'No sites yet. Add the first one; then add its systems and plan a test.'
            : `Nothing here fits “${words}”. Clear the search, or add the site.`}
        </p>
      )}
      {beyond}
      {adding && (
        <AddThing
          kind="site"
          title="Add a site"
          fields={siteFields()}
          close={() => setAdding(false)}
          done={(site) => {
            if (!go({ at: 'site', site })) location.assign(hrefOf({ at: 'site', site }));
          }}
        />
      )}
    </Page>
  );
}

export const SiteRows = ({ sites, title }: { readonly sites: readonly ListedSite[]; readonly title?: string }) =>
  sites.length === 0 ? null : (
    <section className="mt-5">
      {title !== undefined && <h2 className={subheading}>{title}</h2>}
      <ul className="mt-1 divide-y divide-line border-y border-line">
        {sites.map(({ site, systems }) => (
          <li key={site.id}>
            <To
              place={{ at: 'site', site: site.id }}
              className="grid min-h-16 items-center gap-x-6 gap-y-1 py-3 hover:bg-sunken sm:grid-cols-[14rem_1fr]"
            >
              <span>
                <b className="text-lg">{site.name}</b>
                <span className="block text-sm text-quiet">{site.occupier}</span>
              </span>
              <span>
                {site.address}
                <span className="block text-sm text-quiet">{systems.length === 0 ? 'no systems yet' : systems.join(' · ')}</span>
              </span>
            </To>
          </li>
        ))}
      </ul>
    </section>
  );
