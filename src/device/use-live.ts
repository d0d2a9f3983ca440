'use client';

import { useEffect, useRef, useState } from 'react';
import type { DeviceStore } from './store';

/** What a query of the store finds, now and whenever a table that it read is changed; the last answer stands until there is another. */
export function useLive<T, First = undefined>(
  store: DeviceStore | undefined,
  query: (tables: ReturnType<DeviceStore['watched']>) => Promise<T> | T,
  of: readonly unknown[],
  first?: First,
): T | First {
  const [found, setFound] = useState<{ readonly value: T } | { readonly fault: unknown }>();
  const latest = useRef(query);
  latest.current = query;
  useEffect(() => {
    if (store === undefined) return;
    let live = true;
    let busy = false;
    let again = false;
    const read = new Set<string>();
    const watched = store.watched(read);
    const look = async () => {
      again = true;
      if (busy) return;
      busy = true;
      while (again && live) {
        again = false;
        try {
          const value = await latest.current(watched);
          if (live) setFound({ value });
        } catch (fault) {
          if (live) setFound({ fault });
        }
      }
      busy = false;
    };
    look();
    const stop = store.onChange((tables) => {
      if (tables.some((table) => read.has(table))) look();
    });
    return () => {
      live = false;
      stop();
    };
  }, [store, ...of]);
  if (found === undefined) return first as First;
  if ('fault' in found) throw found.fault;
  return found.value;
}
