import { download, route } from '@/server/door';
import { pictureIn } from '@/server/photos';
import { pictureOfLink } from '@/server/sign-links';

export const GET = route('GET /api/sign/[token]/picture/[hash]', async ({ params }) => {
  const allowed = await pictureOfLink(params.token, params.hash);
  if (!allowed.ok) return allowed;
  const found = await pictureIn(allowed.value.firmId, params.hash);
  return found.ok ? download(new Uint8Array(found.value), 'image/jpeg', 'photo.jpg', true) : found;
});
