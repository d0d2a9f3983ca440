import { certificatePdf } from '@/server/certificate-pdf';
import { readDraft } from '@/server/certificates';
import { asActor, download, respond } from '@/server/http';

/** The certificate's pages as they would be now, marked as a draft. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const draft = await readDraft(actor, (await params).id);
    if (!draft.ok) return respond(draft);
    return draft.value.record.tests.some(({ attempts }) => attempts.length === 0)
      ? respond({ ok: false, status: 409, problem: { code: 'no-attempt', message: 'Nothing was run yet.' } })
      : download(new Uint8Array(await certificatePdf(draft.value.record)), 'application/pdf', 'draft.pdf', true);
  });
