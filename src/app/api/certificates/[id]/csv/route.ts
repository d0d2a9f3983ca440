import { readingsCsv } from '@/core/record';
import { readCertificate } from '@/server/certificates';
import { download, route } from '@/server/door';

export const GET = route('GET /api/certificates/[id]/csv', async ({ actor, params }) => {
  const found = await readCertificate(actor, params.id);
  if (!found.ok) return found;
  const text = readingsCsv(found.value.parsed, (ms) => new Date(ms).toISOString());
  return download(text, 'text/csv; charset=utf-8', `readings-${found.value.number}.csv`);
});
