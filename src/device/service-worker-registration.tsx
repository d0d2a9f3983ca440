'use client';

import { useEffect } from 'react';

/** Registers the worker that keeps the field shell on this device, and says that the page listens from here on. */
export function ServiceWorker() {
  useEffect(() => {
    document.documentElement.dataset.listens = '';
    if (process.env.NODE_ENV === 'production')
      navigator.serviceWorker
        ?.register('/sw.js')
        .catch((error: unknown) => console.warn('The field screens will not open without signal:', error));
  }, []);
  return null;
}
