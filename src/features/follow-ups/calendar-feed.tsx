'use client';

import { useState } from 'react';
import { Button } from '@/ui/button';
import { input } from '@/ui/classes';
import { post } from '@/ui/post';
import { ShareText } from '@/ui/share-text';

/** A private address that one's calendar program asks for one's follow-ups by itself. */
export function CalendarFeed() {
  const [address, setAddress] = useState<string>();
  const [fault, setFault] = useState<string>();
  const make = async () => {
    const result = await post<{ address: string }>('POST /api/feed', {}, {});
    if (result.ok) setAddress(result.value.address);
    else setFault(result.problem.message);
  };
  return (
    <div className="mt-2 max-w-xl text-sm">
      {address === undefined ? (
        <Button tone="quiet" onClick={make}>
          My calendar address
        </Button>
      ) : (
        <>
          <label className="block">
            For your calendar program; whoever has it sees your follow-ups. A new one ends it.
            <input readOnly className={`${input} figures mt-1`} value={address} onFocus={({ target }) => target.select()} />
          </label>
          <ShareText text={address} />
        </>
      )}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
    </div>
  );
}
