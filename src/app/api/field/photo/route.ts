import { refuse } from '@/server/answers';
import { asActor, respond } from '@/server/http';
import { addPhoto } from '@/server/photos';

export const POST = (request: Request) =>
  asActor(request, async (actor) => {
    const query = new URL(request.url).searchParams;
    if (Number(request.headers.get('content-length') ?? 0) > 15 * 1024 * 1024)
      return respond(refuse(413, 'photo-too-large', 'The picture is larger than 15 MB. Take it at a lower resolution.'));
    return respond(
      await addPhoto(actor, query.get('run') ?? '', Number(query.get('takenAt') ?? Number.NaN), Buffer.from(await request.arrayBuffer())),
    );
  });
