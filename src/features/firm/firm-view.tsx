'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { addressOf } from '@/core/permissions';
import { Page } from '@/features/frame/page';
import { Button, buttonLook } from '@/ui/button';
import { input, subheading } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { PostForm } from '@/ui/post-form';
import { useToast } from '@/ui/toasts';

export interface FirmSettings {
  readonly name: string;
  readonly address: string;
  readonly registration: string;
  readonly emergencyNumber: string;
  readonly supplierNumber: string;
  readonly mail: string;
  readonly zone: string;
  readonly locale: string;
  readonly sheet: string;
  readonly countersign: boolean;
  readonly logo: string;
}

/** What stands on every paper that is sealed from now on. */
export function FirmView({
  settings,
  people,
  mayChange,
}: {
  readonly settings: FirmSettings;
  readonly people: readonly { readonly id: string; readonly name: string; readonly role: string; readonly licence: string }[];
  readonly mayChange: boolean;
}) {
  const router = useRouter();
  const say = useToast();
  const done = () => {
    say('Kept. Papers sealed from now on say it.');
    router.refresh();
  };
  if (!mayChange)
    return (
      <Page title={settings.name} line={settings.address}>
        <p>Supervisors and the office change what the firm states of itself.</p>
      </Page>
    );
  return (
    <Page
      title="Firm"
      line="What stands on its papers. A paper that is sealed keeps what stood then."
      actions={
        <a href="/firm/data" className={buttonLook('quiet')}>
          Data in and out
        </a>
      }
    >
      <div className="grid gap-10 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <section aria-labelledby="stated">
          <h2 id="stated" className={subheading}>
            On the papers
          </h2>
          <div className="mt-3">
            <PostForm
              route="POST /api/firm"
              submit="Keep it"
              columns
              done={done}
              fields={[
                { name: 'name', label: 'Name', initial: settings.name },
                { name: 'registration', label: 'Registration number', initial: settings.registration },
                { name: 'address', label: 'Address', initial: settings.address },
                { name: 'mail', label: 'Mail address for answers', kind: 'email', initial: settings.mail },
                {
                  name: 'emergencyNumber',
                  label: 'Emergency number',
                  help: 'Shown wherever gas is smelt or water runs.',
                  initial: settings.emergencyNumber,
                },
                { name: 'supplierNumber', label: 'Supplier’s number', initial: settings.supplierNumber },
                { name: 'zone', label: 'Time zone', help: 'As Continent/City, or UTC.', initial: settings.zone },
                {
                  name: 'locale',
                  label: 'Dates are written',
                  kind: 'choice',
                  initial: settings.locale,
                  options: [
                    { value: 'en-GB', label: '1 December 2026, 14:05' },
                    { value: 'en-US', label: 'December 1, 2026, 2:05 pm' },
                  ],
                },
                {
                  name: 'sheet',
                  label: 'Sheet',
                  kind: 'choice',
                  initial: settings.sheet,
                  options: [
                    { value: 'A4', label: 'A4' },
                    { value: 'letter', label: 'Letter' },
                  ],
                },
                {
                  name: 'countersign',
                  label: 'A supervisor countersigns before a paper is sealed',
                  kind: 'check',
                  initial: settings.countersign,
                },
              ]}
            />
          </div>
        </section>
        <div className="space-y-10">
          <Logo logo={settings.logo} done={done} />
          <section aria-labelledby="licences">
            <h2 id="licences" className={subheading}>
              Licences
            </h2>
            <ul className="mt-2 space-y-3">
              {people.map(({ id, name, role, licence }) => (
                <li key={id} className="border-b border-line pb-3">
                  <p className="font-medium">
                    {name} <span className="text-sm text-quiet">{role}</span>
                  </p>
                  <PostForm
                    route="POST /api/people/[id]/licence"
                    parts={{ id }}
                    submit={`Keep ${name.split(' ')[0]}’s licence`}
                    done={done}
                    fields={[{ name: 'licence', label: 'Licence number', initial: licence }]}
                  />
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </Page>
  );
}

function Logo({ logo, done }: { readonly logo: string; readonly done: () => void }) {
  const [fault, setFault] = useState<string>();
  const send = async (body: Blob) => {
    setFault(undefined);
    try {
      const response = await fetch(addressOf('POST /api/firm/logo'), { method: 'POST', body });
      if (response.ok) return done();
      setFault((await response.json()).problem?.message ?? 'The picture could not be kept.');
    } catch {
      setFault('The server cannot be reached. Try again with signal.');
    }
  };
  return (
    <section aria-labelledby="logo">
      <h2 id="logo" className={subheading}>
        Logo
      </h2>
      {logo === '' ? (
        <p className="mt-1 text-quiet">None: the firm’s name stands alone.</p>
      ) : (
        // biome-ignore lint/performance/noImgElement: from its own address, already small
        <img src={`/api/photos/${logo}`} alt="The logo as papers carry it" className="mt-2 max-h-24 border border-line bg-white p-2" />
      )}
      <label className="mt-2 block text-sm">
        A picture (JPEG, PNG or WebP)
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          className={`${input} mt-1`}
          onChange={({ target }) => target.files?.[0] !== undefined && send(target.files[0])}
        />
      </label>
      {logo !== '' && (
        <Button tone="quiet" className="mt-2" onClick={() => send(new Blob([]))}>
          Take it off
        </Button>
      )}
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
    </section>
  );
}
