import { asActor, jsonBody, respond } from '@/server/http';
import { setHouseRule } from '@/server/rules';

export const POST = (request: Request) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    return body.ok ? respond(await setHouseRule(actor, body.value)) : body.response;
  });
