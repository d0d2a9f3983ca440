'use client';

import { useLayoutEffect, useRef } from 'react';

/** Single keys of a screen; never while someone types, or a dialog, a list or a menu is open. With the paint: whoever sees the screen can press at once. */
function useKeys(take: (key: string) => boolean): void {
  const latest = useRef(take);
  latest.current = take;
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const target = event.target as HTMLElement;
      if (target.closest('input, textarea, [contenteditable=true], [role=dialog], [role=listbox], [role=menu]') !== null) return;
      if (latest.current(event.key.toLowerCase())) event.preventDefault();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
}

/** Keys that act by themselves. */
export function useShortcuts(keys: Readonly<Record<string, () => unknown>>): void {
  useKeys((key) => {
    const action = keys[key];
    action?.();
    return action !== undefined;
  });
}

/**
 * Keys of what is on the screen: each presses the button that names it in `aria-keyshortcuts`, or goes to the field that does;
 * also only goes to a button that is marked so, where keys of its own follow.
 */
export function useButtonKeys(): void {
  useKeys((key) => {
    const found = [...document.querySelectorAll<HTMLElement>(`[aria-keyshortcuts="${CSS.escape(key)}"]`)].find(
      (one) => !(one as HTMLButtonElement).disabled && one.offsetParent !== null,
    );
    if (found === undefined) return false;
    found.focus();
    if (found.matches('button, summary, a') && found.dataset.keyGoes === undefined) found.click();
    return true;
  });
}
