'use client';

import { useEffect, useRef } from 'react';
import type { Body } from '@/core/judging';
import { mono, now } from '@/device/clock';

/** Apart by more than this within a second, the wall clock and the monotonic one did not run together. */
const apartMs = 2000;

/** During holds: notes of each a clock that jumped while the device was awake, and a gap while it slept or was hidden. */
export function useClockWatch(holds: readonly { readonly phase: string; readonly round: number }[], write: (body: Body) => unknown): void {
  const latest = useRef({ write, holds });
  latest.current = { write, holds };
  const running = holds.length > 0;
  useEffect(() => {
    if (!running) return;
    let wall = now();
    let steady = mono();
    let hidden = document.visibilityState === 'hidden';
    const seen = () => {
      if (document.visibilityState === 'hidden') hidden = true;
    };
    const note = (type: 'gap' | 'clock-jump', milliseconds: number) => {
      for (const { phase, round } of latest.current.holds)
        latest.current.write({ type, phase, round, milliseconds: Math.round(milliseconds) });
    };
    const timer = setInterval(() => {
      const jump = now() - wall - (mono() - steady);
      const slept = mono() - steady;
      wall = now();
      steady = mono();
      if (Math.abs(jump) > apartMs) note(hidden && jump > 0 ? 'gap' : 'clock-jump', jump);
      else if (slept > 30_000) note('gap', slept);
      hidden = document.visibilityState === 'hidden';
    }, 1000);
    document.addEventListener('visibilitychange', seen);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', seen);
    };
  }, [running]);
}
