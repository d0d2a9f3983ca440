import { bad, good, type PressureUnit, type Result, toSi, unitLabel } from '../quantities';

/** How far a regulator's outlet range may lie above the highest test pressure before it is set badly (DOMAIN 3.10). */
const widestRegulator = 2;

export interface RegulatorChoice {
  /** In words, where it would do but is not the best choice. */
  readonly advice?: string;
}

/**
 * Whether a cylinder's regulator suits a test: its outlet range must reach the highest test pressure and be no more than
 * about twice it (DOMAIN 3.10).
 * @param outlet end of its outlet range, and `highest`, both in `unit`
 * @returns `regulator-short` where it does not reach
 */
export function suitsRegulator(outlet: number, highest: number, unit: PressureUnit): Result<RegulatorChoice> {
  if (!(toSi(outlet, unit) >= toSi(highest, unit)))
    return bad(
      'regulator-short',
      `The regulator goes to ${outlet} ${unitLabel(unit)}; the test needs ${highest} ${unitLabel(unit)}. Take one that reaches it.`,
      'regulator',
    );
  return good(
    outlet > widestRegulator * highest
      ? {
          advice: `The regulator goes to ${outlet} ${unitLabel(unit)}, more than twice the test pressure of ${highest}: it is hard to set so low. One to about ${Number((highest * widestRegulator).toPrecision(2))} ${unitLabel(unit)} suits better.`,
        }
      : {},
  );
}
