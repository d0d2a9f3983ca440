'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useDevice } from '@/device/provider';
import { Button } from '@/ui/button';

const Refused = dynamic(() => import('./refused').then((module) => module.Refused), { ssr: false });

/** One quiet line about the signal; never a spinner on a reading. */
export function SignalLine() {
  const { signal, refused } = useDevice();
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
        <Button tone="bare" size="tall" className="text-caution" onClick={() => setOpen(true)}>
          {refused} not taken by the server: see why
        </Button>
      )}
      {open && <Refused close={() => setOpen(false)} />}
    </div>
  );
}
