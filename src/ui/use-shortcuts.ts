'use client';

import { useEffect, useRef } from 'react';

/** Single keys of a screen; never while someone types or a dialog is open. */
export function useShortcuts(keys: Readonly<Record<string, () => unknown>>): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const target = event.target as HTMLElement;
      if (target.closest('input, textarea, select, [contenteditable=true], [role=dialog]') !== null) return;
      const action = latest.current[event.key.toLowerCase()];
      if (action === undefined) return;
      event.preventDefault();
      action();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
}
