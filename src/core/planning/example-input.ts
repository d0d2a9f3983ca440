import type { Procedure } from '../procedures/procedure';
import type { PlanInput } from './plan';

/** A procedure's example as the input of a plan, on a local date, YYYY-MM-DD. */
export const exampleInput = ({ id, parameters, example }: Procedure, on: string): PlanInput => ({
  procedure: id,
  answers: { ...Object.fromEntries(parameters.map((parameter) => [parameter.id, parameter.usual])), ...example.answers },
  pipes: example.pipes,
  statedVolume: '',
  houseRules: [],
  on,
  gauge: example.gauge,
  instruments: example.instruments,
});
