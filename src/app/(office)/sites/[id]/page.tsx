import type { Metadata } from 'next';
import { twinsOf } from '@/core/register';
import { SiteView } from '@/features/sites/site-view';
import { historyOf } from '@/server/along';
import { listPeople } from '@/server/firms';
import { pageActor, valueOr404 } from '@/server/page';
import { listSites, readSite } from '@/server/sites';
import { listStandings } from '@/server/standing';
import { clashesOf } from '@/server/things';

export const metadata: Metadata = { title: 'Site' };

export default async function SitePage({ params }: { readonly params: Promise<{ id: string }> }) {
  const actor = await pageActor();
  const { site, systems, components, visits } = valueOr404(await readSite(actor, (await params).id));
  const [people, clashes, sites, tests] = await Promise.all([
    listPeople(actor.firmId),
    clashesOf(actor.firmId),
    listSites(actor),
    Promise.all(systems.map(({ id }) => listStandings(actor.firmId, 30, { systemId: id }))),
  ]);
  return (
    <SiteView
      data={{
        site,
        systems: systems.map((system, index) => ({
          system,
          components: components.filter(({ systemId }) => systemId === system.id),
          tests: tests[index].map((one) => historyOf(one, one.technician)),
        })),
        visits,
        people,
        clashes,
        twins: twinsOf(
          site,
          sites.map(({ systems: _, ...one }) => one),
        ),
      }}
    />
  );
}
