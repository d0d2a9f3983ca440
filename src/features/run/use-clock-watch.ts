'use client';

import { useEffect, useRef } from 'react';
import type { Body } from '@/core/judging/events';
import { mono, now } from '@/features/field/clock';

/** Apart by more than this within a second, the wall clock and the monotonic one did not run together. */
const apartMs = 2000;

/** During a hold: notes a clock that jumped while the device was awake, and a gap while it slept or was hidden. */
export function useClockWatch(hold: { readonly phase: string; readonly round: number } | undefined, write: (body: Body) => unknown): void {
  const latest = useRef(write);
  latest.current = write;
  const phase = hold?.phase;
  const round = hold?.round;
  useEffect(() => {
    if (phase === undefined || round === undefined) return;
    let wall = now();
    let steady = mono();
    let hidden = document.visibilityState === 'hidden';
    const seen = () => {
      if (document.visibilityState === 'hidden') hidden = true;
    };
    const timer = setInterval(() => {
      const jump = now() - wall - (mono() - steady);
      const slept = mono() - steady;
      wall = now();
      steady = mono();
      if (Math.abs(jump) > apartMs)
        latest.current(
          hidden && jump > 0
            ? { type: 'gap', phase, round, milliseconds: Math.round(jump) }
            : { type: 'clock-jump', phase, round, milliseconds: Math.round(jump) },
        );
      else if (slept > 30_000) latest.current({ type: 'gap', phase, round, milliseconds: Math.round(slept) });
      hidden = document.visibilityState === 'hidden';
    }, 1000);
    document.addEventListener('visibilitychange', seen);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', seen);
    };
  }, [phase, round]);
}
