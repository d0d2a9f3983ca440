'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { inPlanUnit } from '@/core/course/gauge-scale';
import type { HoldPhase } from '@/core/course/phases';
import type { Point } from '@/core/judging/estimate';
import type { RunEvent } from '@/core/judging/events';
import type { Judgement } from '@/core/judging/judge';
import { heldSoFar, outcomeOf } from '@/core/judging/state';
import { holdsUnderWay, type Traced, tracesOf } from '@/core/judging/trace';
import type { Plan } from '@/core/planning/plan';
import type { PlantTrack } from '@/core/plants/plant';
import { now } from '@/features/field/clock';

/** Ten readings a second, and no more of them than an hour has; a longer hold is read less often. */
const fastestMs = 100;
const most = 36_000;
/** Samples taken in one go, so that catching up after a reload never holds the screen up. */
const atOnce = 4_000;

const stepOf = ({ seconds }: HoldPhase): number => Math.max(fastestMs, Math.ceil((seconds * 1000) / most / fastestMs) * fastestMs);

/**
 * Traces of all holds: of those that are over as they were recorded, of the one that runs (or settles) live from the simulated
 * gauge at 10 Hz. Only what is new is asked of the gauge; an act on the plant changes nothing that was read before it.
 */
export function useLiveTrace(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  gauge: PlantTrack | undefined,
): readonly Traced[] {
  const recorded = useMemo(() => tracesOf(plan, judgement, events, undefined, 0), [plan, judgement, events]);
  const running = useMemo(() => holdsUnderWay(judgement)[0], [judgement]);
  const phase = plan.phases.find((one): one is HoldPhase => one.kind === 'hold' && one.id === running?.id);
  const there = events.some((event) => event.type === 'trace' && event.phase === running?.id && event.round === running.round);
  const key = running === undefined || phase === undefined || there ? '' : `${running.id} ${running.round} ${heldSoFar(running)?.startAt}`;
  const buffer = useRef<{ key: string; points: Point[] }>({ key: '', points: [] });
  const [length, setLength] = useState(0);
  const latest = useRef({ gauge, running, phase, plan });
  latest.current = { gauge, running, phase, plan };
  useEffect(() => {
    if (key === '') return;
    if (buffer.current.key !== key) buffer.current = { key, points: [] };
    const read = () => {
      const { gauge: asked, running: open, phase: hold, plan: own } = latest.current;
      const held = heldSoFar(open);
      if (asked === undefined || held === undefined || hold === undefined) return;
      const step = stepOf(hold);
      const { points } = buffer.current;
      const until = Math.min(now(), outcomeOf(open) === 'settled' ? held.dueAt : now());
      for (let taken = 0; taken < atOnce; taken += 1) {
        const at = held.startAt + points.length * step;
        if (at > until) break;
        points.push({ seconds: (points.length * step) / 1000, value: inPlanUnit(own, Number(asked.shownAt(at, hold.instrument)), hold) });
      }
      setLength(points.length);
    };
    read();
    const timer = setInterval(read, fastestMs);
    return () => clearInterval(timer);
  }, [key]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the buffer grows in place; its length says when.
  return useMemo(() => {
    if (key === '' || buffer.current.key !== key || gauge === undefined) return recorded;
    const live = buffer.current.points;
    return recorded.map((one) => (one.phase === running?.id ? { ...one, points: live.length > 0 ? live.slice() : one.points } : one));
  }, [recorded, key, length, gauge]);
}
