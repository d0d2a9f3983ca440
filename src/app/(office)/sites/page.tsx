import type { Metadata } from 'next';
import { SitesScreen } from '@/features/sites/sites-screen';
import { pageActor } from '@/server/page';
import { listSites } from '@/server/sites';

export const metadata: Metadata = { title: 'Sites' };

export default async function SitesPage() {
  const sites = await listSites(await pageActor());
  return (
    <SitesScreen
      sites={sites.map(({ id, name, address, occupier, systems }) => ({
        id,
        name,
        address,
        occupier,
        systems: systems.map((system) => ({ id: system.id, name: system.name })),
      }))}
    />
  );
}
