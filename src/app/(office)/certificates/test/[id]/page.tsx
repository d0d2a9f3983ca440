import type { Metadata } from 'next';
import type { TestVerdict } from '@/core/course';
import { may } from '@/core/permissions';
import { type TestRecord, verdictOver } from '@/core/record';
import { CertificateScreen } from '@/features/certify/certificate-screen';
import { PaperView } from '@/features/papers/paper-view';
import { readCertificate } from '@/server/certificates';
import { judgementHash, othersOfVisit, photographsIn, readDraft } from '@/server/drafts';
import { listPeople } from '@/server/firms';
import { followUpsOf, shownFollowUp } from '@/server/follow-ups';
import { messagesOf, shownMessage } from '@/server/mail';
import { isStandIn } from '@/server/mail-stand-in';
import { pageActor, valueOr404 } from '@/server/page';
import { paperIn } from '@/server/papers';
import { openLinks } from '@/server/sign-links';
import { verdictOf } from '@/server/tests';
import { Notice } from '@/ui/notice';

export const metadata: Metadata = { title: 'Certificate' };

const listed = (text: string | readonly string[] | undefined): readonly string[] => (typeof text === 'string' ? [text] : (text ?? []));

/** A test's certificate: what is still missing while it is a draft, and the sealed ones once there are any. */
export default async function CertificatePage({
  params,
  searchParams,
}: {
  readonly params: Promise<{ id: string }>;
  readonly searchParams: Promise<{ certificate?: string; with?: string | string[] }>;
}) {
  const actor = await pageActor();
  const { id } = await params;
  const asked = await searchParams;
  const draft = valueOr404(await readDraft(actor, id, listed(asked.with)));
  const [test] = draft.tests;
  const found = test.certificates.find((one) => one.id === asked.certificate) ?? test.certificates.at(-1);
  const sealed = found === undefined ? undefined : valueOr404(await readCertificate(actor, found.id));
  const people = sealed === undefined ? [] : await listPeople(actor.firmId);
  const record = sealed?.parsed ?? draft.record;
  const nothing = record.tests.some(({ attempts }) => attempts.length === 0);
  const paper = nothing ? undefined : await paperIn(record);
  const address = sealed === undefined ? draftAddress(id, listed(asked.with)) : `/api/certificates/${sealed.id}/pdf?inline`;
  return (
    <CertificateScreen
      runId={test.attempts.at(-1)?.id ?? ''}
      site={test.site.name}
      system={record.tests.map(({ system }) => system?.name ?? '').join(', ')}
      // What was sealed stands, whatever a later version of the judge makes of it.
      verdict={
        (found?.verdict as TestVerdict | undefined) ?? verdictOver(draft.tests.map((one) => verdictOf(one)?.verdict ?? 'in progress'))
      }
      photographs={draft.tests.flatMap(photographsIn)}
      lateEvents={test.lateEvents}
      lateAttempts={test.lateAttempts}
      unsealed={{
        tests: draft.tests.map((one) => ({ id: one.test.id, judgementHash: judgementHash(one) })),
        person: actor.name,
        occupier: test.site.occupier,
        missing: draft.missing,
        photosOnTheWay: draft.photosOnTheWay,
        voided: draft.voided,
        signed: signedIn(draft.record),
        signedBy: draft.signed,
        maySeal: may(actor.role, 'seal'),
        mayCountersign: draft.countersign && actor.role === 'supervisor' && test.test.author !== actor.userId,
        others:
          sealed === undefined
            ? (await othersOfVisit(actor, id)).map(({ id: other, system, verdict, createdAt }) => ({
                id: other,
                system,
                verdict: verdict as TestVerdict,
                at: createdAt.getTime(),
              }))
            : [],
        address: `/certificates/test/${id}`,
        links: sealed === undefined ? await openLinks(actor, id) : [],
      }}
      {...(sealed === undefined
        ? {}
        : {
            sealed: {
              testId: id,
              id: sealed.id,
              number: sealed.number,
              checkCode: sealed.checkCode,
              hash: sealed.hash,
              corrects: sealed.parsed.certificate?.corrects,
              ...(sealed.withdrawn === undefined ? {} : { withdrawn: sealed.withdrawn }),
              all: test.certificates.map(({ id: own, number }) => ({ id: own, number })),
              particulars: sealed.parsed.tests.map(({ system, details }) => ({
                system: system?.name ?? '',
                ...(details ?? test.test.details),
              })),
              mayCorrect: may(actor.role, 'correct'),
              messages: (await messagesOf(actor, sealed.id)).map(shownMessage),
              simulatedMail: isStandIn(),
              followUps: (
                await followUpsOf(
                  actor.firmId,
                  draft.tests.map((one) => one.system.id),
                )
              ).map(shownFollowUp(new Map(people.map((one) => [one.id, one.name])))),
              systemId: test.system.id,
              people: people.map((one) => ({ id: one.id, name: one.name })),
            },
          })}
    >
      {paper === undefined ? (
        <Notice>Nothing was run yet, so there is no paper.</Notice>
      ) : !paper.ok ? (
        <Notice tone="caution">{paper.problem.message}</Notice>
      ) : (
        <>
          <p className="mb-3 text-sm">
            <a className="underline" href={address}>
              {sealed === undefined ? 'The draft as a PDF' : 'The PDF itself'}
            </a>
          </p>
          <PaperView paper={paper.value} picture={(hash) => `/api/photos/${hash}`} />
        </>
      )}
    </CertificateScreen>
  );
}

/** Who signed, each once: one hand signs for several tests. */
const signedIn = ({ signatures = [] }: TestRecord) => [
  ...new Map(
    signatures.map(({ role, name, absent }) => {
      const words = absent === undefined ? name : `not signed, ${absent}`;
      return [`${role} ${words}`, { role, name: words }] as const;
    }),
  ).values(),
];

const draftAddress = (id: string, others: readonly string[]): string =>
  `/api/tests/${id}/draft${others.length === 0 ? '' : `?${others.map((one) => `with=${one}`).join('&')}`}`;
