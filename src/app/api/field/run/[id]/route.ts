import { readRun } from '@/server/field';
import { asActor, respond } from '@/server/http';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => respond(await readRun(actor, (await params).id)));
