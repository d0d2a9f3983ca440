import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Actor } from './actor';
import { endOf } from './auth';
import { now } from './clock';
import { setting } from './environment';

/*
 * What a device has taken along and worked on is taken whatever became of its session: its person may have been put away, or the
 * device revoked, before there was signal again. The key that it got with its register opens nothing but that: tests, their attempts,
 * their events and pictures, under that author, and written before the end.
 */

export const deliveryHeader = 'delivery-key';

const dayMs = 86_400_000;
/** A device that was without signal for longer is brought to the office. */
const daysGood = 180;

const sealed = (text: string): string => createHmac('sha256', setting('VAST_AUTH_SECRET')).update(`delivery ${text}`).digest('base64url');

/** @param device the known device of the session; a key without one ends with its person alone */
export function deliveryKey({ firmId, userId }: Actor, device: string | undefined): string {
  const said = [firmId, userId, device ?? '', Math.floor(now() / dayMs)].join('.');
  return `${said}.${sealed(said)}`;
}

/** Who delivers by that key, and until when what they wrote counts; undefined where the key is none of ours, or too old. */
export async function delivererOf(headers: Headers): Promise<Actor | undefined> {
  const key = headers.get(deliveryHeader);
  if (key === null || key.length > 400) return undefined;
  const parts = key.split('.');
  if (parts.length !== 5) return undefined;
  const [firmId, userId, device, day, seal] = parts;
  const [given, ours] = [Buffer.from(seal), Buffer.from(sealed([firmId, userId, device, day].join('.')))];
  if (given.length !== ours.length || !timingSafeEqual(given, ours)) return undefined;
  if (now() - Number(day) * dayMs > daysGood * dayMs) return undefined;
  return endOf(firmId, userId, device);
}
