'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { PostForm } from '@/ui/post-form';
import { ShareText } from '@/ui/share-text';
import { dayText } from '@/ui/when';

/** A private link for somebody who is not here: they read the paper and sign it on a device of their own. */
export function SignLink({
  testId,
  also,
  occupier,
  links,
}: {
  readonly testId: string;
  readonly also: readonly string[];
  readonly occupier: string;
  readonly links: readonly { readonly id: string; readonly name: string; readonly expiresAt: number }[];
}) {
  const router = useRouter();
  const [made, setMade] = useState<{ readonly address: string; readonly expiresAt: number }>();
  return (
    <Disclosure className="border-t border-line pt-3" look="font-medium" title="They sign elsewhere: a private link">
      <div className="mt-3 space-y-3">
        {links.map(({ id, name, expiresAt }) => (
          <p key={id} className="text-sm text-quiet">
            {name} was asked; the link holds until {dayText(expiresAt)}.
          </p>
        ))}
        {made === undefined ? (
          <PostForm<{ address: string; expiresAt: number }>
            route="POST /api/tests/[id]/sign-link"
            parts={{ id: testId }}
            extra={{ also }}
            submit="Make the link"
            fields={[{ name: 'name', label: 'Who is to sign', initial: occupier }]}
            done={(value) => {
              setMade(value);
              router.refresh();
            }}
          />
        ) : (
          <>
            <label className="block text-sm">
              The link, until {dayText(made.expiresAt)}; it is shown only now
              <input readOnly className={`${input} figures mt-1`} value={made.address} onFocus={({ target }) => target.select()} />
            </label>
            <ShareText text={made.address} className="" />
          </>
        )}
      </div>
    </Disclosure>
  );
}
