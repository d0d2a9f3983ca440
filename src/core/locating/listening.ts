import type { RunEvent, SearchMethod } from '../judging/events';
import type { SystemKind } from '../procedures/procedure';
import { good, parseQuantity, type Result, toNumber, toSi } from '../quantities';

/* A leak under ground is heard before it is seen: spots along the route, each with how loud it is (DOMAIN 5.14). */

/** Kinds of system whose pipes are listened to along their route. */
export const listenedTo: readonly SystemKind[] = ['pool', 'water main', 'water', 'heating'];

/** How something is heard through the ground. */
export const listeningMethods = ['listening', 'ultrasound or tracer gas'] as const satisfies readonly SearchMethod[];

/** What is said before air is put into a line to listen: plugs stay in, and it stores far more than water does. */
export const airToListen =
  'Plugs stay in. Air only to listen, at 10 psi at most and never above the line’s own ceiling; compressor far away, diver clear.';

export interface Spot {
  readonly id: string;
  readonly section: string;
  /** How far along the route, as it was typed, and in metres. */
  readonly at: string;
  readonly metres: number;
  readonly loudness: number;
  readonly method: SearchMethod;
}

/** A place along the route as people write it, `12.5`, `41 ft`: in metres where no unit is said. */
export function readSpot(text: string): Result<number> {
  const typed = parseQuantity(text, 'length', 'm');
  return typed.ok ? good(toSi(toNumber(typed.value.value), typed.value.unit)) : typed;
}

/** Spots that stand, along the route. */
export function spotsOf(events: readonly RunEvent[]): readonly Spot[] {
  const gone = new Set(events.flatMap((event) => (event.type === 'withdrawn' ? [event.reading] : [])));
  return events
    .flatMap((event): Spot[] => {
      if (event.type !== 'heard' || gone.has(event.id)) return [];
      const metres = readSpot(event.at);
      const { id, section, at, loudness, method } = event;
      return metres.ok ? [{ id, section, at, metres: metres.value, loudness, method }] : [];
    })
    .sort((a, b) => a.metres - b.metres);
}

/** So near to each other two spots are the same place, m. */
const samePlaceM = 1;

/** The loudest place, and whether another method, or another look at it, says the same. */
export interface Loudest {
  readonly spot: Spot;
  /** Heard there by another method as well, or looked at there by one: the second witness before anything is broken out. */
  readonly witnessed: boolean;
}

/**
 * Where it is loudest. Sound runs along pipes and leaks out where the ground is thin: one witness is not enough to break anything out.
 * Undefined where nothing was heard.
 */
export function loudestOf(events: readonly RunEvent[]): Loudest | undefined {
  const spots = spotsOf(events).filter(({ loudness }) => loudness > 0);
  const spot = spots.reduce<Spot | undefined>((best, one) => (best === undefined || one.loudness > best.loudness ? one : best), undefined);
  if (spot === undefined) return undefined;
  const near = spots.filter((one) => one.section === spot.section && Math.abs(one.metres - spot.metres) <= samePlaceM);
  return { spot, witnessed: near.some(({ method }) => method !== spot.method) };
}
