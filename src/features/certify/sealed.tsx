'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { ShownFollowUp } from '@/core/register';
import { useToday } from '@/device/use-today';
import { AddFollowUp, FollowUpList } from '@/features/follow-ups/follow-up-list';
import type { ShownMessage } from '@/features/mail/message-list';
import { SendPaper } from '@/features/mail/send-paper';
import { Choice } from '@/ui/choice';
import { button, link, quietButton, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { PostForm } from '@/ui/post-form';
import { dayText } from '@/ui/when';

interface Particulars {
  readonly system: string;
  readonly meterNumber: string;
  readonly meterReading: string;
}

export interface SealedProps {
  readonly testId: string;
  readonly id: string;
  readonly number: string;
  readonly checkCode: string;
  readonly hash: string;
  readonly corrects?: { readonly number: string; readonly reason: string };
  readonly all: readonly { readonly id: string; readonly number: string }[];
  /** Of each of its tests, in the paper's order. */
  readonly particulars: readonly Particulars[];
  readonly mayCorrect: boolean;
  readonly withdrawn?: { readonly at: number; readonly reason: string };
  readonly messages: readonly ShownMessage[];
  readonly followUps: readonly ShownFollowUp[];
  readonly systemId: string;
  readonly people: readonly { readonly id: string; readonly name: string }[];
  /** Mail goes to the stand-in. */
  readonly simulatedMail: boolean;
}

export function Sealed({ particulars, mayCorrect, testId, messages, simulatedMail, followUps, systemId, people, ...sealed }: SealedProps) {
  const router = useRouter();
  const today = useToday();
  return (
    <>
      {sealed.withdrawn !== undefined && (
        <Notice tone="stop">
          Withdrawn on {dayText(sealed.withdrawn.at)}: {sealed.withdrawn.reason}
        </Notice>
      )}
      {sealed.corrects !== undefined && (
        <Notice>
          Corrects {sealed.corrects.number}: {sealed.corrects.reason}
        </Notice>
      )}
      <section>
        <h2 className={subheading}>Download</h2>
        <div className="mt-2 grid grid-cols-3 gap-2">
          {(['pdf', 'json', 'csv'] as const).map((kind) => (
            <a key={kind} className={quietButton} href={`/api/certificates/${sealed.id}/${kind}`} download>
              {kind.toUpperCase()}
            </a>
          ))}
        </div>
        <p className="mt-2 text-sm">
          <a className={link} href={`/certificates/${sealed.id}/receipt`}>
            Receipt strip
          </a>
        </p>
        <p className="mt-1 text-sm text-quiet">The PDF holds the open record; the JSON is that record; the CSV is its readings.</p>
      </section>
      <SendPaper certificateId={sealed.id} messages={messages} simulated={simulatedMail} />
      <section aria-label="Follow-ups">
        <h2 className={subheading}>Follow-ups of this system</h2>
        {followUps.length > 0 && <FollowUpList followUps={followUps} today={today} />}
        <div className="mt-2">
          <AddFollowUp key={followUps.length} systemId={systemId} testId={testId} people={people} />
        </div>
      </section>
      <section>
        <h2 className={subheading}>Seal</h2>
        <p className="figures break-all text-xs text-quiet" data-testid="seal-hash">
          {sealed.hash}
        </p>
        <p className="mt-1">
          <a className={link} href={`/check/${sealed.checkCode}`}>
            Public check page
          </a>{' '}
          <span className="text-sm text-quiet">no account needed</span>
        </p>
      </section>
      {sealed.all.length > 1 && (
        <nav aria-label="Certificates of this test" className="flex flex-wrap gap-2">
          {sealed.all.map(({ id, number }) => (
            <a
              key={id}
              href={`/certificates/test/${testId}?certificate=${id}`}
              aria-current={id === sealed.id}
              className={id === sealed.id ? button : quietButton}
            >
              {number}
            </a>
          ))}
        </nav>
      )}
      {mayCorrect && sealed.withdrawn === undefined && (
        <Disclosure className="border-t border-line pt-3" look="font-medium" title="Withdraw it">
          <div className="mt-3 space-y-3">
            <p className="text-sm text-quiet">It stays on file as it is; whoever checks it is told why nobody is to rely on it.</p>
            <PostForm
              route="POST /api/certificates/[id]/withdraw"
              parts={{ id: sealed.id }}
              submit="Withdraw the certificate"
              done={() => router.refresh()}
              fields={[{ name: 'reason', label: 'Why nobody is to rely on it' }]}
            />
          </div>
        </Disclosure>
      )}
      {mayCorrect && (
        <Disclosure className="border-t border-line pt-3" look="font-medium" title="Correct its particulars">
          <div className="mt-3">
            <CorrectForm
              id={sealed.id}
              particulars={particulars}
              done={(id) => router.push(`/certificates/test/${testId}?certificate=${id}`)}
            />
          </div>
        </Disclosure>
      )}
    </>
  );
}

function CorrectForm({
  id,
  particulars,
  done,
}: {
  readonly id: string;
  readonly particulars: readonly Particulars[];
  readonly done: (id: string) => void;
}) {
  const [place, setPlace] = useState(1);
  return (
    <div className="space-y-3">
      <p className="text-sm text-quiet">Only particulars can be corrected. Readings and verdict stay; a wrong test is repeated.</p>
      {particulars.length > 1 && (
        <Choice
          label="Of which test"
          options={particulars.map(({ system }, index) => ({ value: String(index + 1), label: system }))}
          value={String(place)}
          change={(chosen) => setPlace(Number(chosen))}
        />
      )}
      <PostForm<{ id: string }>
        key={place}
        route="POST /api/certificates/[id]/correct"
        parts={{ id }}
        submit="Issue the correction"
        done={(made) => done(made.id)}
        shape={({ reason, ...details }) => ({ reason, place, details })}
        fields={[
          { name: 'meterNumber', label: 'Meter number', initial: particulars[place - 1]?.meterNumber ?? '' },
          { name: 'meterReading', label: 'Meter reading', initial: particulars[place - 1]?.meterReading ?? '' },
          { name: 'reason', label: 'What is corrected, and why' },
        ]}
      />
    </div>
  );
}
