import { answer } from '@/server/answers';
import { setTestOffset, testOffset } from '@/server/clock';
import { route } from '@/server/door';
import { isTestClock } from '@/server/environment';

const absent = () => new Response(null, { status: 404 });

/** The shared test clock; absent from every other build. */
export const GET = route('GET /api/test-clock', async () => (isTestClock() ? answer({ offset: testOffset() }) : absent()));

export const POST = route('POST /api/test-clock', async ({ body }) => {
  if (!isTestClock()) return absent();
  setTestOffset(Number(body.offset ?? 0));
  return answer({ offset: testOffset() });
});
