import { certificatePdf } from '@/server/certificate-pdf';
import { readCertificate } from '@/server/certificates';
import { download, route } from '@/server/door';

export const GET = route('GET /api/certificates/[id]/pdf', async ({ actor, params, query }) => {
  const found = await readCertificate(actor, params.id);
  if (!found.ok) return found;
  const pages = new Uint8Array(await certificatePdf(found.value.parsed));
  return download(pages, 'application/pdf', `certificate-${found.value.number}.pdf`, query.has('inline'));
});
