'use client';

import { useEffect } from 'react';

/** Registers the worker that keeps the field shell on this device. */
export function ServiceWorker() {
  useEffect(() => {
    if (process.env.NODE_ENV === 'production')
      navigator.serviceWorker
        ?.register('/sw.js')
        .catch((error: unknown) => console.warn('The field screens will not open without signal:', error));
  }, []);
  return null;
}
