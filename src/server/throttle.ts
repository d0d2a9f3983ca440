import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { RouteKey } from '@/core/permissions';
import { routeOf } from '@/core/permissions';

/* How often one client may ask, by route. Counted in this process: several processes allow as many times as much. */

const shared = globalThis as { __vastStoneThrottles?: Map<RouteKey, RateLimiterMemory> };

/** Seconds until this client may ask again; undefined where it may ask now. */
export async function mustWait(key: RouteKey, client: string): Promise<number | undefined> {
  shared.__vastStoneThrottles ??= new Map();
  let limiter = shared.__vastStoneThrottles.get(key);
  if (limiter === undefined) {
    limiter = new RateLimiterMemory({ points: routeOf(key).perMinute, duration: 60 });
    shared.__vastStoneThrottles.set(key, limiter);
  }
  try {
    await limiter.consume(client);
    return undefined;
  } catch (refused) {
    return Math.ceil(((refused as { msBeforeNext?: number }).msBeforeNext ?? 1000) / 1000);
  }
}

/** Put on by our own front, which takes off whatever a client sent under this name. */
export const clientHeader = 'x-vast-client';

/** Who asks where no account is needed: the address, as our front saw it. */
export const clientOf = (headers: Headers): string => headers.get(clientHeader) ?? 'unknown';
