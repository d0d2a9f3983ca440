'use client';

import { useEffect, useState } from 'react';
import { now } from '@/features/field/clock';

/** The time, looked at every `everyMs`. Timers are facts (start and duration); this only redraws them. */
export function useNow(everyMs: number): number {
  const [time, setTime] = useState(now);
  useEffect(() => {
    const timer = setInterval(() => setTime(now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return time;
}

/** 95 s as 1:35; past due counts up with a plus. */
export function countdown(ms: number): string {
  const seconds = Math.abs(ms >= 0 ? Math.ceil(ms / 1000) : Math.floor(ms / 1000));
  const text = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  return ms < 0 && seconds > 0 ? `+${text}` : text;
}

export const clockTime = (ms: number): string =>
  new Date(ms).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', second: '2-digit' });
