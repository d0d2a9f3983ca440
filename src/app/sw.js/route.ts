import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { route } from '@/server/door';

export const dynamic = 'force-dynamic';

/** The service worker that the build made; under the root, so that it may look after /field. */
export const GET = route('GET /sw.js', async () => {
  try {
    const script = await readFile(join(process.cwd(), process.env.NEXT_DIST ?? '.next', 'service-worker.js'));
    return new Response(new Uint8Array(script), {
      headers: { 'content-type': 'text/javascript; charset=utf-8', 'cache-control': 'no-cache' },
    });
  } catch {
    return new Response('// not built', { status: 404, headers: { 'content-type': 'text/javascript' } });
  }
});
