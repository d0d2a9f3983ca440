import type { SystemKind } from '@/core/procedures';
import { exampleFor } from '@/core/simulation/examples.fixture';
import type { Kit, KitSystem } from '@/server/field';
import { person } from './field.fixture';

/* A kit for tests: systems as the examples of procedures describe them, and a van with what those read. */

export const systemOf = (kind: SystemKind, procedureId: string): KitSystem => {
  const { answers, pipes } = exampleFor(procedureId);
  return {
    id: `system-${procedureId}`,
    name: `System for ${procedureId}`,
    kind,
    sections: [],
    site: { id: 'site', name: 'Site', address: 'Quay Road' },
    pipes,
    statedVolume: '',
    answers,
  };
};

export const kitOf = (systems: readonly KitSystem[]): Kit => ({
  person,
  firm: { id: person.firmId, name: 'Firm', emergencyNumber: '' },
  systems,
  instruments: systems.flatMap(({ id }) => {
    const { gauge, instruments } = exampleFor(id.replace(/^system-/, '').replace(/^pool-2$/, 'pool-lines-pressure'));
    return [gauge, ...Object.values(instruments ?? {})];
  }),
  earlier: [],
  houseRules: [],
  ownProcedures: [],
  asOf: 1_795_000_000_000,
});
