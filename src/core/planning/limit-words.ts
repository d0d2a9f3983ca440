import type { Criterion, MeasureCriterion } from '../procedures/phases';
import { unitLabel } from '../quantities';

/* What decides a phase, in a sentence: on the plan's sheet and on a procedure's page. */

export function holdRule(criterion: Criterion, unit: string): string {
  switch (criterion.kind) {
    case 'wait':
      return 'Only time passes.';
    case 'no-rise':
      return `No rise: ${criterion.threshold} ${unit} or more counts.`;
    case 'no-fall':
      return criterion.permitted === undefined
        ? `No fall: ${criterion.threshold} ${unit} or more counts.`
        : `A fall from ${criterion.threshold} up to and including ${criterion.permitted} ${unit} is permitted; more counts.`;
    case 'at-most':
      return `Never above ${criterion.limit} ${unit}${criterion.creep === undefined ? '' : `, and no creep of ${criterion.creep} ${unit}`}.`;
    case 'keep':
      return criterion.within === undefined
        ? 'A later phase decides.'
        : `It may fall by at most ${criterion.within} ${unit}; a later phase decides.`;
    case 'leak-rate':
      return bandsText(criterion.bands, criterion.beyond, 'L/h');
    case 'dial':
      return `The dial must not move: ${criterion.threshold} turn counts.`;
  }
}

function bandsText(steps: readonly { readonly below: string; readonly outcome: string }[], beyond: string, unit: string): string {
  const words = steps.map(
    ({ below, outcome }, index) => `${index === 0 ? 'Under' : 'under'} ${below} ${unit} ${outcome.replaceAll('-', ' ')}`,
  );
  return `${[...words, `from there ${beyond.replaceAll('-', ' ')}`].join(', ')}.`;
}

export function measureRule(criterion: MeasureCriterion): string {
  switch (criterion.kind) {
    case 'recorded':
      return 'Written down; decides nothing.';
    case 'in-bands':
      return bandsText(criterion.bands.steps, criterion.bands.beyond, unitLabel(criterion.unit));
    case 'air-at-most':
      return `Trapped air at most ${Number(criterion.most) * 100} % by volume, from the water that the rise takes.`;
    case 'flow-at-most':
      return `At most ${criterion.limit} ${unitLabel(criterion.unit)} at ${criterion.reference} Pa.`;
    case 'make-up-at-most':
      return 'No more water made up than is allowed for length, bore and time.';
  }
}
