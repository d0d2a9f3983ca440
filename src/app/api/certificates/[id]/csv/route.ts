import { readingsCsv } from '@/core/record';
import { readCertificate } from '@/server/certificates';
import { asActor, download, respond } from '@/server/http';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const found = await readCertificate(actor, (await params).id);
    if (!found.ok) return respond(found);
    return download(
      readingsCsv(found.value.parsed, (ms) => new Date(ms).toISOString()),
      'text/csv; charset=utf-8',
      `readings-${found.value.number}.csv`,
    );
  });
