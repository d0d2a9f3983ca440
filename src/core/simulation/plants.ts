import type { Plan } from '../planning/plan';
import type { PlantKind } from '../procedures/procedure';
import { ductModel } from './duct-plant';
import { mainModel } from './main-plant';
import { pipingModel } from './piping-plant';
import type { PlantModel, Scenario } from './plant';
import { gasModel } from './scenarios';

const models: Readonly<Record<PlantKind, PlantModel>> = { gas: gasModel, piping: pipingModel, 'water main': mainModel, duct: ductModel };

/** Model of the plant that a plan is for. */
export const plantModel = ({ plant = 'gas' }: Pick<Plan, 'plant'>): PlantModel => models[plant];

/** The hidden faults that a simulation of a plan knows. */
export const scenariosFor = (plan: Pick<Plan, 'plant'>): readonly Scenario[] => plantModel(plan).scenarios;

export const scenarioFor = (plan: Pick<Plan, 'plant'>, id: string): Scenario | undefined =>
  scenariosFor(plan).find((scenario) => scenario.id === id);
