'use client';

import Dexie, { liveQuery } from 'dexie';
import dynamic from 'next/dynamic';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from 'react';
import type { Section } from '@/core/locating';
import type { Kit } from '@/server/field';
import { Notice } from '@/ui/notice';
import { newId } from './clock';
import { NotKept } from './log';
import { countRefused, countWaiting, flush, type Signal } from './outbox';
import { type FieldStore, fieldStore, type LocalPerson, localPerson, lossOf, noteUnsent } from './store';
import { changeSections, takeAlong } from './take-along';

const Refused = dynamic(() => import('./refused').then((module) => module.Refused), { ssr: false });

/** What every field screen has: who works, their store, and how the signal is. */
export interface Field {
  readonly person: LocalPerson;
  readonly store: FieldStore;
  readonly kit: Kit;
  readonly signal: Signal;
  /** How many things the server would not take. */
  readonly refused: number;
  /** Sends what waits; answers once that was tried. */
  readonly send: () => Promise<void>;
  /** Changes a system's sections, on this device at once. */
  readonly keepSections: (systemId: string, sections: readonly Section[]) => Promise<void>;
}

const FieldContext = createContext<Field | undefined>(undefined);

export function useField(): Field {
  const field = useContext(FieldContext);
  if (field === undefined) throw new Error('useField needs a FieldProvider');
  return field;
}

type Opening =
  | { readonly state: 'opening' }
  | { readonly state: 'nobody' }
  | { readonly state: 'no kit' }
  | {
      readonly state: 'open';
      readonly person: LocalPerson;
      readonly store: FieldStore;
      readonly kit: Kit;
      /** How much went, not sent yet, with a store that the browser has thrown away. */
      readonly lost?: number;
    };

/** The kit from the server if there is signal, else as it was last taken along. */
async function openField(): Promise<Opening> {
  const fresh = await takeAlong();
  const person = fresh?.person ?? localPerson();
  if (person === undefined) return { state: 'nobody' };
  const store = fieldStore(person);
  const lost = await lossOf(store, newId).catch(() => undefined);
  const kit = fresh ?? (await store.kit.get('kit'))?.kit;
  // One that an earlier build took along does not hold what these screens need.
  return kit === undefined || !('instruments' in kit) ? { state: 'no kit' } : { state: 'open', person, store, kit, lost };
}

const storeFailed =
  'This device could not keep what you just did: its storage is full or was shut. All that stood before is there. Free some space, then do it once more; if it is said again, load this page anew.';

const storeLost =
  'The browser has thrown away what this device had stored. What was sent is safe on the server; what was not is lost: look at the test, and read again what is missing.';

export function FieldProvider({ children }: { readonly children: ReactNode }) {
  const [opening, setOpening] = useState<Opening>({ state: 'opening' });
  const [signal, setSignal] = useState<Signal>({ state: 'asking' });
  const [refused, setRefused] = useState(0);
  const [unkept, setUnkept] = useState<string>();

  useEffect(() => {
    let live = true;
    openField().then((result) => {
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
      const words =
        event.reason instanceof NotKept ? event.reason.message : event.reason instanceof Dexie.DexieError ? storeFailed : undefined;
      if (words === undefined) return;
      event.preventDefault();
      setUnkept(words);
    };
    window.addEventListener('unhandledrejection', failed);
    return () => window.removeEventListener('unhandledrejection', failed);
  }, []);

  const store = opening.state === 'open' ? opening.store : undefined;
  const send = useCallback(async () => {
    if (store === undefined) return;
    countWaiting(store).then((count) => {
      noteUnsent(store, count);
      if (count > 0)
        setSignal((last) => (last.state === 'sent' || last.state === 'asking' ? { state: 'waiting', count } : { ...last, count }));
    });
    setSignal(await flush(store));
    noteUnsent(store, await countWaiting(store));
  }, [store]);

  useEffect(() => {
    if (store === undefined) return;
    const subscription = liveQuery(() => countRefused(store)).subscribe({
      next: setRefused,
      error: (error) => console.error(error),
    });
    return () => subscription.unsubscribe();
  }, [store]);

  useEffect(() => {
    send();
    const timer = setInterval(send, 4000);
    window.addEventListener('online', send);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', send);
    };
  }, [send]);

  const keepSections = async (systemId: string, sections: readonly Section[]) => {
    if (opening.state !== 'open') return;
    setOpening({ ...opening, kit: await changeSections(opening.store, opening.kit, systemId, sections) });
    // Whoever goes on to a page of the server finds it there already, where there is signal.
    await Promise.race([flush(opening.store).then(setSignal), new Promise((resolve) => setTimeout(resolve, 4000))]);
  };

  if (opening.state === 'opening') return <p className="p-6 text-quiet">Opening your field store…</p>;
  if (opening.state !== 'open')
    return (
      <div className="mx-auto max-w-md p-6">
        <h1 className="text-xl font-semibold">{opening.state === 'nobody' ? 'Sign in first' : 'Nothing taken along yet'}</h1>
        <p className="mt-2 text-quiet">
          {opening.state === 'nobody'
            ? 'This device does not know you yet. Sign in once with signal; after that the field screens open without it.'
            : 'There is no signal, and your sites and gauges were not stored on this device yet. Open this page once with signal.'}
        </p>
        <a href="/sign-in" className="mt-4 inline-block font-semibold underline">
          Go to sign-in
        </a>
      </div>
    );
  return (
    <FieldContext value={{ person: opening.person, store: opening.store, kit: opening.kit, signal, refused, send, keepSections }}>
      {!window.isSecureContext && (
        <p role="status" className="border-b-4 border-caution bg-surface px-4 py-2">
          This address is not secure: on this device the screen may sleep, and these pages will not open without signal. Ask whoever runs
          the installation for its https address.
        </p>
      )}
      {unkept !== undefined && (
        <div className="sticky top-0 z-50">
          <Notice tone="stop" role="alert">
            {unkept}{' '}
            <button type="button" className="min-h-11 px-2 underline" onClick={() => setUnkept(undefined)}>
              Understood
            </button>
          </Notice>
        </div>
      )}
      {children}
    </FieldContext>
  );
}

/** One quiet line about the signal; never a spinner on a reading. */
export function SignalLine() {
  const { signal, refused } = useField();
  const [open, setOpen] = useState(false);
  const words =
    signal.state === 'asking'
      ? 'Saved on this device'
      : signal.state === 'sent'
        ? refused > 0
          ? 'Saved on this device; not all of it was taken'
          : 'Saved and sent'
        : signal.state === 'waiting'
          ? `Saved on this device · sending ${signal.count}`
          : signal.state === 'signed out'
            ? `Saved on this device · sign in again to send ${signal.count}`
            : `Saved on this device · no signal · ${signal.count} to send`;
  return (
    <div className="text-sm">
      <p role="status" data-testid="signal" className="text-quiet">
        {words}
      </p>
      {refused > 0 && (
        <button type="button" className="min-h-12 font-medium text-caution underline" onClick={() => setOpen(true)}>
          {refused} not taken by the server: see why
        </button>
      )}
      {open && <Refused close={() => setOpen(false)} />}
    </div>
  );
}
