'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { input } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';

interface Look {
  readonly alarm: boolean;
  readonly says: string;
  readonly since?: string;
}

/** The one figure that is asked for, and what it means. */
export function TagForm({
  code,
  unit,
  readability,
  firm,
  number,
}: {
  readonly code: string;
  readonly unit: string;
  readonly readability: string;
  readonly firm: string;
  readonly number: string;
}) {
  const router = useRouter();
  const [value, setValue] = useState('');
  const [fault, setFault] = useState<string>();
  const [look, setLook] = useState<Look>();
  const [busy, setBusy] = useState(false);
  const send = async () => {
    if (busy) return;
    setBusy(true);
    setLook(undefined);
    const result = await post<Look>('POST /api/tag/[code]', { code }, { value });
    setBusy(false);
    if (!result.ok) return setFault(result.problem.message);
    setFault(undefined);
    setLook(result.value);
    setValue('');
    router.refresh();
  };
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
      className="space-y-3"
    >
      <label className="block">
        The gauge shows, in {unit}
        <span className="block text-sm text-quiet">As it stands there, to {readability}. Touch nothing.</span>
        <input
          className={`${input} figures mt-1 text-3xl`}
          inputMode="decimal"
          autoComplete="off"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          aria-invalid={fault !== undefined}
        />
      </label>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <Button size="great" type="submit">
        {busy ? 'Keeping it…' : 'Keep the reading'}
      </Button>
      {look !== undefined && (
        <Notice tone={look.alarm ? 'stop' : 'plain'} role="status">
          {look.says}
          {look.alarm && (
            <>
              {' '}
              {look.since !== undefined && `It happened since ${look.since}. `}Tell {firm}: <b className="figures">{number}</b>. Screw and
              drill no further where pipes may lie.
            </>
          )}
        </Notice>
      )}
    </form>
  );
}
