'use client';

import { createContext, type MouseEvent, type ReactNode, useContext } from 'react';
import type { Role } from '@/core/permissions';
import type { Problem } from '@/core/quantities';
import type { Calibration, Change } from '@/core/register';
import type { Place } from './places';

/**
 * What feeds a view and takes what is done in it: a device's own store, or the server. The views of the register are the same on both
 * and ask this.
 */
export interface Source {
  readonly kind: 'device' | 'office';
  readonly person: { readonly userId: string; readonly name: string; readonly role: Role };
  /** Keeps changes, all or none; answers what is wrong. */
  readonly change: (changes: readonly Change[]) => Promise<Problem | undefined>;
  readonly calibrate: (instrumentId: string, said: Calibration) => Promise<Problem | undefined>;
  /** Chooses between two versions of a field. */
  readonly settle: (clash: string, choice: 'stands' | 'other') => Promise<Problem | undefined>;
  readonly hrefOf: (place: Place) => string;
  /** Goes there without loading anything; false where the browser must. */
  readonly go: (place: Place) => boolean;
}

const SourceContext = createContext<Source | undefined>(undefined);

export const SourceProvider = ({ source, children }: { readonly source: Source; readonly children: ReactNode }) => (
  <SourceContext value={source}>{children}</SourceContext>
);

export function useSource(): Source {
  const source = useContext(SourceContext);
  if (source === undefined) throw new Error('useSource needs a SourceProvider');
  return source;
}

/** A link to a place, wherever that is shown from here. */
export function To({
  place,
  className,
  children,
  label,
}: {
  readonly place: Place;
  readonly className?: string;
  readonly children: ReactNode;
  readonly label?: string;
}) {
  const { hrefOf, go } = useSource();
  const pressed = (event: MouseEvent) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
    if (go(place)) event.preventDefault();
  };
  return (
    <a href={hrefOf(place)} onClick={pressed} className={className} aria-label={label}>
      {children}
    </a>
  );
}
