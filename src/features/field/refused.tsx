'use client';

import { useEffect, useState } from 'react';
import { button, quietButton } from '@/ui/classes';
import { SheetDialog } from '@/ui/sheet-dialog';
import { useField } from './field';
import { refusedItems, tryAgain } from './outbox';
import type { Waiting } from './store';

const kinds: Record<Waiting['item']['kind'], string> = {
  test: 'A test',
  run: 'An attempt',
  events: 'Readings or notes',
  sections: 'A system’s sections',
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
  const { store, send } = useField();
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
        <button type="button" className={`${button} min-h-12`} onClick={again}>
          Try again
        </button>
        <button type="button" className={`${quietButton} min-h-12`} onClick={save}>
          Save to a file
        </button>
        <button type="button" className={`${quietButton} min-h-12`} disabled={!saved} onClick={remove}>
          Remove from this device
        </button>
      </div>
      {!saved && <p className="mt-2 text-sm text-quiet">They can be removed once they are saved to a file.</p>}
    </SheetDialog>
  );
}
