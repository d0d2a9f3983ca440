import { type InstrumentUnit, quantityOf, type ReadQuantity } from '../quantities';
import type { AnyInstrument, Demand, Instrument } from '../sizing/gauge';
import type { HoldPhase, ZeroPhase } from './phases';

export { quantityOf } from '../quantities';

import type { PlanShape as Plan } from './plan-shape';

/** The instrument that plays a role in a plan; its gauge where no role is named. */
export const instrumentOf = ({ gauge, instruments }: Pick<Plan, 'gauge' | 'instruments'>, role?: string): Instrument =>
  (role === undefined ? undefined : instruments?.[role]) ?? gauge;

/** What the plan asks of a role's instrument; none where nothing is asked. */
export const demandOf = (plan: Plan, role?: string): Demand | undefined =>
  role === undefined ? { highest: plan.highest, limit: plan.limit, unit: plan.unit, ...plan.demand } : plan.demands?.[role];

/** Every instrument of a plan with its role; the gauge's role is undefined. */
export const instrumentsOf = (plan: Plan): readonly { readonly role?: string; readonly instrument: Instrument }[] => [
  { instrument: plan.gauge },
  ...Object.entries(plan.instruments ?? {}).map(([role, instrument]) => ({ role, instrument })),
];

/** What reads the weather, where the plan names it. */
export const weatherOf = ({
  weather,
}: Pick<Plan, 'weather'>): readonly { readonly label: string; readonly instrument: AnyInstrument }[] => [
  ...(weather?.thermometer === undefined ? [] : [{ label: 'Thermometer', instrument: weather.thermometer }]),
  ...(weather?.barometer === undefined ? [] : [{ label: 'Barometer', instrument: weather.barometer }]),
];

/** Unit of a hold's band and limits. */
export const unitOfHold = (plan: Pick<Plan, 'unit'>, { unit }: Pick<HoldPhase, 'unit'>): InstrumentUnit => unit ?? plan.unit;

/** What a hold or a zero reads. */
export const quantityRead = (plan: Pick<Plan, 'gauge' | 'instruments'>, phase: HoldPhase | ZeroPhase): ReadQuantity =>
  quantityOf(instrumentOf(plan, phase.instrument).unit);

/** The degrees of a trade: Fahrenheit beside psi and inches of water, else Celsius. */
export const degreesOf = (unit: InstrumentUnit): 'C' | 'F' => (unit === 'psi' || unit === 'inH2O' || unit === 'ftH2O' ? 'F' : 'C');

/** The degrees in which a pipe is read: those of the thermometer that the plan names, else the trade's. */
export function pipeDegrees({ weather, unit }: Pick<Plan, 'weather' | 'unit'>): 'C' | 'F' {
  const named = weather?.thermometer?.unit;
  return named === 'C' || named === 'F' ? named : degreesOf(unit);
}
