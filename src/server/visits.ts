import { and, eq } from 'drizzle-orm';
import { bareInstrument, fittedOn } from '@/core/register';
import { withFirm } from '@/db/connection';
import { system } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, notFound } from './answers';
import { now } from './clock';
import { listPeople } from './firms';
import { knownInstruments } from './instruments';
import { listHouseRules, listOwnProcedures } from './rules';
import { listStandings } from './standing';
import { componentsOf, readThing, sitesOf, thingsOf } from './things';

/** A visit with what its plans are made on. */
export async function readVisit(actor: Actor, id: string) {
  const visit = await readThing(actor, 'visit', id);
  if (visit === undefined) return notFound;
  const [houseRules, ownProcedures, people] = await Promise.all([
    listHouseRules(actor.firmId),
    listOwnProcedures(actor.firmId),
    listPeople(actor.firmId),
  ]);
  const ground = await withFirm(actor.firmId, async (tx) => {
    const [site] = await sitesOf(tx, [visit.siteId]);
    const systems = await thingsOf(tx, 'system', and(eq(system.siteId, visit.siteId), eq(system.putAway, false)));
    const components = await componentsOf(
      tx,
      systems.map((one) => one.id),
    );
    return {
      systems: systems.map((one) => ({
        ...one,
        site,
        components: fittedOn(
          components.filter(({ systemId }) => systemId === one.id),
          visit.on,
        ),
      })),
      instruments: (await knownInstruments(tx)).filter(({ putAway }) => !putAway).map(bareInstrument),
      equipment: await thingsOf(tx, 'equipment'),
    };
  });
  const last = await Promise.all(ground.systems.map((one) => listStandings(actor.firmId, 1, { systemId: one.id })));
  return answer({
    visit,
    people: people.filter(({ role }) => role !== 'office'),
    ground: {
      ...ground,
      earlier: last
        .flat()
        .flatMap(({ testId, systemId, verdict, procedure, start }) =>
          procedure === null || start === null ? [] : [{ ...start, test: testId, systemId, verdict, procedure }],
        ),
      houseRules,
      ownProcedures,
      asOf: now(),
    },
  }) satisfies Answer<unknown>;
}
