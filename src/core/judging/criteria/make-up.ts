import { mainAllowance, meanPressure } from '../../physics/main-allowance';
import { instrumentOf } from '../../planning/instruments';
import type { MeasureCriterion } from '../../procedures/phases';
import { add, compareQuantities, decimal, fromNumber, fromSi, readDecimal, round, toSi, toText, unitLabel } from '../../quantities';
import { finding } from '../reasons';
import type { Found, MeasureContext } from './point';

type MakeUp = Extract<MeasureCriterion, { kind: 'make-up-at-most' }>;

/**
 * Make-up of a water main against its allowance (DOMAIN 3.8, 5.12): what was drawn into the vessel afterwards and what was
 * pumped back during the hold. The mean pressure is that of the start and the lowest reading; the time is the planned one,
 * which is the stricter where the end came late. The allowance is rounded down, never in the main's favour.
 */
export function makeUpAtMost({ phase, plan, log, points, holds, withdrawn }: MeasureContext, criterion: MakeUp): Found {
  const hold = holds.get(criterion.hold);
  const instrument = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'volume')?.instrument);
  const drawn = points[0]?.values.get('volume');
  const base = { title: phase.title, unit: unitLabel(criterion.unit) };
  const { start, lowest } = hold?.data ?? {};
  const nothing = (): Found => ({
    outcome: 'unclear',
    spoilt: true,
    findings: [finding('make-up-unclear', base, phase.id)],
    working: [],
    data: base,
  });
  if (start === undefined || lowest === undefined || drawn === undefined) return nothing();

  const pumped = log
    .inRound('reading', criterion.hold)
    .filter(({ id, quantity, unit }) => quantity === 'volume' && unit === instrument.unit && !withdrawn.has(id))
    .reduce((sum, { value }) => add(sum, readDecimal(value) ?? decimal('0')), decimal('0'));
  const total = add(drawn.value, pumped);
  const meanPa = meanPressure(toSi(Number(start), plan.gauge.unit), toSi(Number(lowest), plan.gauge.unit));
  const rate = mainAllowance({
    material: criterion.material,
    lengthM: Number(criterion.lengthM),
    diameterM: Number(criterion.diameterM),
    meanPa,
  });
  // A fraction of a millionth on top takes back what binary fractions lose, before rounding down to a thousandth.
  const exact = rate.ok ? fromNumber(fromSi(rate.value * criterion.seconds, criterion.unit) + 1e-9, 9) : undefined;
  if (exact === undefined) return nothing();
  const allowed = round(exact, 3, 'down');
  const within = compareQuantities(total, drawn.unit, allowed, criterion.unit) <= 0;
  const mean = fromSi(meanPa, plan.unit).toFixed(1);
  const data = {
    ...base,
    made: toText(total),
    madeUnit: unitLabel(drawn.unit),
    allowed: toText(allowed),
    mean,
    pressureUnit: unitLabel(plan.unit),
    hours: String(criterion.seconds / 3600),
    start,
    lowest,
  };
  const working = [
    `Mean of ${start} and ${lowest} ${unitLabel(plan.gauge.unit)}: ${mean} ${data.pressureUnit}`,
    `Allowance for ${criterion.lengthM} m of ${(Number(criterion.diameterM) * 1000).toFixed(1)} mm in ${data.hours} h: ${data.allowed} ${base.unit}`,
    `Drawn ${toText(drawn.value)}, pumped back during the hold ${toText(pumped)}: ${data.made} ${data.madeUnit}`,
  ];
  return { outcome: within ? 'within' : 'over', spoilt: false, findings: [], working, data };
}
