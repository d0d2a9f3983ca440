'use client';

import { useState } from 'react';
import type { KeptClash } from '@/core/register';
import { useSource } from '@/features/frame/source';
import { Button } from '@/ui/button';
import { Fault } from '@/ui/fault';
import { momentText } from '@/ui/when';
import type { SiteData } from './site-view';

const fieldWords: Readonly<Record<string, string>> = {
  name: 'name',
  address: 'address',
  occupier: 'occupier',
  access: 'way in',
  pipes: 'pipe schedule',
  statedVolume: 'volume of the pipes',
  sections: 'sections',
  answers: 'answers',
  putAway: 'being put away',
  tests: 'tests',
  people: 'people',
  begins: 'beginning',
};

const shown = (value: unknown): string =>
  typeof value === 'string'
    ? `“${value}”`
    : typeof value === 'boolean'
      ? value
        ? 'put away'
        : 'in use'
      : Array.isArray(value)
        ? value.map((one) => (typeof one === 'object' && one !== null && 'name' in one ? String(one.name) : String(one))).join(', ') ||
          'none'
        : JSON.stringify(value);

/** What two people changed from the same beginning: both are kept, and whoever knows chooses. */
export function Clashes({ data }: { readonly data: SiteData }) {
  const things = new Map<string, { readonly name: string; readonly row: object }>([
    [data.site.id, { name: data.site.name, row: data.site }],
    ...data.visits.map((visit) => [visit.id, { name: `the visit on ${visit.on}`, row: visit }] as const),
    ...data.systems.flatMap(({ system, components }) => [
      [system.id, { name: system.name, row: system }] as const,
      ...components.map((one) => [one.id, { name: `${one.kind}, ${system.name}`, row: one }] as const),
    ]),
  ]);
  return data.clashes.map((clash) => {
    const thing = things.get(clash.of);
    return thing === undefined ? null : (
      <One
        key={clash.id}
        clash={clash}
        name={thing.name}
        stands={(thing.row as Record<string, unknown>)[clash.field]}
        author={data.people.find(({ id }) => id === clash.author)?.name ?? 'Somebody'}
      />
    );
  });
}

function One({
  clash,
  name,
  stands,
  author,
}: {
  readonly clash: KeptClash;
  readonly name: string;
  readonly stands: unknown;
  readonly author: string;
}) {
  const { settle } = useSource();
  const [fault, setFault] = useState<string>();
  const choose = async (choice: 'stands' | 'other') => setFault((await settle(clash.id, choice))?.message);
  return (
    <section className="border-l-4 border-caution bg-surface px-3 py-2" aria-label={`Two versions of ${name}`}>
      <p>
        <b>Changed twice.</b> Of {name} the {fieldWords[clash.field] ?? clash.field} stands as {shown(stands)}; {author} wrote{' '}
        {shown(clash.other)} ({momentText(clash.at)}), before that was known.
      </p>
      <div className="mt-1 flex flex-wrap gap-3">
        <Button tone="quiet" onClick={() => choose('stands')}>
          Leave it as it stands
        </Button>
        <Button tone="quiet" onClick={() => choose('other')}>
          Take what {author} wrote
        </Button>
      </div>
      <Fault of={fault} />
    </section>
  );
}
