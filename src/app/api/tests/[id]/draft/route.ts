import { refuse } from '@/server/answers';
import { certificatePdf } from '@/server/certificate-pdf';
import { readDraft } from '@/server/certificates';
import { download, route } from '@/server/door';

/** The certificate's pages as they would be now, marked as a draft. */
export const GET = route('GET /api/tests/[id]/draft', async ({ actor, params }) => {
  const draft = await readDraft(actor, params.id);
  if (!draft.ok) return draft;
  return draft.value.record.tests.some(({ attempts }) => attempts.length === 0)
    ? refuse(409, 'no-attempt', 'Nothing was run yet.')
    : download(new Uint8Array(await certificatePdf(draft.value.record)), 'application/pdf', 'draft.pdf', true);
});
