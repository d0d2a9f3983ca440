'use client';

import { useEffect, useState } from 'react';
import { refusedItems, tryAgain } from '@/device/outbox';
import { useDevice } from '@/device/provider';
import type { Waiting } from '@/device/store';
import { Button } from '@/ui/button';
import { SheetDialog } from '@/ui/sheet-dialog';

const kinds: Record<Waiting['item']['kind'], string> = {
  test: 'A test',
  run: 'An attempt',
  events: 'Readings or notes',
  change: 'A change of a site, system or instrument',
  calibration: 'A calibration',
  signature: 'A signature',
  photo: 'A photograph',
};

const dataAddress = (picture: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(picture);
  });

/** What the server would not take, why, and what can be done. Nothing leaves the device before it was saved to a file. */
export function Refused({ close }: { readonly close: () => void }) {
  const { store, send } = useDevice();
  const [items, setItems] = useState<readonly Waiting[]>([]);
  const [saved, setSaved] = useState(false);
  useEffect(() => {
    refusedItems(store).then(setItems);
  }, [store]);
  const again = async () => {
    await tryAgain(store);
    send();
    close();
  };
  const save = async () => {
    // Pictures too, as data addresses: what may be removed afterwards must all be in the file.
    const kept = await Promise.all(
      items.map(async ({ item, refused }) => ({
        refused,
        item: item.kind === 'photo' ? { ...item, picture: await dataAddress(item.picture) } : item,
      })),
    );
    const text = JSON.stringify(kept, null, 1);
    const place = document.createElement('a');
    place.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
    place.download = 'not-taken.json';
    place.click();
    URL.revokeObjectURL(place.href);
    setSaved(true);
  };
  const remove = async () => {
    await store.outbox.bulkDelete(items.map(({ order }) => order));
    send();
    close();
  };
  return (
    <SheetDialog title="Not taken by the server" close={close}>
      <p>These are still on this device. Everything else was sent.</p>
      <ul className="my-3 divide-y divide-line border-y border-line">
        {items.map(({ order, item, refused }) => (
          <li key={order} className="py-2">
            <b>{kinds[item.kind]}</b>
            <span className="block text-quiet">{refused}</span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button size="tall" onClick={again}>
          Try again
        </Button>
        <Button tone="quiet" size="tall" onClick={save}>
          Save to a file
        </Button>
        <Button tone="quiet" size="tall" disabled={!saved} onClick={remove}>
          Remove from this device
        </Button>
      </div>
      {!saved && <p className="mt-2 text-sm text-quiet">They can be removed once they are saved to a file.</p>}
    </SheetDialog>
  );
}
