'use client';

import { useEffect, useState } from 'react';

/*
 * Whatever a page does not need for its first press is fetched after that press can be made: on a poor signal everything that is fetched
 * beside it comes in its way.
 */

let stands = false;
let told: () => void = () => undefined;
const standing = new Promise<void>((resolve) => {
  told = resolve;
});
const say = (): void => {
  stands = true;
  told();
};

/** Said by a screen that shows something to press. */
export function useFirstScreen(): void {
  useEffect(() => {
    if (stands) return;
    // Once it is drawn; a page in the background is not drawn at all.
    const frame = requestAnimationFrame(() => setTimeout(say));
    const anyway = setTimeout(say, 500);
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(anyway);
    };
  }, []);
}

/** Said where a screen is only mounted. */
export function FirstScreen(): null {
  useFirstScreen();
  return null;
}

/** Waits until a first screen stands, but no longer than this. */
export function firstScreen(mostMs: number): Promise<void> {
  if (!stands) setTimeout(say, mostMs);
  return standing;
}

/** Whether a first screen stands; from then on it always does. */
export function useAfterFirstScreen(): boolean {
  const [after, setAfter] = useState(stands);
  useEffect(() => {
    let live = true;
    if (!after) standing.then(() => live && setAfter(true));
    return () => {
      live = false;
    };
  }, [after]);
  return after;
}
