'use client';

import { useId, useRef, useState } from 'react';
import type { SignerRole } from '@/core/record';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { SignatureField, type SignatureHandle } from '@/ui/signature-field';

export interface SignedForm {
  readonly name: string;
  readonly absent: string;
  readonly refused: boolean;
  readonly strokes: number[][];
}

const who: Readonly<Record<SignerRole, string>> = {
  technician: 'Technician',
  customer: 'Customer or witness',
  supervisor: 'Supervisor',
};
const submits: Readonly<Record<SignerRole, string>> = {
  technician: 'Sign as technician',
  customer: 'Keep the customer’s signature',
  supervisor: 'Countersign',
};

const ways = [
  { value: 'signs', label: 'Signs here' },
  { value: 'nobody', label: 'Nobody is there' },
  { value: 'refuses', label: 'Will not sign' },
] as const;
type Way = (typeof ways)[number]['value'];

/** One person's signature: the technician's, the supervisor's, or the customer's or a witness's, or why there is none. */
export function SignForm({
  as: role,
  suggestedName,
  elsewhere = false,
  save,
}: {
  readonly as: SignerRole;
  readonly suggestedName: string;
  /** They sign on a device of their own: nobody else is there to say so. */
  readonly elsewhere?: boolean;
  readonly save: (form: SignedForm) => Promise<string | undefined>;
}) {
  const [name, setName] = useState(suggestedName);
  const [way, setWay] = useState<Way>('signs');
  const [absent, setAbsent] = useState('');
  const [fault, setFault] = useState<string>();
  const field = useRef<SignatureHandle>(null);
  const id = useId();
  const submit = async () => {
    const strokes = field.current?.strokes() ?? [];
    if (way === 'signs' && strokes.flat().length < 8) return setFault('Sign in the field above.');
    if (way !== 'nobody' && name.trim() === '') return setFault('Write the name of the person.');
    if (way !== 'signs' && absent.trim() === '') return setFault('Write why; the paper says it.');
    setFault(
      await save({
        name: name.trim() || 'Nobody',
        absent: way === 'signs' ? '' : absent.trim(),
        refused: way === 'refuses',
        strokes: way === 'signs' ? strokes : [],
      }),
    );
  };
  return (
    <div className="max-w-lg space-y-3">
      <h3 className="font-semibold">{who[role]}</h3>
      {role === 'customer' && (
        <Choice
          label="Customer or witness"
          options={elsewhere ? ways.filter(({ value }) => value !== 'nobody') : ways}
          value={way}
          change={setWay}
        />
      )}
      {way !== 'nobody' && (
        <label className="block text-sm">
          Name
          <input className={`${input} mt-1 text-base`} value={name} onChange={(event) => setName(event.target.value)} />
        </label>
      )}
      {way === 'signs' ? (
        <SignatureField label={`${who[role]} signs here`} ref={field} />
      ) : (
        <label className="block text-sm" htmlFor={id}>
          {way === 'nobody' ? 'Why nobody signs' : 'Why they will not'}
          <input id={id} className={`${input} mt-1 text-base`} value={absent} onChange={(event) => setAbsent(event.target.value)} />
        </label>
      )}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <div className="flex gap-3">
        <Button size="great" onClick={submit}>
          {way !== 'signs' ? 'Keep it' : elsewhere ? 'Sign' : submits[role]}
        </Button>
        {way === 'signs' && (
          <Button tone="quiet" size="great" onClick={() => field.current?.clear()}>
            Clear
          </Button>
        )}
      </div>
    </div>
  );
}
