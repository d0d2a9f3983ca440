'use client';

import { type RefObject, useEffect, useRef, useState } from 'react';

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** The size of an element as laid out. */
export function useSize(): readonly [RefObject<HTMLDivElement | null>, Size] {
  const element = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size>({ width: 360, height: 240 });
  useEffect(() => {
    if (element.current === null) return;
    const watcher = new ResizeObserver(([entry]) =>
      setSize({ width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) }),
    );
    watcher.observe(element.current);
    return () => watcher.disconnect();
  }, []);
  return [element, size];
}
