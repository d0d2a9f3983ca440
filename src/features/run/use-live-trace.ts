'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { type HoldPhase, inPlanUnit } from '@/core/course';
import {
  heldSoFar,
  holdsUnderWay,
  type Judgement,
  outcomeOf,
  type PhaseJudgement,
  type Point,
  type RunEvent,
  type Traced,
  tracesOf,
} from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { PlantTrack } from '@/core/plants';
import { now } from '@/device/clock';

/** Ten readings a second, and no more of them than an hour has; a longer hold is read less often. */
const fastestMs = 100;
const most = 36_000;
/** Samples taken in one go, so that catching up after a reload never holds the screen up. */
const atOnce = 4_000;

const stepOf = ({ seconds }: HoldPhase): number => Math.max(fastestMs, Math.ceil((seconds * 1000) / most / fastestMs) * fastestMs);

/** A hold that is read live, and what names its round. */
interface Live {
  readonly key: string;
  readonly state: PhaseJudgement;
  readonly phase: HoldPhase;
  readonly startAt: number;
}

/** Holds under way of which no trace is written down: each is read from the simulated gauge. */
function livesOf(plan: Plan, judgement: Judgement, events: readonly RunEvent[]): readonly Live[] {
  return holdsUnderWay(judgement).flatMap((state): Live[] => {
    const phase = plan.phases.find((one): one is HoldPhase => one.kind === 'hold' && one.id === state.id);
    const held = heldSoFar(state);
    const there = events.some((event) => event.type === 'trace' && event.phase === state.id && event.round === state.round);
    if (phase === undefined || held === undefined || there) return [];
    return [{ key: `${state.id} ${state.round} ${held.startAt}`, state, phase, startAt: held.startAt }];
  });
}

/**
 * Traces of all holds: of those that are over as they were recorded, of those that run (or settle) live from the simulated
 * gauge at 10 Hz. Only what is new is asked of the gauge; an act on the plant changes nothing that was read before it.
 */
export function useLiveTrace(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  gauge: PlantTrack | undefined,
): readonly Traced[] {
  const recorded = useMemo(() => tracesOf(plan, judgement, events, undefined, 0), [plan, judgement, events]);
  const lives = useMemo(() => livesOf(plan, judgement, events), [plan, judgement, events]);
  const keys = lives.map(({ key }) => key).join('\n');
  const buffers = useRef(new Map<string, Point[]>());
  const [length, setLength] = useState(0);
  const latest = useRef({ gauge, lives, plan });
  latest.current = { gauge, lives, plan };
  useEffect(() => {
    if (keys === '') return;
    const wanted = keys.split('\n');
    for (const key of buffers.current.keys()) if (!wanted.includes(key)) buffers.current.delete(key);
    const read = () => {
      const { gauge: asked, lives: open, plan: own } = latest.current;
      if (asked === undefined) return;
      let all = 0;
      for (const { key, state, phase, startAt } of open) {
        const points = buffers.current.get(key) ?? [];
        buffers.current.set(key, points);
        const step = stepOf(phase);
        const until = outcomeOf(state) === 'settled' ? Math.min(now(), startAt + phase.seconds * 1000) : now();
        for (let taken = 0; taken < atOnce; taken += 1) {
          const at = startAt + points.length * step;
          if (at > until) break;
          points.push({
            seconds: (points.length * step) / 1000,
            value: inPlanUnit(own, Number(asked.shownAt(at, phase.instrument)), phase),
          });
        }
        all += points.length;
      }
      setLength(all);
    };
    read();
    const timer = setInterval(read, fastestMs);
    return () => clearInterval(timer);
  }, [keys]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the buffers grow in place; their length says when.
  return useMemo(() => {
    if (gauge === undefined) return recorded;
    return recorded.map((one) => {
      const key = lives.find(({ phase }) => phase.id === one.phase)?.key;
      const live = key === undefined ? undefined : buffers.current.get(key);
      return live === undefined || live.length === 0 ? one : { ...one, points: live.slice() };
    });
  }, [recorded, lives, length, gauge]);
}
