import { certificatePdf } from '@/server/certificate-pdf';
import { readCertificate } from '@/server/certificates';
import { asActor, download, respond } from '@/server/http';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const found = await readCertificate(actor, (await params).id);
    if (!found.ok) return respond(found);
    const inline = new URL(request.url).searchParams.has('inline');
    return download(
      new Uint8Array(await certificatePdf(found.value.parsed)),
      'application/pdf',
      `certificate-${found.value.number}.pdf`,
      inline,
    );
  });
