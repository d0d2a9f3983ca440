'use client';

import { useRouter } from 'next/navigation';
import { Page } from '@/features/frame/page';
import { Choice } from '@/ui/choice';
import { subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Simulated } from '@/ui/notice';
import { post } from '@/ui/post';
import { dayText, hourText } from '@/ui/when';
import { MessageList, type ShownMessage } from './message-list';

interface Got {
  readonly at: number;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly attachments: readonly { readonly name: string; readonly bytes: number }[];
}

/** The firm's outbox, and beside it the simulated mail server where no real one is set. */
export function MailView({
  messages,
  standIn,
}: {
  readonly messages: readonly ShownMessage[];
  readonly standIn?: { readonly mode: string; readonly modes: readonly string[]; readonly got: readonly Got[] };
}) {
  const router = useRouter();
  return (
    <Page title="Mail" line="What went to whom, and what became of it.">
      <div className="grid gap-10 lg:grid-cols-2">
        <section aria-labelledby="outbox">
          <h2 id="outbox" className={subheading}>
            Outbox
          </h2>
          {messages.length === 0 && (
            <p className="mt-1 text-quiet">Nothing yet. Papers are sent from their own page once they are sealed.</p>
          )}
          {messages.length > 0 && <MessageList messages={messages} withSubject />}
        </section>
        {standIn !== undefined && (
          <section aria-labelledby="stand-in">
            <h2 id="stand-in" className={subheading}>
              Mail server <Simulated />
            </h2>
            <p className="mt-1 text-quiet">
              No real server is set, so mail goes to this stand-in and to nobody else. It keeps what it got until the program ends.
            </p>
            <Choice
              className="mt-3"
              label="What the stand-in does"
              options={standIn.modes.map((mode) => ({ value: mode, label: `It ${mode === 'takes' ? 'takes everything' : mode}` }))}
              value={standIn.mode}
              change={async (mode) => {
                await post('POST /api/mail/stand-in', {}, { mode });
                router.refresh();
              }}
            />
            <ul className="mt-4 divide-y divide-line border-y border-line">
              {standIn.got.map(({ at, to, subject, text, attachments }) => (
                <li key={`${at} ${to} ${subject}`} className="py-2">
                  <p className="font-medium">{subject}</p>
                  <p className="break-all text-sm text-quiet">
                    To {to}, {dayText(at)}, {hourText(at)}
                    {attachments.map(({ name, bytes }) => `, with ${name} (${Math.round(bytes / 1024)} kB)`).join('')}
                  </p>
                  <Disclosure look="text-sm" title="Its words">
                    <p className="whitespace-pre-wrap break-words text-sm">{text}</p>
                  </Disclosure>
                </li>
              ))}
              {standIn.got.length === 0 && <li className="py-2 text-quiet">It got nothing yet.</li>}
            </ul>
          </section>
        )}
      </div>
    </Page>
  );
}
