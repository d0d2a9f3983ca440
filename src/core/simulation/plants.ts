import type { Plan } from '../planning/plan';
import type { PlantKind } from '../procedures/procedure';
import { drainModel, dyeModel } from './drain-plant';
import { ductModel } from './duct-plant';
import { mainModel } from './main-plant';
import { pipingModel, refrigerantModel, vehicleWaterModel } from './piping-plant';
import type { PlantModel, Scenario } from './plant';
import { gasLineModel, meterSetModel, tankModel, vehicleModel } from './regulated-plants';
import { gasModel } from './scenarios';
import { heatingModel, houseWaterModel, poolModel, underfloorModel } from './water-plants';

const models: Readonly<Record<PlantKind, PlantModel>> = {
  gas: gasModel,
  piping: pipingModel,
  'meter set': meterSetModel,
  'propane vehicle': vehicleModel,
  'propane tank': tankModel,
  'gas line': gasLineModel,
  water: houseWaterModel,
  drain: drainModel,
  'vehicle water': vehicleWaterModel,
  heating: heatingModel,
  underfloor: underfloorModel,
  'water main': mainModel,
  refrigerant: refrigerantModel,
  pool: poolModel,
  dye: dyeModel,
  duct: ductModel,
};

/** Model of the plant that a plan is for. */
export const plantModel = ({ plant = 'gas' }: Pick<Plan, 'plant'>): PlantModel => models[plant];

/** The hidden faults that a simulation of a plan knows. */
export const scenariosFor = (plan: Pick<Plan, 'plant'>): readonly Scenario[] => plantModel(plan).scenarios;

export const scenarioFor = (plan: Pick<Plan, 'plant'>, id: string): Scenario | undefined =>
  scenariosFor(plan).find((scenario) => scenario.id === id);
