import { useEffect, useRef } from 'react';

/** Does this at once, then every so often, and as soon as there is signal again; never twice at the same time. */
export function useEvery(everyMs: number, work: (() => Promise<unknown>) | undefined): void {
  const latest = useRef(work);
  latest.current = work;
  const runs = work !== undefined;
  useEffect(() => {
    if (!runs) return;
    let busy = false;
    const go = async () => {
      if (busy) return;
      busy = true;
      try {
        await latest.current?.();
      } finally {
        busy = false;
      }
    };
    go();
    const timer = setInterval(go, everyMs);
    window.addEventListener('online', go);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', go);
    };
  }, [everyMs, runs]);
}
