'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { object, string } from 'yup';
import { heading, input, subheading } from '@/ui/classes';
import { SimpleForm } from '@/ui/simple-form';

interface Listed {
  readonly id: string;
  readonly name: string;
  readonly address: string;
  readonly occupier: string;
  readonly systems: readonly { readonly id: string; readonly name: string }[];
}

const siteSchema = object({ name: string().trim().required('Name the site.'), address: string().trim().required('Give the address.') });

/** Sites with a search that answers as one types. */
export function SitesScreen({ sites }: { readonly sites: readonly Listed[] }) {
  const router = useRouter();
  const [query, setQuery] = useState('');
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const found = sites.filter(({ name, address, occupier, systems }) =>
    words.every((word) => `${name} ${address} ${occupier} ${systems.map((system) => system.name).join(' ')}`.toLowerCase().includes(word)),
  );
  return (
    <div className="space-y-6">
      <h1 className={heading}>Sites</h1>
      <label className="block max-w-xl">
        <span className="sr-only">Search sites and systems</span>
        <input
          type="search"
          className={`${input} text-lg`}
          placeholder="Search by name, address, occupier or system"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
        />
      </label>
      <ul className="divide-y divide-line border-y border-line">
        {found.map(({ id, name, address, occupier, systems }) => (
          <li key={id}>
            <Link
              href={`/sites/${id}`}
              className="grid min-h-16 items-center gap-x-6 gap-y-1 py-3 hover:bg-sunken sm:grid-cols-[14rem_1fr]"
            >
              <span>
                <b className="text-lg">{name}</b>
                <span className="block text-sm text-quiet">{occupier}</span>
              </span>
              <span>
                {address}
                <span className="block text-sm text-quiet">
                  {systems.length === 0 ? 'no systems yet' : systems.map((system) => system.name).join(' · ')}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="text-quiet">
          {sites.length === 0
            ? 'No sites yet. Add the first one below; then add its systems and plan a test.'
            : `Nothing fits “${query}”. Clear the search, or add the site below.`}
        </p>
      )}
      <details className="max-w-xl border-t border-line pt-4">
        <summary className={subheading}>Add a site</summary>
        <div className="mt-3">
          <SimpleForm<{ id: string }>
            route="POST /api/sites"
            submit="Add the site"
            schema={siteSchema}
            done={({ id }) => router.push(`/sites/${id}`)}
            fields={[
              { name: 'name', label: 'Name' },
              { name: 'address', label: 'Address' },
              { name: 'occupier', label: 'Occupier', help: 'Who uses the building; may stay empty.' },
            ]}
          />
        </div>
      </details>
    </div>
  );
}
