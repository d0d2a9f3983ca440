import { asActor, respond } from '@/server/http';
import { withdrawOwnProcedure } from '@/server/rules';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => respond(await withdrawOwnProcedure(actor, (await params).id)));
