import { asActor, jsonBody, respond } from '@/server/http';
import { addInstrument } from '@/server/instruments';

export const POST = (request: Request) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await addInstrument(actor, body.value)) : body.response;
  });
