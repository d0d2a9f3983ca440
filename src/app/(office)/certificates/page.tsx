import type { Metadata } from 'next';
import Link from 'next/link';
import type { TestVerdict } from '@/core/course';
import { Page } from '@/features/frame/page';
import { listCertificates } from '@/server/certificates';
import { pageActor } from '@/server/page';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';

export const metadata: Metadata = { title: 'Certificates' };

export default async function CertificatesPage() {
  const certificates = await listCertificates(await pageActor());
  return (
    <Page title="Certificates">
      {certificates.length === 0 && <p className="text-quiet">None sealed yet. Finish a test, sign it, and seal it from its verdict.</p>}
      <ul className="divide-y divide-line border-y border-line">
        {certificates.map(({ id, testId, number, verdict, issuedAt, site, system, corrects, simulated, withdrawnAt }) => (
          <li key={id}>
            <Link
              href={`/certificates/test/${testId}?certificate=${id}`}
              className="grid min-h-14 items-center gap-x-5 py-2 hover:bg-sunken sm:grid-cols-[7.5rem_14rem_1fr_auto]"
            >
              <span className="figures font-semibold">{number}</span>
              <VerdictMark verdict={verdict as TestVerdict} size={18} />
              <span>
                <b>{system}</b> <span className="text-quiet">{site}</span> {simulated && <Simulated />}
                {withdrawnAt !== null && <span className="block text-sm text-stop">withdrawn</span>}
                {corrects !== null && <span className="block text-sm text-caution">a correction</span>}
              </span>
              <span className="text-sm text-quiet">{dayText(issuedAt)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
}
