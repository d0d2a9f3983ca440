import type { Metadata } from 'next';
import { Page } from '@/features/frame/page';
import { PaperView } from '@/features/papers/paper-view';
import { readCertificate } from '@/server/certificates';
import { pageActor, valueOr404 } from '@/server/page';
import { rollOf } from '@/server/papers';
import { quietButton } from '@/ui/classes';
import { Notice, Simulated } from '@/ui/notice';

export const metadata: Metadata = { title: 'Receipt strip' };

/** The strip as it would come out of the van's printer. */
export default async function ReceiptPage({ params }: { readonly params: Promise<{ id: string }> }) {
  const { id } = await params;
  const found = valueOr404(await readCertificate(await pageActor(), id));
  const roll = await rollOf(found.parsed);
  return (
    <Page
      title="Receipt strip"
      line={`Certificate ${found.number}`}
      actions={
        <a className={quietButton} href={`/api/certificates/${id}/receipt`}>
          The strip as a PDF
        </a>
      }
    >
      <p className="mb-4">
        <Simulated /> <span className="text-quiet">a roll of 58 mm on the screen; print the PDF on the printer that you have</span>
      </p>
      {roll.ok ? (
        <div className="max-w-[19rem] border-x-8 border-sunken">
          <PaperView paper={roll.value} picture={() => undefined} />
        </div>
      ) : (
        <Notice tone="caution">{roll.problem.message}</Notice>
      )}
    </Page>
  );
}
