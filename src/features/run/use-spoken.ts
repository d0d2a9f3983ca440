'use client';

import { useEffect, useRef } from 'react';
import { unitLabel } from '@/core/quantities';
import { lastCame } from '@/core/running';
import { thisDevice } from '@/device/log';
import type { OpenRun } from '@/device/use-run';
import { speak } from './alarm';

/** Says each figure that is written here, and what each phase came to, to whoever has no eye for the screen. */
export function useSpoken({ run, events, judgement }: OpenRun): void {
  const came = lastCame(run.plan, judgement, events);
  const last = events.at(-1);
  const figure = last?.type === 'reading' && last.device === thisDevice() ? `${last.value} ${unitLabel(last.unit)}` : undefined;
  const heard = useRef({ came, at: last?.id });
  useEffect(() => {
    const before = heard.current;
    heard.current = { came, at: last?.id };
    const words = [before.at === last?.id ? undefined : figure, before.came === came ? undefined : came].filter((one) => one !== undefined);
    if (words.length > 0) speak(words.join('. '));
  }, [came, figure, last?.id]);
}
