import { linesOf } from '../exact/lines';

/** Appliances as the register writes them, a line each: make, model and serial in any order. */

const tidy = (line: string): string => line.trim().replace(/\s+/g, ' ').toLowerCase();

/** What has changed on a system since it was last visited (DOMAIN 5.5). */
export interface ApplianceChanges {
  readonly added: readonly string[];
  readonly gone: readonly string[];
}

/** Lines that stand in one list and not in the other, whatever their case and spaces; a line that stands twice counts twice. */
export function compareAppliances(before: string, now: string): ApplianceChanges {
  const missing = (from: readonly string[], others: readonly string[]) => {
    const left = others.map(tidy);
    return from.filter((line) => {
      const place = left.indexOf(tidy(line));
      if (place >= 0) left.splice(place, 1);
      return place < 0;
    });
  };
  return { added: missing(linesOf(now), linesOf(before)), gone: missing(linesOf(before), linesOf(now)) };
}

/** The changes in words, or none. An appliance that was swapped is one gone and one added. */
export const changesInWords = ({ added, gone }: ApplianceChanges): readonly string[] => [
  ...(added.length === 0 ? [] : [`New since the last visit: ${added.map((one) => one.trim()).join('; ')}. Look at it as at new work.`]),
  ...(gone.length === 0
    ? []
    : [`There at the last visit and not now: ${gone.map((one) => one.trim()).join('; ')}. Its outlet must be capped.`]),
];
