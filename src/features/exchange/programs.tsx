'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { addressOf } from '@/core/permissions';
import { Button } from '@/ui/button';
import { input, link, subheading } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';
import { PostForm } from '@/ui/post-form';
import { dayText } from '@/ui/when';

export interface ShownToken {
  readonly id: string;
  readonly name: string;
  readonly madeAt: number;
  readonly expiresAt: number;
  readonly usedAt?: number;
  readonly state: 'valid' | 'ended' | 'over';
}

/** Other programs of the firm that may read: each by a token of its own, which is shown once. */
export function Programs({ tokens }: { readonly tokens: readonly ShownToken[] }) {
  const router = useRouter();
  const [made, setMade] = useState<string>();
  const [fault, setFault] = useState<string>();
  return (
    <section aria-labelledby="programs" className="space-y-3">
      <h2 id="programs" className={subheading}>
        Programs that read
      </h2>
      <p>
        With a token another program reads sites, tests and papers, and changes nothing.{' '}
        <a href={addressOf('GET /api/v1/openapi.json')} className={link}>
          Its description (OpenAPI)
        </a>
      </p>
      <PostForm<{ token: string }>
        route="POST /api/tokens"
        submit="Make a token"
        done={({ token }) => {
          setMade(token);
          router.refresh();
        }}
        fields={[
          { name: 'name', label: 'Which program it is for', initial: '' },
          { name: 'days', label: 'Valid for days', help: '1 to 730.', initial: '365' },
        ]}
      />
      {made !== undefined && (
        <Notice>
          <label className="block">
            Copy it now: it is shown this once.
            <input className={`${input} figures mt-1`} readOnly value={made} onFocus={({ target }) => target.select()} />
          </label>
        </Notice>
      )}
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
      {tokens.length > 0 && (
        <ul className="divide-y divide-line border-y border-line" aria-label="Tokens">
          {tokens.map(({ id, name, expiresAt, usedAt, state }) => (
            <li key={id} className="flex items-start justify-between gap-3 py-2">
              <span>
                <b>{name}</b>
                <span className="block text-sm text-quiet">
                  {state === 'ended'
                    ? 'ended'
                    : state === 'over'
                      ? `was valid until ${dayText(expiresAt)}`
                      : `valid until ${dayText(expiresAt)}`}
                  , {usedAt === undefined ? 'never used' : `last used ${dayText(usedAt)}`}
                </span>
              </span>
              {state === 'valid' && (
                <Button
                  tone="bare"
                  aria-label={`End it: the token of ${name}`}
                  onClick={async () => {
                    const ended = await post('POST /api/tokens/[id]/end', { id });
                    setFault(ended.ok ? undefined : ended.problem.message);
                    router.refresh();
                  }}
                >
                  End it
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
