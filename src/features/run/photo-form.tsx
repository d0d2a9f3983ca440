import { useState } from 'react';
import { now } from '@/device/clock';
import { hashBytes } from '@/device/hash';
import { input } from '@/ui/classes';
import type { Inner } from './extra-dialog';
import { scaledPicture } from './scaled-picture';

/** A photograph with its capture time, kept on the device at once and sent by itself. */
export function Photo({ open, close, slot }: Inner & { readonly slot?: string }) {
  const of = open.run.plan.evidence?.find(({ id }) => id === slot);
  const [fault, setFault] = useState<string>();
  const take = async (file: File | undefined) => {
    if (file === undefined) return;
    if (!file.type.startsWith('image/')) return setFault('This file is not a picture. Use a JPEG, PNG or WebP.');
    const takenAt = file.lastModified > 0 && file.lastModified <= now() ? file.lastModified : now();
    const picture = await scaledPicture(file);
    if (picture.size > 15 * 1024 * 1024) return setFault('The picture is larger than 15 MB. Take it at a lower resolution.');
    // Both are named: the picture that is sent, and the file as it was taken, which stays where it is.
    const [hash, original] = [await hashBytes(await picture.arrayBuffer()), await hashBytes(await file.arrayBuffer())];
    await open.write({ type: 'photo', hash, original, takenAt, text: '', ...(slot === undefined ? {} : { slot }) }, undefined, picture);
    close();
  };
  return (
    <div className="space-y-3">
      <p>{of === undefined ? 'The custom is the gauge beside a clock, at the start and at the end of the hold.' : `${of.label}.`}</p>
      <input
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Choose or take a picture"
        className={input}
        onChange={(event) => take(event.target.files?.[0])}
      />
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
    </div>
  );
}
