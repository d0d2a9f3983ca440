'use client';

import { useEffect, useState } from 'react';

/* What is pressed must not move away under the finger: the press would be lost, or go to what has come in its place. */

let pressed = false;
const waiting = new Set<() => void>();

if (typeof window !== 'undefined') {
  window.addEventListener(
    'pointerdown',
    () => {
      pressed = true;
    },
    true,
  );
  for (const over of ['pointerup', 'pointercancel'] as const)
    window.addEventListener(
      over,
      () => {
        pressed = false;
        // The click that it was comes first.
        setTimeout(() => {
          for (const go of waiting) go();
          waiting.clear();
        });
      },
      true,
    );
}

/** A value that changes the layout by itself: while something is pressed it stays as it was. */
export function useUnpressed<T>(value: T): T {
  const [shown, setShown] = useState(value);
  useEffect(() => {
    const show = () => setShown(() => value);
    if (!pressed) return show();
    waiting.add(show);
    return () => void waiting.delete(show);
  }, [value]);
  return shown;
}
