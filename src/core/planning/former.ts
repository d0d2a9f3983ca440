import { canonical, type Json } from '../exact/canonical';
import { procedureById } from '../procedures';
import { figuresByVersion } from '../procedures/figures-by-version';
import type { Procedure } from '../procedures/procedure';
import { compare, decimal } from '../quantities';
import { inputOf, type Plan, planTest } from './plan';

/**
 * How a plan stands to what this build would plan from the same answers. A device may have planned before an upgrade, and its plan
 * is kept; what it asks for is held to the figures of the version that it names.
 */
export type Standing =
  | { readonly is: 'same' }
  /** Another build's words round the same steps, limits and figures. */
  | { readonly is: 'other words' }
  /** Looser than its version, or nothing that can be vouched for. */
  | { readonly is: 'differs'; readonly why: string };

/** Words for people; what a test demands lies in the rest. */
const words: ReadonlySet<string> = new Set([
  'title',
  'say',
  'text',
  'label',
  'cautions',
  'beyond',
  'what',
  'alsoAssumes',
  'alsoOutside',
  'working',
  'assumes',
  'outside',
  'blind',
]);

function withoutWords(value: unknown): Json {
  if (Array.isArray(value)) return value.map(withoutWords);
  if (typeof value !== 'object' || value === null) return value as Json;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([key, one]) => one !== undefined && !words.has(key))
      .map(([key, one]) => [key, withoutWords(one)]),
  );
}

/** What a plan demands of its test and claims for it, its figures beside. */
const demanded = [
  'phases',
  'conclusions',
  'boundaries',
  'limit',
  'highest',
  'judgedBy',
  'demand',
  'demands',
  'guard',
  'unit',
  'sight',
] as const satisfies readonly (keyof Plan)[];

/** All that a plan demands, without its words. */
const demandsOf = (plan: Plan): string =>
  canonical(
    withoutWords({
      ...Object.fromEntries(demanded.map((key) => [key, plan[key]])),
      figures: plan.figures.map(({ id, value, source }) => ({ id, value, source })),
    }),
  );

/** A procedure's own figures as a version had them, by id; undefined where that version is not known. */
export const figuresOf = (procedure: string, version: string): Readonly<Record<string, string>> | undefined =>
  figuresByVersion[procedure]?.[version];

/** The procedure with its figures as a version had them; undefined where that version is not known. */
function asOfVersion(procedure: Procedure, version: string): Procedure | undefined {
  const figures = figuresOf(procedure.id, version);
  if (figures === undefined) return undefined;
  return { ...procedure, version, figures: procedure.figures.map((figure) => ({ ...figure, value: figures[figure.id] ?? figure.value })) };
}

/** @param plan whose hash is its own */
export function standingOf(plan: Plan, on: string): Standing {
  const input = inputOf(plan, on);
  const again = planTest(input);
  if (again.ok && again.value.plan.hash === plan.hash) return { is: 'same' };
  const procedure = procedureById(plan.procedure.id);
  const former = procedure === undefined ? undefined : asOfVersion(procedure, plan.procedure.version);
  if (former === undefined)
    return { is: 'differs', why: `It follows “${plan.procedure.title}”, version ${plan.procedure.version}, which is not known here.` };
  const looser = former.figures.find((figure) => {
    const own = plan.figures.find(({ id }) => id === figure.id);
    // An own procedure goes as far as its figure's loosest.
    const least = own?.source === 'own procedure' ? (figure.loosest ?? figure.value) : figure.value;
    return own === undefined || (figure.stricter === 'higher' ? 1 : -1) * compare(decimal(own.value), decimal(least)) < 0;
  });
  if (looser !== undefined)
    return {
      is: 'differs',
      why: `${looser.label}: version ${plan.procedure.version} asks for ${looser.value} ${looser.unit}, and this plan is looser.`,
    };
  const then = planTest(input, former);
  return then.ok && demandsOf(then.value.plan) === demandsOf(plan)
    ? { is: 'other words' }
    : { is: 'differs', why: `Its steps and limits are not those that version ${plan.procedure.version} gives for its answers.` };
}
