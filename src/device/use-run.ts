'use client';

import { useEffect, useMemo, useState } from 'react';
import { type Body, type Judgement, judge, type RunEvent } from '@/core/judging';
import { may } from '@/core/permissions';
import { eventsOf, fetchRun, type Moment, thisDevice, writeEvent } from './log';
import { tellClock } from './outbox';
import { useDevice } from './provider';
import type { LocalRun, LocalTest, Tables } from './store';
import { useEvery } from './use-every';
import { useLive } from './use-live';

export interface OpenRun {
  readonly run: LocalRun;
  readonly test: LocalTest;
  /** All attempts of the test, by number. */
  readonly attempts: readonly LocalRun[];
  readonly events: readonly RunEvent[];
  readonly judgement: Judgement;
  /** This device may move the phases. */
  readonly hasPen: boolean;
  /** Whoever looks may write in it; others look on. */
  readonly mayWrite: boolean;
  readonly write: (body: Body, moment?: Moment, picture?: Blob) => Promise<RunEvent>;
  /** Opens a new round of a phase and of all after it. */
  readonly restart: (phase: string) => Promise<RunEvent>;
}

interface Stored {
  readonly run: LocalRun;
  readonly test: LocalTest;
  readonly attempts: readonly LocalRun[];
  readonly events: readonly RunEvent[];
}

async function storedRun(store: Tables, runId: string): Promise<Stored | undefined> {
  const run = await store.runs.get(runId);
  const test = run === undefined ? undefined : await store.tests.get(run.testId);
  if (run === undefined || test === undefined) return undefined;
  const attempts = (await store.runs.where('testId').equals(run.testId).toArray()).sort((a, b) => a.number - b.number);
  return { run, test, attempts, events: await eventsOf(store, runId) };
}

/** A run, live: from this device's store, with what other devices wrote brought in while there is signal. */
export function useRun(runId: string): OpenRun | 'opening' | 'absent' {
  const { store, person, send } = useDevice();
  const stored = useLive(store, (read) => storedRun(read, runId), [runId]);
  const [absent, setAbsent] = useState(false);
  useEvery(4000, async () => {
    const answer = await fetchRun(store, runId);
    if (answer !== 'fetched' && (await store.runs.get(runId)) === undefined) setAbsent(true);
  });

  const judgement = useMemo(() => (stored === undefined ? undefined : judge(stored.run.plan, stored.events)), [stored]);
  // Only a device that took part can say anything of its own clock.
  const clockInDoubt =
    judgement?.reasons.some(({ code }) => code === 'clock-unproved') === true &&
    stored?.events.some(({ device }) => device === thisDevice()) === true;
  useEffect(() => {
    if (!clockInDoubt) return;
    // A slow or lost contact proves little; a few more settle what can be settled.
    let tries = 5;
    const timer = setInterval(async () => {
      if (tries === 0) clearInterval(timer);
      else if ((await tellClock(runId)) !== undefined) {
        tries -= 1;
        await fetchRun(store, runId);
      }
    }, 4000);
    return () => clearInterval(timer);
  }, [clockInDoubt, runId, store]);

  const mayWrite = may(person.role, 'run tests');
  if (stored === undefined || judgement === undefined) return absent ? 'absent' : 'opening';
  const write: OpenRun['write'] = async (body, moment, picture) => {
    const event = await writeEvent(store, person, runId, body, moment, picture);
    // What the server found of this device's clock may settle a hold: it is asked for at once.
    const timed = body.type === 'reading' && (body.role === 'start' || body.role === 'end');
    send().then(() => (timed ? fetchRun(store, runId) : undefined));
    return event;
  };
  return {
    ...stored,
    judgement,
    write,
    restart: (phase) => {
      const round = (judgement.phases.find(({ id }) => id === phase)?.round ?? 1) + 1;
      return write({ type: 'restart', phase, round, reason: 'Repeated after a spoilt hold' });
    },
    hasPen: mayWrite && (judgement.pen === undefined || judgement.pen === thisDevice()),
    mayWrite,
  };
}
