import { headers } from 'next/headers';
import { notFound as missing, redirect } from 'next/navigation';
import type { Actor } from './actor';
import type { Answer } from './answers';
import { currentActor } from './auth';

/** The signed-in person of a page; anyone else goes to sign-in. */
export async function pageActor(): Promise<Actor> {
  const actor = await currentActor(await headers());
  if (actor === undefined) redirect('/sign-in');
  return actor;
}

/** The value of an answer, or the 404 page: the same for what is absent and what is another firm's. */
export function valueOr404<T>(result: Answer<T>): T {
  if (!result.ok) missing();
  return result.value;
}
