'use client';

import { useState } from 'react';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';
import { SignForm } from './sign-form';

/** The signature of whoever holds the private link. */
export function SignRemote({ token, name }: { readonly token: string; readonly name: string }) {
  const [kept, setKept] = useState(false);
  if (kept)
    return (
      <Notice role="status">
        Thank you: your signature is kept, and the firm can seal the certificate. This link cannot be used again.
      </Notice>
    );
  return (
    <section aria-label="Sign" className="border-t border-line pt-4">
      <SignForm
        as="customer"
        suggestedName={name}
        elsewhere
        save={async (form) => {
          const result = await post('POST /api/sign/[token]', { token }, form);
          if (!result.ok) return result.problem.message;
          setKept(true);
          return undefined;
        }}
      />
    </section>
  );
}
