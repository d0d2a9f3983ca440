import { now } from '@/server/clock';
import { type Outgoing, receive } from '@/server/field';
import { asActor, jsonBody, respond } from '@/server/http';
import { readSentAt } from '@/server/tests';

export const POST = (request: Request) =>
  asActor(request, async (actor) => {
    const body = await jsonBody(request);
    if (!body.ok) return body.response;
    const result = await receive(
      actor,
      Array.isArray(body.value.items) ? (body.value.items as Outgoing[]) : [],
      readSentAt(body.value.clock),
    );
    return respond(result.ok ? { ok: true, value: { ...result.value, serverNow: now() } } : result);
  });
