import { termWords } from '../limits';
import { unitLabel } from '../quantities';
import type { Part } from './phases';

/**
 * What may move unnoticed beside the gauge's own step, where that is more than the movement that the limit calls a leak: then the test
 * says less than its limit does, and somebody should sharpen it before anything is connected. Undefined where it is not.
 */
export function bluntedBy({ what, terms, sure, alone, unit }: Part): string | undefined {
  const limit = terms.find((one) => one.what === 'limit');
  const others = terms.filter((one) => one.what !== 'limit' && one.what !== 'step' && one.what !== 'vessel');
  if (limit === undefined || others.reduce((sum, { amount }) => sum + Number(amount), 0) <= Number(limit.amount)) return undefined;
  const named = joined(others.map((one) => `${termWords[one.what]} ${one.amount}`));
  const passes = sure === undefined ? 'no leak is sure to be caught' : `a leak of up to ${sure} ${unitLabel(unit)} may pass`;
  return `In ${what}, what may move unnoticed (${named} ${unitLabel(limit.unit)}) is more than the limit itself, ${limit.amount}: ${alone === undefined && sure === undefined ? 'such a fall may pass' : passes}. Sharpen the test before anything is connected.`;
}

export interface SightWords {
  /** The two figures, each a clause. */
  readonly alone?: string;
  readonly sure: string;
  readonly assuming: string;
  readonly outside: string;
}

/** What a part's figures say, for screen, paper and terminal alike. */
export function sightWords({ alone, sure, blind, unit, assumes, outside }: Part): SightWords {
  const rate = (figure: string) => `${figure} ${unitLabel(unit)}`;
  return {
    ...(alone === undefined ? {} : { alone: `if nothing else moves, leaks from ${rate(alone)}` }),
    sure:
      sure !== undefined
        ? `sure of leaks above ${rate(sure)}; a smaller one may pass`
        : (blind ?? 'no rate can be given: nobody knows the volume, so that a movement under the limit has no litres'),
    assuming: assumes.length === 0 ? '' : `Sure as long as ${joined(assumes)}.`,
    outside: outside.length === 0 ? '' : `Outside it: ${joined(outside)}.`,
  };
}

/** A part as a plan has it, or as a test left it. */
export interface SeenPart extends Part {
  /** False where the test came to no answer in it: then it claims nothing. Absent in a plan. */
  readonly told?: boolean;
}

/** What stands in place of the figures of a part that came to no answer. */
export const untold = 'it was not tested to an answer, and nothing is claimed of it';

/** The figures of every part in whole sentences, for a paper or a terminal. */
export const sightSentences = (parts: readonly SeenPart[], says: string | undefined): readonly string[] => [
  ...parts.map((part) => {
    if (part.told === false) return `In ${part.what}: ${untold}.`;
    const { alone, sure, assuming, outside } = sightWords(part);
    const both = [sure, ...(alone === undefined ? [] : [alone])].join('; ');
    return [`In ${part.what}: ${both}.`, assuming, outside].filter((text) => text !== '').join(' ');
  }),
  ...(says === undefined ? [] : [says]),
];

/** Clauses as one: `a, b and c`. */
export const joined = (texts: readonly string[]): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} and ${texts.at(-1)}`;
