import { setPriority } from 'node:os';

/**
 * Makes this thread give way to whoever answers people, where the machine has fewer cores than work: on Linux a thread has a priority
 * of its own. Elsewhere it would be the whole program's, and is left alone.
 */
export function giveWay(): void {
  if (process.platform === 'linux') setPriority(10);
}
