import { later } from '@/server/answers';
import { route } from '@/server/door';
import { mostStreams, runningStream, streamCount } from '@/server/streams';

export const dynamic = 'force-dynamic';

/** Holds that run now, as they change; one stream serves all tabs of a browser. */
export const GET = route('GET /api/stream', async ({ actor, request }) =>
  streamCount() >= mostStreams
    ? later(503, 'busy', 'Too many are looking just now. It is tried again.', 30)
    : new Response(runningStream(actor.firmId, request.signal), {
        headers: {
          'content-type': 'text/event-stream; charset=utf-8',
          'cache-control': 'no-cache, no-transform',
          'x-accel-buffering': 'no',
        },
      }),
);
