import { asActor, jsonBody, respond } from '@/server/http';
import { addSystem } from '@/server/sites';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await addSystem(actor, (await params).id, body.value)) : body.response;
  });
