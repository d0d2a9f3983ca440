'use client';

import { useRef } from 'react';
import { type Judgement, judge, type RunEvent } from '@/core/judging';
import { eventsOf } from './log';
import type { DeviceStore, LocalRun, LocalTest, Tables } from './store';
import { useLive } from './use-live';

/** A test that this device knows and that is not over. */
export interface UnfinishedRun {
  readonly run: LocalRun;
  readonly test: LocalTest;
  readonly events: readonly RunEvent[];
  readonly judgement: Judgement;
}

/** The last attempts of tests on this device that are not over, the latest first; judged again only when something is written. */
export function useOpenRuns(store: DeviceStore): readonly UnfinishedRun[] {
  const judged = useRef(new Map<string, UnfinishedRun>());
  return useLive(store, (read) => openRuns(read, judged.current), [], none);
}

const none: readonly UnfinishedRun[] = [];

async function openRuns(store: Tables, judged: Map<string, UnfinishedRun>): Promise<readonly UnfinishedRun[]> {
  const tests = await store.tests.filter(({ sealed }) => sealed === undefined).toArray();
  const found: UnfinishedRun[] = [];
  for (const test of tests) {
    const run = (await store.runs.where('testId').equals(test.id).toArray()).sort((a, b) => b.number - a.number)[0];
    if (run === undefined) continue;
    const events = await eventsOf(store, run.id);
    const known = judged.get(run.id);
    const open = known?.events.length === events.length ? known : { run, test, events, judgement: judge(run.plan, events) };
    judged.set(run.id, open);
    if (open.judgement.verdict === 'in progress') found.push(open);
  }
  return found.sort((a, b) => (b.events.at(-1)?.observedAt ?? 0) - (a.events.at(-1)?.observedAt ?? 0));
}
