import { staticHead } from '../physics/static-head';
import {
  bad,
  fromSi,
  good,
  type PressureUnit,
  type Problem,
  parseQuantity,
  pressureUnits,
  type Result,
  toNumber,
  toSi,
  unitLabel,
} from '../quantities';

/** What hangs on a system, with what it may see. */
export interface Component {
  readonly name: string;
  /** Highest permitted pressure, Pa gauge. */
  readonly ratingPa: number;
  /** Height above the test gauge, m; negative below it. */
  readonly heightM: number;
}

const number = String.raw`\d+(?:[.,]\d+)?(?:\s\d+/\d+)?`;
/** Name, rating with its unit of pressure, and the height where there is one. */
const componentLine = new RegExp(
  String.raw`^(.*?\S)\s+(${number}\s*(?:${[...pressureUnits, 'psig', 'barg', 'mb'].join('|')}))(?:\s+([+−-]?${number}\s*(?:m|ft)))?$`,
  'i',
);

/**
 * Reads a component as people type it: `Hydrant 16bar`, `Relief valve 150 psi -3m`, `Meter 0,5bar +2m`. The rating needs
 * its unit; the height above the gauge is left out where there is none.
 */
export function parseComponent(text: string): Result<Component> {
  const match = componentLine.exec(text.trim());
  const example = 'Type name and rating with its unit, and the height above the gauge where there is one: Hydrant 16bar -2m.';
  if (match === null) return bad('component-line', `“${text.trim()}” is not a component. ${example}`, 'components');
  const [, name, ratingText, heightText] = match;
  const rating = parseQuantity(ratingText, 'pressure', 'bar');
  if (!rating.ok) return bad('component-line', `“${text.trim()}”: ${rating.problem.message} ${example}`, 'components');
  const ratingPa = toSi(toNumber(rating.value.value), rating.value.unit);
  if (!(ratingPa > 0 && ratingPa <= 1e8)) return bad('component-rating', `“${name}”: a rating must be above zero.`, 'components');
  const height = heightText === undefined ? undefined : parseQuantity(heightText.replace(/^\+/, ''), 'length', 'm');
  if (height?.ok === false) return bad('component-line', `“${text.trim()}”: ${height.problem.message}`, 'components');
  const heightM = height === undefined ? 0 : toSi(toNumber(height.value.value), height.value.unit);
  return Math.abs(heightM) <= 1000
    ? good({ name, ratingPa, heightM })
    : bad('component-height', `“${name}”: a height must lie within 1000 m.`, 'components');
}

/** A list of components, a line each; every fault with its line number. */
export function parseComponents(text: string): { readonly components: readonly Component[]; readonly problems: readonly Problem[] } {
  const components: Component[] = [];
  const problems: Problem[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const component = parseComponent(line);
    if (component.ok) components.push(component.value);
    else problems.push({ ...component.problem, message: `Line ${index + 1}: ${component.problem.message}` });
  }
  return { components, problems };
}

/** What a component sees of a test pressure at the gauge, Pa: with water, more the lower it lies. */
export function seenBy({ heightM }: Component, gaugePa: number, filled: 'water' | 'gas'): number {
  const head = staticHead(heightM);
  return filled === 'gas' || !head.ok ? gaugePa : gaugePa - head.value;
}

/** The component with the least room above what it sees; undefined for an empty list. */
export function weakest(components: readonly Component[], gaugePa: number, filled: 'water' | 'gas'): Component | undefined {
  const room = (component: Component): number => component.ratingPa - seenBy(component, gaugePa, filled);
  return components.reduce<Component | undefined>(
    (least, one) => (least === undefined || room(one) < room(least) ? one : least),
    undefined,
  );
}

/** Stops a test pressure above what the weakest component may see; names it, and what to do instead. */
export function overRating(
  components: readonly Component[],
  gaugePa: number,
  filled: 'water' | 'gas',
  unit: PressureUnit,
): Problem | undefined {
  const least = weakest(components, gaugePa, filled);
  if (least === undefined) return undefined;
  const seen = seenBy(least, gaugePa, filled);
  // A thousandth of a unit forgives the binary fractions of a conversion, no reading.
  if (fromSi(seen - least.ratingPa, unit) <= 0.001) return undefined;
  const show = (pa: number): string => `${Number(fromSi(pa, unit).toFixed(2))} ${unitLabel(unit)}`;
  return {
    code: 'over-weakest',
    field: 'components',
    message: `${least.name} may see ${show(least.ratingPa)} and would see ${show(seen)}. Isolate or remove it, or test at ${show(gaugePa - (seen - least.ratingPa))} at most.`,
  };
}

/** Highest gauge pressure at which no component sees more than its rating, Pa; undefined for an empty list. */
export function mostAtGauge(components: readonly Component[], filled: 'water' | 'gas'): number | undefined {
  if (components.length === 0) return undefined;
  return Math.min(...components.map((component) => component.ratingPa - seenBy(component, 0, filled)));
}

/**
 * The band of a test pressure with its tolerance above, never over what the weakest part may see (DOMAIN 4.29): exactly its
 * rating is allowed, and the tolerance then lies wholly below. Figures in `unit` to so many decimals; the top is rounded down.
 * @param most a ceiling of the procedure's own, in `unit`
 */
export function bandUnderRating(
  test: number,
  tolerance: number,
  most: number,
  components: readonly Component[],
  filled: 'water' | 'gas',
  unit: PressureUnit,
  decimals: number,
): { readonly low: string; readonly high: string; readonly ceiling: string } {
  const allowed = mostAtGauge(components, filled);
  const ceiling = Math.min(most, allowed === undefined ? Number.POSITIVE_INFINITY : fromSi(allowed, unit));
  const step = 10 ** decimals;
  // A millionth forgives the binary fractions of a conversion, no reading.
  const down = (value: number): string => (Math.floor(value * step + 1e-6) / step).toFixed(decimals);
  const high = Math.min(test + tolerance, ceiling);
  const low = test + 1e-9 < ceiling ? Math.min(test, high) : ceiling - tolerance;
  return { low: low.toFixed(decimals), high: down(high), ceiling: down(ceiling) };
}
