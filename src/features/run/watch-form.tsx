import { useState } from 'react';
import { now, offsetMinutes } from '@/device/clock';
import { Button } from '@/ui/button';
import { FigureInput } from '@/ui/figure-input';
import type { Inner } from './extra-dialog';
import { watchMoment } from './watch-moment';

/** Another clock beside the device's own: where there is no signal it vouches for the time of a hold. */
export function Watch({ open, close }: Inner) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  return (
    <form
      className="space-y-2 border-t border-line pt-3"
      onSubmit={async (event) => {
        event.preventDefault();
        const shows = watchMoment(text, now(), offsetMinutes());
        if (typeof shows === 'string') return setFault(shows);
        await open.write({ type: 'watch', shows });
        close();
      }}
    >
      <p>
        No signal? Read a watch off at the start and again before the end: it vouches for the time if this device is started anew, or its
        clock jumps, in between.
      </p>
      <label className="block font-medium">
        The watch shows now
        <FigureInput value={text} change={setText} placeholder="14:03:20" className="mt-1" />
      </label>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <Button type="submit" size="great" className="w-full" disabled={text.trim() === ''}>
        Write the watch’s time down
      </Button>
    </form>
  );
}
