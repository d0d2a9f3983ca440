import type { Metadata } from 'next';
import type { TestVerdict } from '@/core/course';
import { may } from '@/core/permissions';
import { CertificateScreen } from '@/features/certify/certificate-screen';
import { judgementHash, photographsIn, readCertificate, readDraft } from '@/server/certificates';
import { pageActor, valueOr404 } from '@/server/page';
import { verdictOf } from '@/server/tests';

export const metadata: Metadata = { title: 'Certificate' };

/** A test's certificate: what is still missing while it is a draft, and the sealed ones once there are any. */
export default async function CertificatePage({
  params,
  searchParams,
}: {
  readonly params: Promise<{ id: string }>;
  readonly searchParams: Promise<{ certificate?: string }>;
}) {
  const actor = await pageActor();
  const draft = valueOr404(await readDraft(actor, (await params).id));
  const { test } = draft;
  const wanted = (await searchParams).certificate;
  const listed = test.certificates.find(({ id }) => id === wanted) ?? test.certificates.at(-1);
  const sealed = listed === undefined ? undefined : valueOr404(await readCertificate(actor, listed.id));
  return (
    <CertificateScreen
      testId={test.test.id}
      runId={test.attempts.at(-1)?.id ?? ''}
      site={test.site.name}
      system={test.system.name}
      technician={actor.name}
      // What was sealed stands, whatever a later version of the judge makes of it.
      verdict={(listed?.verdict as TestVerdict | undefined) ?? verdictOf(test)?.verdict ?? 'in progress'}
      judgementHash={judgementHash(test)}
      missing={draft.missing}
      photosOnTheWay={draft.photosOnTheWay}
      photographs={photographsIn(test)}
      voided={draft.voided}
      signed={(draft.record.signatures ?? []).map(({ role, name, absent }) => ({
        role,
        name: absent === undefined ? name : `not signed, ${absent}`,
      }))}
      lateEvents={test.lateEvents}
      lateAttempts={test.lateAttempts}
      details={sealed?.parsed.tests[0]?.details ?? test.test.details}
      maySeal={may(actor.role, 'seal')}
      mayCorrect={may(actor.role, 'correct')}
      {...(sealed === undefined
        ? {}
        : {
            sealed: {
              id: sealed.id,
              number: sealed.number,
              checkCode: sealed.checkCode,
              hash: sealed.hash,
              corrects: sealed.parsed.certificate?.corrects,
              all: test.certificates.map(({ id, number }) => ({ id, number })),
            },
          })}
    />
  );
}
