'use client';

import { useRef, useState } from 'react';
import { Button } from '@/ui/button';
import { input } from '@/ui/classes';
import { SignatureField, type SignatureHandle } from '@/ui/signature-field';

export interface SignedForm {
  readonly name: string;
  readonly absent: string;
  readonly strokes: number[][];
}

/** One person's signature: the technician's, or the customer's or a witness's, or why there is none. */
export function SignForm({
  role,
  suggestedName,
  save,
}: {
  readonly role: 'technician' | 'customer';
  readonly suggestedName: string;
  readonly save: (form: SignedForm) => Promise<string | undefined>;
}) {
  const [name, setName] = useState(suggestedName);
  const [absent, setAbsent] = useState('');
  const [fault, setFault] = useState<string>();
  const field = useRef<SignatureHandle>(null);
  const submit = async () => {
    const strokes = field.current?.strokes() ?? [];
    if (absent.trim() === '' && strokes.flat().length < 8) return setFault('Sign in the field above.');
    if (absent.trim() === '' && name.trim() === '') return setFault('Write the name of the person who signs.');
    setFault(await save({ name: name.trim() || 'Nobody', absent: absent.trim(), strokes }));
  };
  const who = role === 'technician' ? 'Technician' : 'Customer or witness';
  return (
    <div className="max-w-lg space-y-3">
      <h3 className="font-semibold">{who}</h3>
      <label className="block text-sm">
        Name
        <input className={`${input} mt-1 text-base`} value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <SignatureField label={`${who} signs here`} ref={field} />
      {role === 'customer' && (
        <label className="block text-sm">
          Nobody can sign? Say why
          <input className={`${input} mt-1 text-base`} value={absent} onChange={(event) => setAbsent(event.target.value)} />
        </label>
      )}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <div className="flex gap-3">
        <Button size="great" onClick={submit}>
          {role === 'technician' ? 'Sign as technician' : 'Keep the customer’s signature'}
        </Button>
        <Button tone="quiet" size="great" onClick={() => field.current?.clear()}>
          Clear
        </Button>
      </div>
    </div>
  );
}
