'use client';

import { useEffect, useRef } from 'react';
import { soundAlarm } from './alarm';
import { countdown } from './use-now';

/** Sounds once when a phase falls due while this screen is open, and flashes the title, where it has it, until it is dealt with. */
export function useDueAlarm(dueAt: number | undefined, time: number, title: string, titled: boolean): void {
  const sounded = useRef<number>(undefined);
  const due = dueAt !== undefined && time >= dueAt;
  useEffect(() => {
    if (!due || dueAt === undefined) return;
    // One long past on opening is shown, not sounded.
    if (sounded.current !== dueAt && time - dueAt < 5000) soundAlarm();
    sounded.current = dueAt;
  }, [due, dueAt, time]);
  useEffect(() => {
    if (!titled) return;
    const before = document.title;
    document.title = due
      ? Math.floor(time / 1000) % 2 === 0
        ? `Due: ${title}`
        : 'Vast Stone'
      : dueAt === undefined
        ? 'Run · Vast Stone'
        : `${countdown(dueAt - time)} ${title}`;
    return () => {
      document.title = before;
    };
  }, [due, dueAt, time, title, titled]);
}
