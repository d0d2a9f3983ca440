import { readCertificate } from '@/server/certificates';
import { asActor, download, respond } from '@/server/http';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const found = await readCertificate(actor, (await params).id);
    return found.ok ? download(found.value.record, 'application/json', `certificate-${found.value.number}.json`) : respond(found);
  });
