import { asActor, jsonBody, respond } from '@/server/http';
import { addCalibration } from '@/server/instruments';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await addCalibration(actor, (await params).id, body.value)) : body.response;
  });
