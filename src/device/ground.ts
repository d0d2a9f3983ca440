import type { TestVerdict } from '@/core/course';
import type { HouseRule, Variant } from '@/core/planning';
import { bareInstrument, componentText, fittedOn, type PlanStart, type Thing } from '@/core/register';
import type { AnyInstrument } from '@/core/sizing';
import type { Tables } from './store';

/** What a test was planned from, so that another can start there. */
export interface EarlierPlan extends PlanStart {
  readonly test: string;
  readonly systemId: string;
  readonly verdict: TestVerdict;
  readonly procedure: string;
}

/** A system with where it stands and what hangs on it. */
export type GroundSystem = Thing<'system'> & {
  readonly site: Thing<'site'>;
  readonly components: readonly Thing<'component'>[];
};

/** What plans of some systems are made on. */
export interface Ground {
  readonly systems: readonly GroundSystem[];
  readonly instruments: readonly AnyInstrument[];
  readonly equipment: readonly Thing<'equipment'>[];
  /** The latest first. */
  readonly earlier: readonly EarlierPlan[];
  readonly houseRules: readonly HouseRule[];
  readonly ownProcedures: readonly Variant[];
  /** When the register was read, by the server's clock. */
  readonly asOf: number;
}

/** Reads what plans of these systems need; the latest plan of each is where the next begins. */
export async function groundOf(store: Tables, systems: readonly Thing<'system'>[], on: string): Promise<Ground | undefined> {
  const facts = await store.facts.get('facts');
  if (facts === undefined) return undefined;
  const sites = new Map(
    (await store.sites.bulkGet(systems.map(({ siteId }) => siteId))).flatMap((site) => (site ? [[site.id, site]] : [])),
  );
  const components = await store.components
    .where('systemId')
    .anyOf(systems.map(({ id }) => id))
    .toArray();
  const histories = await store.histories
    .where('systemId')
    .anyOf(systems.map(({ id }) => id))
    .toArray();
  return {
    systems: systems.flatMap((system) => {
      const site = sites.get(system.siteId);
      const own = components.filter(({ systemId }) => systemId === system.id);
      return site === undefined ? [] : [{ ...system, site, components: fittedOn(own, on) }];
    }),
    instruments: (await store.instruments.toArray()).filter(({ putAway }) => !putAway).map(bareInstrument),
    equipment: (await store.equipment.toArray()).filter(({ putAway }) => !putAway),
    earlier: histories
      .flatMap(({ test, systemId, verdict, procedure, start, at }) =>
        procedure === undefined || start === undefined ? [] : [{ at, plan: { ...start, test, systemId, verdict, procedure } }],
      )
      .sort((a, b) => b.at - a.at)
      .map(({ plan }) => plan),
    houseRules: facts.houseRules,
    ownProcedures: facts.ownProcedures,
    asOf: facts.asOf,
  };
}

export const componentNames = ({ components }: GroundSystem): readonly string[] => components.map(componentText);
