'use client';

import Link from 'next/link';
import { useMemo, useState } from 'react';
import { finds } from '@/core/library';
import { Page } from '@/features/frame/page';
import type { LibraryEntry } from '@/server/library';
import { link, quietButton, subheading } from '@/ui/classes';
import { SearchField } from '@/ui/search-field';

const kindTitles: Readonly<Record<string, string>> = {
  gas: 'Gas',
  propane: 'Propane',
  water: 'Water',
  drain: 'Drains',
  heating: 'Heating and hot water',
  'water main': 'Water mains',
  refrigerant: 'Refrigerant',
  pool: 'Pools and spas',
  duct: 'Ducts',
  component: 'Single parts',
};

/** The library: every procedure by the kind of system it is for, found as one types, two of them put side by side. */
export function LibraryScreen({ entries, asked = '' }: { readonly entries: readonly LibraryEntry[]; readonly asked?: string }) {
  const [search, setSearch] = useState(asked);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const found = useMemo(() => entries.filter(({ words }) => search.trim() === '' || finds(words, search.trim())), [entries, search]);
  const kinds = [...new Set(found.map(({ view }) => view.kinds[0]))];
  const pick = (id: string) => setPicked((last) => (last.includes(id) ? last.filter((one) => one !== id) : [...last.slice(-1), id]));
  return (
    <Page
      title="Procedures"
      line="How each test is done here, in what order, what decides it, and what it cannot tell. Local code, the maker’s instructions and licensed practice come first."
    >
      <div className="space-y-6">
        <div className="flex flex-wrap items-end gap-3">
          <SearchField
            label="Search"
            className="min-w-64 flex-1 sm:max-w-md"
            placeholder="manifold, let-by, 14.3, plug…"
            words={search}
            search={setSearch}
          />
          <p className="pb-2 text-sm text-quiet" aria-live="polite">
            {found.length === entries.length ? `${entries.length} procedures` : `${found.length} of ${entries.length}`}
          </p>
        </div>
        {picked.length > 0 && (
          <div className="slab sticky top-2 z-[5] flex flex-wrap items-center gap-3 px-4 py-2" role="status">
            <span>
              {picked.length === 1
                ? 'Tick a second one to put them side by side.'
                : picked.map((id) => titleOf(entries, id)).join(' beside ')}
            </span>
            {picked.length === 2 && (
              <Link href={`/procedures/compare?first=${picked[0]}&second=${picked[1]}`} className={quietButton}>
                Put side by side
              </Link>
            )}
          </div>
        )}
        {found.length === 0 && (
          <p className="text-quiet">
            Nothing here has all of these words. Try fewer, or a word of the trade: a part, a pressure, what goes wrong.
          </p>
        )}
        {kinds.map((kind) => (
          <section
            key={kind}
            aria-label={kindTitles[kind] ?? kind}
            className="grid gap-x-8 gap-y-1 border-t border-line pt-3 md:grid-cols-[9rem_1fr]"
          >
            <h2 className={subheading}>{kindTitles[kind] ?? kind}</h2>
            <ul className="divide-y divide-line">
              {found
                .filter(({ view }) => view.kinds[0] === kind)
                .map(({ view, houseRules, own }) => (
                  <li key={view.id} className="flex gap-4 py-3 first:pt-0">
                    <div className="min-w-0 flex-1">
                      <Link href={`/procedures/${view.id}`} className={`${link} text-lg`}>
                        {view.title}
                      </Link>
                      <span className="text-quiet"> · {view.school}</span>
                      <p className="max-w-prose leading-snug">{view.purpose}</p>
                      <p className="mt-0.5 text-sm text-quiet">
                        <span className="figures">{view.activeMinutes}</span> min hands,{' '}
                        <span className="figures">{view.passiveMinutes}</span> min waiting
                        {view.kinds.length > 1 && ` · also for ${view.kinds.slice(1).join(', ')}`}
                        {houseRules > 0 && ` · ${houseRules} house rule${houseRules === 1 ? '' : 's'}`}
                        {own.map(({ id, title, version }) => (
                          <span key={id}>
                            {' '}
                            · own: <b className="font-medium text-ink">{title}</b>, version {version}
                          </span>
                        ))}
                      </p>
                    </div>
                    <label className="flex min-h-11 shrink-0 items-center gap-2 self-start text-sm text-quiet">
                      <input
                        type="checkbox"
                        className="size-5 accent-(--action)"
                        checked={picked.includes(view.id)}
                        onChange={() => pick(view.id)}
                        aria-label={`Compare ${view.title}`}
                      />
                      <span className="hidden sm:inline">Compare</span>
                    </label>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </Page>
  );
}

const titleOf = (entries: readonly LibraryEntry[], id: string): string => entries.find(({ view }) => view.id === id)?.view.title ?? id;
