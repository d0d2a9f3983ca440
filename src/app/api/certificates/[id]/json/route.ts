import { readCertificate } from '@/server/certificates';
import { download, route } from '@/server/door';

export const GET = route('GET /api/certificates/[id]/json', async ({ actor, params }) => {
  const found = await readCertificate(actor, params.id);
  return found.ok ? download(found.value.record, 'application/json', `certificate-${found.value.number}.json`) : found;
});
