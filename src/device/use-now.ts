'use client';

import { useEffect, useState } from 'react';
import { now } from '@/device/clock';

/**
 * The time, drawn again every `everyMs`. Timers are facts (start and duration); this only redraws them. Whatever else
 * draws meanwhile gets the time of that moment: an event just written must not lie in the future of its own screen.
 */
export function useNow(everyMs: number): number {
  const [, redraw] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => redraw((count) => count + 1), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now();
}

/** 95 s as 1:35; past due counts up with a plus. */
export function countdown(ms: number): string {
  const seconds = Math.abs(ms >= 0 ? Math.ceil(ms / 1000) : Math.floor(ms / 1000));
  const text = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  return ms < 0 && seconds > 0 ? `+${text}` : text;
}

let clock: Intl.DateTimeFormat | undefined;
/** A time of day to the second. The format is kept: making one costs more than all the rest of a redraw. */
export const clockTime = (ms: number): string => {
  clock ??= new Intl.DateTimeFormat([], { hour: '2-digit', minute: '2-digit', second: '2-digit' });
  return clock.format(ms);
};
