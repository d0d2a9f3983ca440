import type { SystemKind } from '@/core/procedures';
import { blank } from '@/core/register';
import { exampleFor } from '@/core/simulation/examples.fixture';
import type { Ground, GroundSystem } from './ground';

/* What plans are made on, for tests: systems as the examples of procedures describe them, and a van with what those read. */

export const systemOf = (kind: SystemKind, procedureId: string): GroundSystem => {
  const { answers, pipes } = exampleFor(procedureId);
  const site = { ...blank.site, id: 'site', version: 1, name: 'Site', address: 'Quay Road' };
  return {
    ...blank.system,
    id: `system-${procedureId}`,
    version: 1,
    siteId: site.id,
    name: `System for ${procedureId}`,
    kind,
    site,
    components: [],
    pipes,
    answers,
  };
};

export const groundOf = (systems: readonly GroundSystem[]): Ground => ({
  systems,
  instruments: systems.flatMap(({ id }) => {
    const { gauge, instruments } = exampleFor(id.replace(/^system-/, '').replace(/^pool-2$/, 'pool-lines-pressure'));
    return [gauge, ...Object.values(instruments ?? {})];
  }),
  equipment: [],
  earlier: [],
  houseRules: [],
  ownProcedures: [],
  asOf: 1_795_000_000_000,
});
