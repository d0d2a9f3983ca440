/** What a record may hold: numbers are whole (times in ms, counts), everything measured is a decimal text. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json | undefined };

/**
 * Canonical form (RFC 8785): keys sorted by UTF-16 units, no spaces. Fractions are refused, since engines may print
 * them differently and a seal must not depend on that.
 * @throws RangeError for a number that is not a safe integer, TypeError for anything that is not JSON
 */
export function canonical(value: unknown): string {
  if (value === null || typeof value === 'boolean' || typeof value === 'string') return JSON.stringify(value);
  if (typeof value === 'number') {
    if (!Number.isSafeInteger(value)) throw new RangeError(`a record holds whole numbers only, not ${value}`);
    return JSON.stringify(value === 0 ? 0 : value);
  }
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value !== 'object') throw new TypeError(`a record cannot hold a ${typeof value}`);
  const entries = Object.entries(value).filter(([, item]) => item !== undefined);
  entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return `{${entries.map(([key, item]) => `${JSON.stringify(key)}:${canonical(item)}`).join(',')}}`;
}
