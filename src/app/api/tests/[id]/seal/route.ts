import { sealTest } from '@/server/certificates';
import { asActor, respond } from '@/server/http';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  asActor(request, async (actor) => respond(await sealTest(actor, (await params).id)));
