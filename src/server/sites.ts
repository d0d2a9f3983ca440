import { eq } from 'drizzle-orm';
import type { Thing } from '@/core/register';
import { withFirm } from '@/db/connection';
import { site, system, visit } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, notFound } from './answers';
import { componentsOf, thingsOf } from './things';

export type Site = Thing<'site'>;
export type System = Thing<'system'>;

/** Sites with their systems, but for what is put away. */
export const listSites = (actor: Actor): Promise<readonly (Site & { readonly systems: readonly System[] })[]> =>
  withFirm(actor.firmId, async (tx) => {
    const sites = await thingsOf(tx, 'site', eq(site.putAway, false));
    const systems = await thingsOf(tx, 'system', eq(system.putAway, false));
    return sites.map((one) => ({ ...one, systems: systems.filter(({ siteId }) => siteId === one.id) }));
  });

export interface WholeSite {
  readonly site: Site;
  readonly systems: readonly System[];
  readonly components: readonly Thing<'component'>[];
  readonly visits: readonly Thing<'visit'>[];
}

/** A site with all that belongs to it, also what is put away. */
export async function readSite(actor: Actor, id: string): Promise<Answer<WholeSite>> {
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await thingsOf(tx, 'site', eq(site.id, id));
    if (found === undefined) return notFound;
    const systems = await thingsOf(tx, 'system', eq(system.siteId, id));
    const components = await componentsOf(
      tx,
      systems.map((one) => one.id),
    );
    const visits = await thingsOf(tx, 'visit', eq(visit.siteId, id));
    return answer({ site: found, systems, components, visits });
  });
}
