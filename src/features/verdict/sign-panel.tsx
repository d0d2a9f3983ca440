'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { canonical, sha256 } from '@/core/exact';
import { judge } from '@/core/judging';
import { newId, now } from '@/device/clock';
import { eventsOf } from '@/device/log';
import { useDevice } from '@/device/provider';
import { SignForm } from '@/features/certify/sign-form';
import { subheading } from '@/ui/classes';

/** Signatures on site, also with no signal: they bind the judgement and wait in the outbox for the seal. */
export function SignPanel({ testId }: { readonly testId: string }) {
  const { store, person, send } = useDevice();
  const [signed, setSigned] = useState<readonly string[]>([]);
  const [hash, setHash] = useState<string>();
  const look = useCallback(async () => {
    const runs = (await store.runs.where('testId').equals(testId).toArray()).sort((a, b) => a.number - b.number);
    const judgements = await Promise.all(runs.map(async ({ id, plan }) => judge(plan, await eventsOf(store, id))));
    const bound = sha256(canonical(judgements));
    setHash(bound);
    setSigned(
      (await store.signatures.where('testId').equals(testId).toArray())
        .filter(({ judgementHash }) => judgementHash === bound)
        .map(({ role }) => role),
    );
  }, [store, testId]);
  useEffect(() => {
    look();
  }, [look]);
  const busy = useRef(false);
  if (hash === undefined) return null;
  const role = (['technician', 'customer'] as const).find((one) => !signed.includes(one));
  return (
    <section className="mt-8 border-t border-line pt-4" aria-label="Signatures">
      <h2 className={subheading}>Sign</h2>
      {role === undefined ? (
        <p role="status">Signed, not yet sealed. The seal is made on the certificate’s page, with signal.</p>
      ) : (
        <SignForm
          key={role}
          as={role}
          suggestedName={role === 'technician' ? person.name : ''}
          save={async (form) => {
            if (busy.current) return undefined;
            busy.current = true;
            const signature = { ...form, id: newId(), role, judgementHash: hash, signedAt: now() };
            await store.transaction('rw', ['signatures', 'outbox'], async ({ signatures, outbox }) => {
              await signatures.add({ id: signature.id, testId, role, name: form.name, judgementHash: hash });
              await outbox.add({ item: { kind: 'signature', testId, signature } } as never);
            });
            busy.current = false;
            send();
            await look();
            return undefined;
          }}
        />
      )}
    </section>
  );
}
