import { readCertificate } from '@/server/certificates';
import { download, route } from '@/server/door';
import { stripOf } from '@/server/papers';

export const GET = route('GET /api/certificates/[id]/receipt', async ({ actor, params }) => {
  const found = await readCertificate(actor, params.id);
  if (!found.ok) return found;
  const strip = await stripOf(found.value.parsed);
  return strip.ok ? download(strip.value, 'application/pdf', `receipt-${found.value.number}.pdf`, true) : strip;
});
