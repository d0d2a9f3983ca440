import { asActor, download, respond } from '@/server/http';
import { readPhoto } from '@/server/photos';

export const GET = (request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  asActor(request, async (actor) => {
    const found = await readPhoto(actor, (await params).hash);
    return found.ok ? download(new Uint8Array(found.value), 'image/jpeg', 'photo.jpg', true) : respond(found);
  });
