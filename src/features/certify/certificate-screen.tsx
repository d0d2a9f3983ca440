'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { TestVerdict } from '@/core/course';
import { newId, now } from '@/device/clock';
import { Page } from '@/features/frame/page';
import { Button } from '@/ui/button';
import { button, link, quietButton, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { Picture } from '@/ui/picture';
import { post } from '@/ui/post';
import { PostForm } from '@/ui/post-form';
import { VerdictMark } from '@/ui/verdict-mark';
import { PdfPreview } from './pdf-preview';
import { SignForm } from './sign-form';

interface Props {
  readonly testId: string;
  readonly runId: string;
  readonly site: string;
  readonly system: string;
  readonly technician: string;
  readonly verdict: TestVerdict;
  readonly judgementHash: string;
  readonly missing: readonly string[];
  /** Photographs that are named and have not come. */
  readonly photosOnTheWay: number;
  /** Those that are here, each with what it is evidence of. */
  readonly photographs: readonly { readonly hash: string; readonly label: string }[];
  readonly voided: readonly string[];
  readonly signed: readonly { readonly role: string; readonly name: string }[];
  readonly lateEvents: number;
  readonly lateAttempts: number;
  readonly details: {
    readonly jobOrigin: string;
    readonly visualInspection: string;
    readonly meterNumber: string;
    readonly meterReading: string;
  };
  readonly maySeal: boolean;
  readonly mayCorrect: boolean;
  readonly sealed?: {
    readonly id: string;
    readonly number: string;
    readonly checkCode: string;
    readonly hash: string;
    readonly corrects?: { readonly number: string; readonly reason: string };
    readonly all: readonly { readonly id: string; readonly number: string }[];
  };
}

/** Beside the real PDF: what is still missing, the signatures, the seal, and what can be downloaded. */
export function CertificateScreen(props: Props) {
  const { testId, runId, site, system, verdict, sealed } = props;
  return (
    <Page
      width="whole"
      trail={
        <a href="/certificates" className="underline">
          Certificates
        </a>
      }
      title={sealed === undefined ? 'Certificate, not sealed yet' : `Certificate ${sealed.number}`}
      line={`${system}, ${site}`}
    >
      <div className="grid gap-8 xl:grid-cols-[22rem_minmax(0,1fr)]">
        <div className="space-y-6">
          <p>
            <VerdictMark verdict={verdict} />{' '}
            <a href={`/field?run=${runId}&view=verdict`} className={`${link} ml-2 text-sm`}>
              reasons and trace
            </a>
          </p>
          {sealed === undefined ? <Unsealed {...props} /> : <Sealed {...props} sealed={sealed} />}
          {props.photographs.length > 0 && (
            <section aria-label="Photographs">
              <h2 className={subheading}>Photographs</h2>
              <ul className="mt-1 flex flex-wrap gap-3">
                {props.photographs.map(({ hash, label }) => (
                  <li key={`${hash} ${label}`}>
                    <Picture address={`/api/photos/${hash}`} label={label} />
                  </li>
                ))}
              </ul>
            </section>
          )}
          {props.lateEvents + props.lateAttempts > 0 && (
            <Notice tone="caution">
              After sealing there arrived {props.lateEvents} event{props.lateEvents === 1 ? '' : 's'}
              {props.lateAttempts > 0 && ` and ${props.lateAttempts} whole attempt${props.lateAttempts === 1 ? '' : 's'}`}. They are kept
              and flagged, and were not judged. To have them judged, plan a new test of the system.
            </Notice>
          )}
        </div>
        <PdfPreview
          address={sealed === undefined ? `/api/tests/${testId}/draft` : `/api/certificates/${sealed.id}/pdf?inline`}
          key={sealed?.id ?? props.missing.length}
        />
      </div>
    </Page>
  );
}

function Unsealed({ testId, technician, judgementHash, missing, photosOnTheWay, voided, signed, maySeal }: Props) {
  const router = useRouter();
  const [fault, setFault] = useState<string>();
  const [withoutPhotos, setWithoutPhotos] = useState(false);
  // One signature, however often its sending is tried.
  const [signing, setSigning] = useState(() => ({ id: newId(), signedAt: now() }));
  const role = (['technician', 'customer'] as const).find((one) => !signed.some((done) => done.role === one));
  const seal = async () => {
    const result = await post('POST /api/tests/[id]/seal', { id: testId }, { withoutPhotos });
    if (result.ok) router.refresh();
    else setFault(result.problem.message);
  };
  return (
    <>
      {missing.length > 0 && (
        <section>
          <h2 className={subheading}>Still missing</h2>
          <ul className="mt-1 list-inside list-[square]">
            {missing.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      {voided.length > 0 && (
        <Notice tone="caution">
          Something was written after {voided.join(' and ')} signed, so that signature no longer counts. Sign again.
        </Notice>
      )}
      {signed.map(({ role: who, name }) => (
        <p key={who}>
          <b className="first-letter:uppercase">{who === 'technician' ? 'Technician' : 'Customer'}:</b> {name}
        </p>
      ))}
      {maySeal && role !== undefined && !missing.some((line) => line.startsWith('The test is still')) && (
        <SignForm
          key={role}
          role={role}
          suggestedName={role === 'technician' ? technician : ''}
          save={async (form) => {
            const result = await post('POST /api/tests/[id]/signature', { id: testId }, { ...form, ...signing, role, judgementHash });
            if (result.ok) {
              setSigning({ id: newId(), signedAt: now() });
              router.refresh();
            }
            return result.ok ? undefined : result.problem.message;
          }}
        />
      )}
      {photosOnTheWay > 0 && (
        <Notice tone="caution">
          {photosOnTheWay === 1 ? 'A photograph is' : `${photosOnTheWay} photographs are`} named and not here yet: the device sends them
          after the readings.
          {maySeal && (
            <label className="mt-2 flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-(--action)"
                checked={withoutPhotos}
                onChange={(event) => setWithoutPhotos(event.target.checked)}
              />
              Seal without; the certificate says so
            </label>
          )}
        </Notice>
      )}
      {!maySeal && <p className="text-quiet">A technician or a supervisor signs and seals.</p>}
      <div hidden={!maySeal}>
        <Button size="great" className="w-full" disabled={missing.length > 0 || (photosOnTheWay > 0 && !withoutPhotos)} onClick={seal}>
          Seal the certificate
        </Button>
        <p className="mt-1 text-sm text-quiet">A sealed certificate never changes. A correction is a new one that names the old.</p>
        {fault !== undefined && (
          <p role="alert" className="mt-2 font-medium text-stop">
            {fault}
          </p>
        )}
      </div>
    </>
  );
}

function Sealed({ sealed, details, mayCorrect, testId }: Props & { readonly sealed: NonNullable<Props['sealed']> }) {
  const router = useRouter();
  return (
    <>
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
        <p className="mt-1 text-sm text-quiet">The PDF holds the open record; the JSON is that record; the CSV is its readings.</p>
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
      {mayCorrect && (
        <Disclosure className="border-t border-line pt-3" look="font-medium" title="Correct its particulars">
          <div className="mt-3">
            <CorrectForm id={sealed.id} details={details} done={(id) => router.push(`/certificates/test/${testId}?certificate=${id}`)} />
          </div>
        </Disclosure>
      )}
    </>
  );
}

function CorrectForm({
  id,
  details,
  done,
}: {
  readonly id: string;
  readonly details: Props['details'];
  readonly done: (id: string) => void;
}) {
  const [meterNumber, setMeterNumber] = useState(details.meterNumber);
  const [meterReading, setMeterReading] = useState(details.meterReading);
  const field = 'min-h-11 w-full border border-line bg-surface px-3 py-2';
  return (
    <div className="space-y-3">
      <p className="text-sm text-quiet">Only particulars can be corrected. Readings and verdict stay; a wrong test is repeated.</p>
      <label className="block">
        Meter number
        <input className={field} value={meterNumber} onChange={(event) => setMeterNumber(event.target.value)} />
      </label>
      <label className="block">
        Meter reading
        <input className={field} value={meterReading} onChange={(event) => setMeterReading(event.target.value)} />
      </label>
      <PostForm<{ id: string }>
        route="POST /api/certificates/[id]/correct"
        parts={{ id }}
        submit="Issue the correction"
        done={(made) => done(made.id)}
        extra={{ details: { meterNumber, meterReading } }}
        fields={[{ name: 'reason', label: 'What is corrected, and why' }]}
      />
    </div>
  );
}
