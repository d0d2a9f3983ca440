import { download, route } from '@/server/door';
import { readPhoto } from '@/server/photos';

export const GET = route('GET /api/photos/[hash]', async ({ actor, params }) => {
  const found = await readPhoto(actor, params.hash);
  return found.ok ? download(new Uint8Array(found.value), 'image/jpeg', 'photo.jpg', true) : found;
});
