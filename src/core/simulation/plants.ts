import type { PlantModel, Scenario } from '../plants/plant';
import { procedureById } from '../procedures';

/** A plan, or what names one procedure as it does. */
interface Of {
  readonly procedure: { readonly id: string };
}

/** What a plan is of: its procedure's plant. @throws RangeError for a procedure that this program does not know */
export function plantModel({ procedure }: Of): PlantModel {
  const found = procedureById(procedure.id);
  if (found === undefined) throw new RangeError(`no procedure ${procedure.id}`);
  return found.plant;
}

/** The hidden faults that a simulation of a plan knows. */
export const scenariosFor = (plan: Of): readonly Scenario[] => plantModel(plan).scenarios;

export const scenarioFor = (plan: Of, id: string): Scenario | undefined => scenariosFor(plan).find((scenario) => scenario.id === id);
