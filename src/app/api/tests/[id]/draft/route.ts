import { refuse } from '@/server/answers';
import { download, route } from '@/server/door';
import { readDraft } from '@/server/drafts';
import { pagesOf } from '@/server/papers';

/** The certificate's pages as they would be now, marked as a draft. */
export const GET = route('GET /api/tests/[id]/draft', async ({ actor, params, query }) => {
  const draft = await readDraft(actor, params.id, query.getAll('with'));
  if (!draft.ok) return draft;
  if (draft.value.record.tests.some(({ attempts }) => attempts.length === 0)) return refuse(409, 'no-attempt', 'Nothing was run yet.');
  const pages = await pagesOf(actor.firmId, draft.value.record);
  return pages.ok ? download(pages.value, 'application/pdf', 'draft.pdf', true) : pages;
});
