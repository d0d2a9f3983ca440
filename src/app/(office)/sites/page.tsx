import type { Metadata } from 'next';
import { SitesOffice } from '@/features/sites/sites-office';
import { pageActor } from '@/server/page';
import { listSites } from '@/server/sites';

export const metadata: Metadata = { title: 'Sites' };

export default async function SitesPage() {
  const sites = await listSites(await pageActor());
  return (
    <SitesOffice
      sites={sites.map(({ id, name, address, occupier, systems }) => ({
        site: { id, name, address, occupier },
        systems: systems.map((system) => system.name),
      }))}
    />
  );
}
