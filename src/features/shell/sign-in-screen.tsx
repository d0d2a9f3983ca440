'use client';

import { useState } from 'react';
import { object, string } from 'yup';
import { now } from '@/device/clock';
import { countdown, useNow } from '@/device/use-now';
import { Button } from '@/ui/button';
import { post } from '@/ui/post';
import { PostForm } from '@/ui/post-form';
import { ThemeSwitch } from '@/ui/theme-switch';

const schema = object({
  email: string().trim().email('Type an e-mail address.').required('Type your e-mail address.'),
  password: string().required('Type your password.'),
});

/** When whoever has to wait may try. */
function Turn({ at }: { readonly at: number }) {
  const time = useNow(500);
  return (
    <p role="status" className="mt-3 font-medium">
      {at > time ? (
        <>
          Your turn comes in <span className="figures">{countdown(at - time)}</span>. Leave this page open.
        </>
      ) : (
        'Your turn: press Sign in now.'
      )}
    </p>
  );
}

export function SignInScreen({
  demo,
}: {
  readonly demo: readonly { readonly name: string; readonly email: string; readonly role: string; readonly password: string }[];
}) {
  const [fault, setFault] = useState<string>();
  const [turn, setTurn] = useState<{ readonly ticket?: string; readonly at: number }>();
  const enter = () => location.assign('/');
  return (
    <main className="mx-auto grid min-h-dvh max-w-5xl content-center gap-12 p-6 md:grid-cols-2">
      <div className="self-center">
        <svg viewBox="0 0 40 24" className="mb-3 h-14" aria-hidden="true">
          <path d="M0 14h18v10H0zM20 14h20v10H20zM6 2h26q6 0 6 6v4H6z" fill="var(--action)" />
        </svg>
        <h1 className="text-4xl font-bold tracking-tight">Vast Stone</h1>
        <p className="mt-3 max-w-sm text-lg leading-snug">
          You always know what to do next, how long for, whether it passed, why, and how sure you can be.
        </p>
        <p className="mt-6 text-sm text-quiet">
          Holding a certificate?{' '}
          <a href="/check" className="font-medium underline">
            Check its seal
          </a>
          , no account needed.
        </p>
        <p className="mt-1 text-sm text-quiet">
          A quick sum?{' '}
          <a href="/bench" className="font-medium underline">
            Bench
          </a>{' '}
          works without an account, and with no signal.
        </p>
      </div>
      <div className="slab p-6">
        <div className="flex items-center justify-between">
          <h2 className="text-xl font-semibold">Sign in</h2>
          <ThemeSwitch />
        </div>
        <div className="mt-3">
          <PostForm
            route="POST /api/sign-in"
            submit="Sign in"
            schema={schema}
            done={enter}
            extra={turn?.ticket === undefined ? {} : { ticket: turn.ticket }}
            refused={({ retryAfter, ticket }) => setTurn(retryAfter === undefined ? undefined : { ticket, at: now() + retryAfter * 1000 })}
            fields={[
              { name: 'email', label: 'E-mail', kind: 'email', autoComplete: 'username' },
              { name: 'password', label: 'Password', kind: 'password', autoComplete: 'current-password' },
            ]}
          />
        </div>
        {turn !== undefined && <Turn at={turn.at} />}
        {demo.length > 0 && (
          <section className="mt-6 border-t border-line pt-4" aria-label="Demo people">
            <p className="text-sm text-quiet">Demo firm, all invented. Enter as:</p>
            <ul className="mt-2 grid gap-2 sm:grid-cols-2">
              {demo.map(({ name, email, role, password }) => (
                <li key={email}>
                  <Button
                    tone="quiet"
                    className="w-full flex-col !gap-0"
                    onClick={async () => {
                      const result = await post('POST /api/sign-in', {}, { email, password });
                      if (result.ok) enter();
                      else setFault(result.problem.message);
                    }}
                  >
                    {name}
                    <span className="text-sm font-normal text-quiet">{role}</span>
                  </Button>
                </li>
              ))}
            </ul>
            {fault !== undefined && (
              <p role="alert" className="mt-2 text-stop">
                {fault}
              </p>
            )}
          </section>
        )}
      </div>
    </main>
  );
}
