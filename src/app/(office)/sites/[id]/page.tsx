import type { Metadata } from 'next';
import { SiteScreen } from '@/features/sites/site-screen';
import { pageActor, valueOr404 } from '@/server/page';
import { readSite } from '@/server/sites';
import { listStandings } from '@/server/standing';

export const metadata: Metadata = { title: 'Site' };

export default async function SitePage({ params }: { readonly params: Promise<{ id: string }> }) {
  const actor = await pageActor();
  const { site, systems } = valueOr404(await readSite(actor, (await params).id));
  const tests = await Promise.all(
    systems.map(async (system) => ({ system, tests: await listStandings(actor.firmId, 30, { systemId: system.id }) })),
  );
  return <SiteScreen site={site} systems={tests} />;
}
