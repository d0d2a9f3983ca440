import { readCertificate } from '@/server/certificates';
import { download, route } from '@/server/door';
import { pagesOf } from '@/server/papers';

export const GET = route('GET /api/certificates/[id]/pdf', async ({ actor, params, query }) => {
  const found = await readCertificate(actor, params.id);
  if (!found.ok) return found;
  const pages = await pagesOf(actor.firmId, found.value.parsed);
  return pages.ok ? download(pages.value, 'application/pdf', `certificate-${found.value.number}.pdf`, query.has('inline')) : pages;
});
