import { useSyncExternalStore } from 'react';
import { addressOf } from '@/core/permissions';
import type { Running } from '@/server/field';
import type { Told } from '@/server/streams';

/*
 * Holds that run now, whoever runs them: one stream for all tabs of this browser. The tab that holds the lock has the stream and
 * tells the others; when it is closed, the next takes its place.
 */

let known: readonly Running[] = [];
const lookers = new Set<() => void>();
let ending: AbortController | undefined;

const name = 'vast-stone-running';
/** After a stream that broke, or where there is none. */
const againMs = 4000;

function take(told: Told): void {
  const by = new Map(told.whole === true ? [] : known.map((one) => [one.run, one] as const));
  for (const run of told.gone) by.delete(run);
  for (const one of told.changed) by.set(one.run, one);
  known = [...by.values()];
  for (const look of lookers) look();
}

/** Reads the stream until it ends or is no longer wanted. */
const read = (signal: AbortSignal, pass: (told: Told) => void): Promise<void> =>
  new Promise((resolve) => {
    const source = new EventSource(addressOf('GET /api/stream'));
    const end = () => {
      source.close();
      resolve();
    };
    source.onmessage = ({ data }) => pass(JSON.parse(data) as Told);
    // It opens itself again while the server only pauses; refused for good (signed out) it is over.
    source.onerror = () => source.readyState === EventSource.CLOSED && end();
    signal.addEventListener('abort', end, { once: true });
  });

async function lead(signal: AbortSignal, tabs: BroadcastChannel): Promise<void> {
  tabs.onmessage = ({ data }) => {
    // Another tab has just come: it is told what is known.
    if (data === 'what is there?') tabs.postMessage({ whole: true, changed: known, gone: [] } satisfies Told);
  };
  while (!signal.aborted) {
    await read(signal, (told) => {
      take(told);
      tabs.postMessage(told);
    });
    if (!signal.aborted) await new Promise((resolve) => setTimeout(resolve, againMs));
  }
}

async function begin(signal: AbortSignal): Promise<void> {
  const tabs = new BroadcastChannel(name);
  signal.addEventListener('abort', () => tabs.close(), { once: true });
  tabs.onmessage = ({ data }) => data !== 'what is there?' && take(data as Told);
  tabs.postMessage('what is there?');
  // Over plain HTTP there are no locks: each tab then has a stream of its own.
  if (navigator.locks === undefined) return lead(signal, tabs);
  await navigator.locks.request(name, { signal }, () => lead(signal, tabs)).catch(() => undefined);
}

function subscribe(look: () => void): () => void {
  lookers.add(look);
  if (ending === undefined) {
    ending = new AbortController();
    void begin(ending.signal);
  }
  return () => {
    lookers.delete(look);
    if (lookers.size > 0) return;
    ending?.abort();
    ending = undefined;
    known = [];
  };
}

const nothing: readonly Running[] = [];

export const useRunning = (): readonly Running[] =>
  useSyncExternalStore(
    subscribe,
    () => known,
    () => nothing,
  );

/** A hold that runs or has just fallen due; one that nobody read for an hour is only an unfinished test. */
export const isHolding = ({ dueAt }: Running, time: number): boolean => dueAt !== undefined && dueAt - time > -3_600_000;
