import type { SearchMethod } from '../judging/events';
import type { SystemKind } from '../procedures/procedure';
import type { Section } from './sections';

export { type SearchMethod, searchMethods } from '../judging/events';

/** What a leak of a kind of system is looked for with, the usual first. */
export const methodsOf: Readonly<Record<SystemKind, readonly SearchMethod[]>> = {
  gas: ['bubbles', 'gas sniffer', 'ultrasound or tracer gas', 'dial'],
  propane: ['bubbles', 'gas sniffer', 'ultrasound or tracer gas'],
  water: ['looking', 'listening', 'bubbles', 'ultrasound or tracer gas', 'dial'],
  heating: ['looking', 'listening', 'bubbles', 'ultrasound or tracer gas'],
  drain: ['looking', 'smoke', 'dye', 'listening'],
  'water main': ['listening', 'looking', 'ultrasound or tracer gas'],
  refrigerant: ['bubbles', 'ultrasound or tracer gas', 'listening'],
  pool: ['dye', 'listening', 'looking', 'ultrasound or tracer gas'],
  duct: ['smoke', 'pressure pan', 'listening', 'looking'],
  component: ['bubbles', 'looking', 'listening', 'ultrasound or tracer gas'],
};

/** A section looked at, and what was seen. */
export interface Looked {
  readonly section: string;
  readonly method: SearchMethod;
  readonly leak: boolean;
}

/** A hold with a section and all that hangs on it shut off. */
export interface Isolated {
  readonly section: string;
  /** What was still connected fell all the same: the leak lies there. */
  readonly stillLeaks: boolean;
}

/** Share of the leaks that each method finds in a section that can be got at; the rest it misses. */
const finds: Readonly<Record<SearchMethod, number>> = {
  bubbles: 0.85,
  'gas sniffer': 0.8,
  dye: 0.8,
  listening: 0.5,
  'ultrasound or tracer gas': 0.7,
  smoke: 0.85,
  'pressure pan': 0.7,
  dial: 0.5,
  looking: 0.4,
};
/** Bubbles and smoke show nothing behind a wall; what is listened for or sniffed does. */
const throughWalls: ReadonlySet<SearchMethod> = new Set(['gas sniffer', 'listening', 'ultrasound or tracer gas']);

/** Chance that an isolation misled: its own valve passes, or the hold was too short. */
const misleads = 0.03;
/** Joints where nobody has counted. */
const usualJoints = 4;

/** How likely a leak is in a section before anything was looked at: its joints, its years, and whether anybody can see it. */
const priorOf = ({ joints = usualJoints, age = 0, hidden = false }: Section): number =>
  Math.max(0.1, joints) * (1 + age / 20) * (hidden ? 1.5 : 1);

/** A section and all that hangs on it, by id. */
export function subtree(sections: readonly Pick<Section, 'id' | 'parent'>[], id: string): ReadonlySet<string> {
  const inside = new Set([id]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const { id: own, parent } of sections)
      if (parent !== undefined && inside.has(parent) && !inside.has(own)) {
        inside.add(own);
        grown = true;
      }
  }
  return inside;
}

/**
 * Likelihood of the leak per section, adding up to 1, after what was looked at and isolated (DOMAIN 6). One leak is taken;
 * where there are two, the second comes to light in the whole test after the repair.
 */
export function likelihoods(
  sections: readonly Section[],
  looked: readonly Looked[],
  isolated: readonly Isolated[],
): ReadonlyMap<string, number> {
  const weights = new Map(sections.map((section) => [section.id, priorOf(section)]));
  const scale = (id: string, factor: number) => weights.set(id, (weights.get(id) ?? 0) * factor);
  for (const { section, method, leak } of looked) {
    const hidden = sections.find(({ id }) => id === section)?.hidden === true && !throughWalls.has(method);
    const found = hidden ? finds[method] * 0.2 : finds[method];
    if (leak) {
      for (const { id } of sections) if (id !== section) scale(id, 0.02);
    } else scale(section, 1 - found);
  }
  for (const { section, stillLeaks } of isolated) {
    const inside = subtree(sections, section);
    for (const { id } of sections) if (inside.has(id) === stillLeaks) scale(id, misleads);
  }
  const total = [...weights.values()].reduce((sum, weight) => sum + weight, 0);
  return new Map([...weights].map(([id, weight]) => [id, total > 0 ? weight / total : 1 / Math.max(1, sections.length)]));
}

/** Where a simulation hides its leak: by the same likelihoods, from a seed; never where the supply comes in. */
export function hiddenLeak(sections: readonly Section[], seed: number): string {
  const places = sections.filter(({ parent }) => parent !== undefined);
  const from = places.length > 0 ? places : sections;
  const total = from.reduce((sum, section) => sum + priorOf(section), 0);
  let left = ((seed >>> 0) / 2 ** 32) * total;
  for (const section of from) {
    left -= priorOf(section);
    if (left < 0) return section.id;
  }
  return from.at(-1)?.id ?? '';
}
