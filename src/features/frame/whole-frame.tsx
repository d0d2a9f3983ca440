import type { ReactNode } from 'react';
import type { Role } from '@/core/permissions';

export interface Who {
  readonly name: string;
  readonly role: Role;
  readonly firm: string;
}

/** What a page says of itself to the frame that it stands in. */
export interface FrameSlots {
  readonly who: Who;
  /** Whose places they are: this device's, or the server's. */
  readonly on: 'device' | 'office';
  /** The tab that is open. */
  readonly here?: string;
  /** Goes to a place without loading anything; false where the browser must. */
  readonly go?: (href: string) => boolean;
  /** None while the page does not listen yet. */
  readonly signOut?: () => void;
  readonly strip?: ReactNode;
  readonly banner?: ReactNode;
  readonly children: ReactNode;
}

/** A page that takes the whole screen: it has no places beside it, and waits for none of them to be fetched. */
export const WholeFrame = ({ strip, banner, children }: FrameSlots) => (
  <div className="flex min-h-dvh flex-col lg:h-dvh">
    <div className="shrink-0">
      {banner}
      {strip}
    </div>
    {children}
  </div>
);
