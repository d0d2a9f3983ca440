import type { Metadata } from 'next';
import type { TestVerdict } from '@/core/course';
import { verdictWords } from '@/core/record';
import { CheckFile } from '@/features/certify/check-file';
import { checkByCode } from '@/server/certificates';
import { Notice, Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';

export const metadata: Metadata = { title: 'Check a certificate', robots: { index: false } };
export const dynamic = 'force-dynamic';

/** For whoever holds the code: the few facts that are printed on the certificate itself. */
export default async function CheckCodePage({ params }: { readonly params: Promise<{ code: string }> }) {
  const { code } = await params;
  const facts = await checkByCode(code);
  if (facts === undefined)
    return (
      <main className="mx-auto max-w-3xl space-y-4 p-6">
        <h1 className="text-3xl font-semibold tracking-tight">No certificate has this code</h1>
        <p>The address may be mistyped. Scan the code on the certificate again, or check the file itself.</p>
        <CheckFile />
      </main>
    );
  return (
    <main className="mx-auto max-w-3xl space-y-5 p-6">
      <p className="text-quiet">{facts.firmName}</p>
      <h1 className="text-3xl font-semibold tracking-tight">
        Certificate <span className="figures">{facts.number}</span> is on file
      </h1>
      <p className="text-2xl">
        <VerdictMark verdict={facts.verdict as TestVerdict} size={34} /> {facts.simulated && <Simulated />}
      </p>
      <p>
        {verdictWords[facts.verdict as TestVerdict].meaning} Sealed on {dayText(facts.issuedAt)}.
      </p>
      {facts.simulated && (
        <Notice tone="caution">
          Its readings came from a simulated gauge. It is practice and proves nothing about a real installation.
        </Notice>
      )}
      {facts.withdrawn !== undefined && (
        <Notice tone="stop">
          The firm withdrew this certificate on {dayText(facts.withdrawn.at)}: do not rely on it. {facts.withdrawn.reason}
        </Notice>
      )}
      {facts.correctedBy !== undefined && (
        <Notice tone="caution">A later certificate, {facts.correctedBy}, corrects this one. Ask for that.</Notice>
      )}
      {facts.importedAt !== undefined && (
        <Notice tone="caution">
          It was sealed in another installation and came in here on {dayText(facts.importedAt)} with the firm’s data. The seal shows that
          nothing in it was changed since; who sealed it and when, only the firm can say.
        </Notice>
      )}
      {facts.revoked && <Notice tone="stop">The key that sealed it was withdrawn. Ask the firm.</Notice>}
      <p className="text-sm text-quiet">
        Seal <span className="figures break-all">{facts.hash}</span>
      </p>
      <p>Compare the number and the verdict with the paper in your hand. To check every figure on it, check the file:</p>
      <CheckFile />
    </main>
  );
}
