import { route } from '@/server/door';
import { exportFile } from '@/server/exchange';

export const GET = route('GET /api/exchange/[id]/file', async ({ actor, params }) => {
  const found = await exportFile(actor, params.id);
  if (!found.ok) return found;
  const { body, size, name } = found.value;
  return new Response(body, {
    headers: {
      'content-type': 'application/zip',
      'content-length': String(size),
      'content-disposition': `attachment; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  });
});
