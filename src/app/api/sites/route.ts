import { asActor, jsonBody, respond } from '@/server/http';
import { addSite } from '@/server/sites';

export const POST = (request: Request) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await addSite(actor, body.value)) : body.response;
  });
