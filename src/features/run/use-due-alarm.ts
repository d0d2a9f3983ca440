'use client';

import { useEffect, useRef } from 'react';
import { countdown } from '@/device/use-now';
import { soundAlarm, speak } from './alarm';

/** What falls due, and when, ms. */
export interface Alarm {
  readonly title: string;
  readonly at: number;
}

/** Sounds once when a phase falls due while this screen is open, and flashes the title, where it has it, until it is dealt with. */
export function useDueAlarm(alarms: readonly Alarm[], time: number, titled: boolean): void {
  const sounded = useRef(new Set<string>());
  const past = alarms
    .filter(({ at }) => time >= at)
    .map(({ title, at }) => `${at} ${title}`)
    .join('\n');
  const now = useRef(time);
  now.current = time;
  useEffect(() => {
    const fresh = past.split('\n').filter((one) => one !== '' && !sounded.current.has(one));
    // One long past on opening is shown, not sounded.
    const due = fresh.filter((one) => now.current - Number.parseInt(one, 10) < 5000);
    if (due.length > 0) {
      soundAlarm();
      speak(`Due: ${due.map((one) => one.slice(one.indexOf(' ') + 1)).join(', ')}.`);
    }
    for (const one of fresh) sounded.current.add(one);
  }, [past]);
  const next = alarms.at(0);
  const title = next?.title ?? '';
  const dueAt = next?.at;
  useEffect(() => {
    if (!titled) return;
    const before = document.title;
    document.title =
      dueAt === undefined
        ? 'Run · Vast Stone'
        : time < dueAt
          ? `${countdown(dueAt - time)} ${title}`
          : Math.floor(time / 1000) % 2 === 0
            ? `Due: ${title}`
            : 'Vast Stone';
    return () => {
      document.title = before;
    };
  }, [dueAt, time, title, titled]);
}
