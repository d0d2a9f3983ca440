'use client';

import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';

/** A photograph, small; pressed it is seen whole. One that cannot be fetched here is said to be. */
export function Picture({ address, label }: { readonly address: string; readonly label: string }) {
  const [gone, setGone] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another address is another try.
  useEffect(() => setGone(false), [address]);
  if (gone)
    return (
      <figure className="w-28 text-sm">
        <div className="flex h-20 items-center justify-center border border-line bg-sunken p-2 text-center text-xs text-quiet">
          Sent; seen here with signal
        </div>
        <figcaption className="mt-1 leading-tight">{label}</figcaption>
      </figure>
    );
  return (
    <Dialog.Root>
      <Dialog.Trigger className="block w-28 text-left text-sm">
        {/* biome-ignore lint/performance/noImgElement: kept on this device, or behind the sign-in: nothing to be scaled elsewhere. */}
        <img src={address} alt="" loading="lazy" className="h-20 w-28 border border-line object-cover" onError={() => setGone(true)} />
        <span className="mt-1 block leading-tight">{label}</span>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/70" />
        <Dialog.Content className="fixed inset-3 z-50 flex flex-col gap-2 bg-surface p-3" aria-describedby={undefined}>
          <div className="flex items-center justify-between gap-3">
            <Dialog.Title className="font-semibold">{label}</Dialog.Title>
            <Dialog.Close className="min-h-12 px-3 underline">Close</Dialog.Close>
          </div>
          {/* biome-ignore lint/performance/noImgElement: as above. */}
          <img src={address} alt={label} className="min-h-0 flex-1 object-contain" />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
