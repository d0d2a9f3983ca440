import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq } from 'drizzle-orm';
import { array, boolean, number, object, string } from 'yup';
import { firstSections, rowOf, type Section, sectionFaults, sectionsOf } from '@/core/locating';
import { type SystemKind, systemKinds } from '@/core/procedures';
import { parsePipeSchedule, parseVolume } from '@/core/sizing';
import { withFirm } from '@/db/connection';
import { site, system, test } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { checked } from './forms';

export type Site = typeof site.$inferSelect;
export type System = typeof system.$inferSelect;

const siteForm = object({
  name: string().trim().required('Name the site.').max(120, 'Keep the name under 120 characters.'),
  address: string().trim().required('Give the address.').max(300, 'Keep the address under 300 characters.'),
  occupier: string().trim().max(120, 'Keep the occupier under 120 characters.').default(''),
});

const systemForm = object({
  name: string().trim().required('Name the system, such as “Gas, flat 3”.').max(120, 'Keep the name under 120 characters.'),
  kind: string().oneOf(systemKinds, 'Choose what kind of system it is.').default('gas'),
  pipes: string().default('').max(20_000, 'The schedule is too long.'),
  statedVolume: string().trim().default('').max(40, 'Type a volume such as 12.5 L.'),
  components: string().default('').max(10_000, 'The list is too long.'),
});

export const listSites = (actor: Actor): Promise<readonly (Site & { systems: readonly System[] })[]> =>
  withFirm(actor.firmId, async (tx) => {
    const sites = await tx.select().from(site).orderBy(asc(site.name));
    const systems = await tx.select().from(system).orderBy(asc(system.name));
    return sites.map((one) => ({ ...one, systems: systems.filter(({ siteId }) => siteId === one.id) }));
  });

export async function readSite(
  actor: Actor,
  id: string,
): Promise<Answer<{ site: Site; systems: readonly System[]; tests: readonly (typeof test.$inferSelect)[] }>> {
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(site).where(eq(site.id, id));
    if (found === undefined) return notFound;
    const systems = await tx.select().from(system).where(eq(system.siteId, id)).orderBy(asc(system.name));
    const tests = await tx
      .select({ test })
      .from(test)
      .innerJoin(system, and(eq(system.id, test.systemId), eq(system.siteId, id)))
      .orderBy(desc(test.createdAt));
    return answer({ site: found, systems, tests: tests.map((row) => row.test) });
  });
}

export async function addSite(actor: Actor, form: unknown): Promise<Answer<Site>> {
  const refused = refusedTo(actor, 'edit sites');
  if (refused !== undefined) return refused;
  const input = await checked(siteForm, form);
  if (!input.ok) return input;
  return withFirm(actor.firmId, async (tx) => {
    const [made] = await tx
      .insert(site)
      .values({ id: randomUUID(), firmId: actor.firmId, createdAt: nowDate(), ...input.value })
      .returning();
    return answer(made);
  });
}

export interface NewSystem {
  readonly answers?: Record<string, string>;
  readonly sections?: readonly Section[];
}

export async function addSystem(actor: Actor, siteId: string, form: unknown, more: NewSystem = {}): Promise<Answer<System>> {
  const refused = refusedTo(actor, 'edit sites');
  if (refused !== undefined) return refused;
  if (!isUuid(siteId)) return notFound;
  const input = await checked(systemForm, form);
  if (!input.ok) return input;
  const { problems } = parsePipeSchedule(input.value.pipes);
  if (problems.length > 0) return refuse(400, problems[0].code, problems[0].message, 'pipes');
  if (input.value.statedVolume !== '') {
    const volume = parseVolume(input.value.statedVolume);
    if (!volume.ok) return refuse(400, volume.problem.code, volume.problem.message, 'statedVolume');
  }
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await tx.select({ id: site.id }).from(site).where(eq(site.id, siteId));
    if (owner === undefined) return notFound;
    const components = input.value.components
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    const [made] = await tx
      .insert(system)
      .values({
        id: randomUUID(),
        firmId: actor.firmId,
        siteId,
        kind: input.value.kind,
        name: input.value.name,
        pipes: input.value.pipes,
        statedVolume: input.value.statedVolume,
        answers: more.answers ?? {},
        sections: more.sections ?? firstSections(input.value.kind as SystemKind, components),
        components,
        createdAt: nowDate(),
      })
      .returning();
    return answer(made);
  });
}

const sectionsForm = object({
  sections: array()
    .of(
      object({
        id: string().required('A section has no mark of its own. Open the sections again.').max(80, 'A section’s mark is too long.'),
        parent: string(),
        name: string().default(''),
        joints: number(),
        age: number(),
        minutes: number(),
        hidden: boolean(),
      }),
    )
    .required('Send the sections.'),
});

/** A system's sections as somebody on site found them; the last that were sent stand. */
export async function writeSections(actor: Actor, systemId: string, sections: unknown): Promise<Answer<{ readonly sections: number }>> {
  const refused = refusedTo(actor, 'edit sites');
  if (refused !== undefined) return refused;
  if (!isUuid(systemId)) return notFound;
  const input = await checked(sectionsForm, { sections });
  if (!input.ok) return input;
  const rows = input.value.sections.map((one) => rowOf(one as Section));
  const [fault] = sectionFaults(rows);
  if (fault !== undefined) return refuse(400, 'sections', fault.message, fault.field);
  return withFirm(actor.firmId, async (tx) => {
    const changed = await tx
      .update(system)
      .set({ sections: sectionsOf(rows) })
      .where(eq(system.id, systemId))
      .returning({ id: system.id });
    return changed.length === 0 ? notFound : answer({ sections: rows.length });
  });
}
