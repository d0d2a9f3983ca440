'use client';

import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import type { Problem } from '@/core/quantities';
import type { Calibration, Change } from '@/core/register';
import { firstScreen } from '@/ui/first-screen';
import { newId } from './clock';
import { NotKept } from './log';
import { countRefused, countWaiting, flush, type Signal } from './outbox';
import { type DeviceStore, deviceStore, type Facts, type LocalPerson, localPerson, lossOf, noteUnsent, takenMark } from './store';
import { StoreFailed } from './tables';
import { useEvery } from './use-every';
import { useLive } from './use-live';

/** What every screen on a device has: who works, their store, and how the signal is. */
export interface Device {
  readonly person: LocalPerson;
  readonly store: DeviceStore;
  /** What belongs to no site; it follows the store. */
  readonly facts: Facts;
  readonly signal: Signal;
  /** How many things the server would not take. */
  readonly refused: number;
  /** Sends what waits; answers once that was tried. */
  readonly send: () => Promise<void>;
  /** Changes what the register keeps, here at once. Answers what is wrong. */
  readonly change: (changes: readonly Change[]) => Promise<Problem | undefined>;
  readonly calibrate: (instrumentId: string, said: Calibration) => Promise<Problem | undefined>;
  /** Brings the register up to date; answers whether there was signal. */
  readonly refresh: () => Promise<boolean>;
}

const DeviceContext = createContext<Device | undefined>(undefined);

export function useDevice(): Device {
  const device = useContext(DeviceContext);
  if (device === undefined) throw new Error('useDevice needs a DeviceProvider');
  return device;
}

export type Opening =
  | { readonly state: 'opening' }
  | { readonly state: 'nobody' }
  | { readonly state: 'nothing taken along' }
  | {
      readonly state: 'open';
      readonly person: LocalPerson;
      readonly store: DeviceStore;
      readonly facts: Facts;
      /** How much went, not sent yet, with a store that the browser has thrown away. */
      readonly lost?: number;
    };

/** What is on this device opens at once; only where there is nothing yet is the server waited for. */
async function open(): Promise<Opening> {
  const known = localPerson();
  const there = known === undefined ? undefined : await deviceStore(known).facts.get('facts');
  const fresh = there === undefined ? await (await register()).takeAlong() : undefined;
  const person = localPerson();
  if (person === undefined) return { state: 'nobody' };
  const store = deviceStore(person);
  const lost = await lossOf(store, newId).catch(() => undefined);
  const facts = fresh ?? there;
  return facts === undefined ? { state: 'nothing taken along' } : { state: 'open', person, store, facts, lost };
}

const storeFailed =
  'This device could not keep what you just did: its storage is full or was shut. All that stood before is there. Free some space, then do it once more; if it is said again, load this page anew.';

const storeLost =
  'The browser has thrown away what this device had stored. What was sent is safe on the server; what was not is lost: look at the test, and read again what is missing.';

/** The register's shapes weigh as much as a screen: a run that is opened waits for none of them. */
const register = () => import('./register');

const sendMs = 4000;
const refreshMs = 60_000;

export function DeviceProvider({
  children,
  closed,
  unkept: showUnkept,
}: {
  readonly children: ReactNode;
  /** Shown while nothing is open, and why. */
  readonly closed: (state: Exclude<Opening['state'], 'open'>) => ReactNode;
  /** Says that something was not kept. */
  readonly unkept: (words: string, understood: () => void) => ReactNode;
}) {
  const [opening, setOpening] = useState<Opening>({ state: 'opening' });
  const [signal, setSignal] = useState<Signal>({ state: 'asking' });
  const [unkept, setUnkept] = useState<string>();

  useEffect(() => {
    let live = true;
    open().then((result) => {
      if (!live) return;
      setOpening(result);
      if (result.state === 'open' && result.lost !== undefined)
        setUnkept(`${storeLost} ${result.lost === 1 ? 'One thing was' : `${result.lost} things were`} not sent yet.`);
    });
    return () => {
      live = false;
    };
  }, []);

  // A write that fails leaves whatever asked for it as it stood, with what was typed; that it failed is said here, once for all.
  useEffect(() => {
    const failed = (event: PromiseRejectionEvent) => {
      const words = event.reason instanceof NotKept ? event.reason.message : event.reason instanceof StoreFailed ? storeFailed : undefined;
      if (words === undefined) return;
      event.preventDefault();
      setUnkept(words);
    };
    window.addEventListener('unhandledrejection', failed);
    return () => window.removeEventListener('unhandledrejection', failed);
  }, []);

  const store = opening.state === 'open' ? opening.store : undefined;
  const refresh = useCallback(async () => {
    await firstScreen(3000);
    return (await (await register()).takeAlong()) !== undefined;
  }, []);
  const send = useCallback(async () => {
    if (store === undefined) return;
    countWaiting(store).then((count) => {
      noteUnsent(store, count);
      if (count > 0)
        setSignal((last) => (last.state === 'sent' || last.state === 'asking' ? { state: 'waiting', count } : { ...last, count }));
    });
    const before = await takenMark(store);
    setSignal(await flush(store));
    noteUnsent(store, await countWaiting(store));
    // What the register makes of a change, beside what others changed, is known at once and not with the next look in a minute.
    if ((await takenMark(store)) !== before) void refresh();
  }, [store, refresh]);

  const refused = useLive(store, countRefused, [], 0);
  const facts = useLive(store, (read) => read.facts.get('facts'), []);
  useEvery(sendMs, store === undefined ? undefined : send);
  useEvery(refreshMs, store === undefined ? undefined : refresh);

  const change = useCallback(
    async (changes: readonly Change[]) => {
      if (store === undefined) return undefined;
      const problem = await (await register()).keepChanges(store, changes);
      if (problem === undefined) void send();
      return problem;
    },
    [store, send],
  );
  const calibrate = useCallback(
    async (instrumentId: string, said: Calibration) => {
      if (store === undefined) return undefined;
      const problem = await (await register()).keepCalibration(store, instrumentId, said);
      if (problem === undefined) void send();
      return problem;
    },
    [store, send],
  );

  const device = useMemo<Device | undefined>(
    () =>
      opening.state !== 'open'
        ? undefined
        : {
            person: opening.person,
            store: opening.store,
            facts: facts ?? opening.facts,
            signal,
            refused,
            send,
            change,
            calibrate,
            refresh,
          },
    [opening, facts, signal, refused, send, change, calibrate, refresh],
  );
  if (opening.state !== 'open' || device === undefined) return closed(opening.state as Exclude<Opening['state'], 'open'>);
  return (
    <DeviceContext value={device}>
      {unkept !== undefined && showUnkept(unkept, () => setUnkept(undefined))}
      {children}
    </DeviceContext>
  );
}
