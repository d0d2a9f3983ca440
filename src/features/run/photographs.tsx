'use client';

import { useEffect, useState } from 'react';
import type { EventOf, RunEvent } from '@/core/judging';
import { useDevice } from '@/device/provider';
import { useLive } from '@/device/use-live';
import { clockTime } from '@/device/use-now';
import { Picture } from '@/ui/picture';

export const photographsOf = (events: readonly RunEvent[]): readonly EventOf<'photo'>[] =>
  events.filter((event): event is EventOf<'photo'> => event.type === 'photo');

/** A picture that is still on this device, as an address; undefined once it is sent. */
function useOwn(hash: string): string | undefined {
  const { store } = useDevice();
  const kept = useLive(store, ({ outbox }) => outbox.filter(({ item }) => item.kind === 'photo' && item.hash === hash).first(), [hash]);
  const [address, setAddress] = useState<string>();
  const picture = kept?.item.kind === 'photo' ? kept.item.picture : undefined;
  useEffect(() => {
    if (picture === undefined) return setAddress(undefined);
    const made = URL.createObjectURL(picture);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [picture]);
  return address;
}

/** A photograph where it is counted: from this device while it waits to be sent, else from the server. */
export function Photograph({ photo, label }: { readonly photo: EventOf<'photo'>; readonly label: string }) {
  const own = useOwn(photo.hash);
  const words = `${label}, ${clockTime(photo.takenAt)}`;
  return <Picture address={own ?? `/api/photos/${photo.hash}`} label={photo.text === '' ? words : `${words}: ${photo.text}`} />;
}

/** All photographs of a run, each with what it is evidence of. */
export function Photographs({
  events,
  evidence = [],
}: {
  readonly events: readonly RunEvent[];
  readonly evidence?: readonly { readonly id: string; readonly label: string }[];
}) {
  const labelOf = (slot: string | undefined) => evidence.find(({ id }) => id === slot)?.label ?? 'Photograph';
  return (
    <ul className="flex flex-wrap gap-3">
      {photographsOf(events).map((photo) => (
        <li key={photo.id}>
          <Photograph photo={photo} label={labelOf(photo.slot)} />
        </li>
      ))}
    </ul>
  );
}
