import { timingSafeEqual } from 'node:crypto';
import { route } from '@/server/door';
import { metricsText, metricsType } from '@/server/metrics';

export const dynamic = 'force-dynamic';

/** For the operator's monitoring: only with the token of the settings, and absent where none is set. */
export const GET = route('GET /api/metrics', async ({ request }) => {
  const token = process.env.VAST_METRICS_TOKEN ?? '';
  const said = Buffer.from(request.headers.get('authorization') ?? '');
  const wanted = Buffer.from(`Bearer ${token}`);
  if (token === '' || said.length !== wanted.length || !timingSafeEqual(said, wanted)) return new Response(null, { status: 404 });
  return new Response(await metricsText(), { headers: { 'content-type': metricsType(), 'cache-control': 'no-store' } });
});
