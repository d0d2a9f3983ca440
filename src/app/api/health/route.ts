import { route } from '@/server/door';
import { health } from '@/server/health';

export const dynamic = 'force-dynamic';

export const GET = route('GET /api/health', async () => {
  const found = await health();
  return Response.json(found, { status: found.ready ? 200 : 503, headers: { 'cache-control': 'no-store' } });
});
