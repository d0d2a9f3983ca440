import { useState } from 'react';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { input } from '@/ui/classes';

/** Asks why something that was written down does not stand; it stays in the log, with the reason. */
export function WithdrawForm({ id, write, close }: { readonly id: string; readonly write: OpenRun['write']; readonly close: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <form
      className="flex flex-wrap items-end gap-2 pb-2"
      onSubmit={async (event) => {
        event.preventDefault();
        await write({ type: 'withdrawn', reading: id, reason: reason.trim() });
        close();
      }}
    >
      <label className="min-w-40 flex-1">
        Why does it not stand?
        <input className={`${input} mt-0.5`} value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      <Button type="submit" size="tall" disabled={reason.trim() === ''}>
        Withdraw it
      </Button>
      <Button tone="quiet" size="tall" onClick={close}>
        Keep it
      </Button>
    </form>
  );
}
