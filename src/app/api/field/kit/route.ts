import { readKit } from '@/server/field';
import { asActor, respond } from '@/server/http';

export const GET = (request: Request) => asActor(request, async (actor) => respond(await readKit(actor)));
