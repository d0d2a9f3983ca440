import { correctCertificate } from '@/server/certificates';
import { asActor, jsonBody, respond } from '@/server/http';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await correctCertificate(actor, (await params).id, body.value)) : body.response;
  });
