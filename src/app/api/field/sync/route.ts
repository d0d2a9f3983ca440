import { answer } from '@/server/answers';
import { now } from '@/server/clock';
import { route } from '@/server/door';
import { receive } from '@/server/field';
import { readSentAt } from '@/server/found-times';

export const POST = route('POST /api/field/sync', async ({ actor, body }) => {
  const result = await receive(actor, Array.isArray(body.items) ? body.items : [], readSentAt(body.clock));
  return result.ok ? answer({ ...result.value, serverNow: now() }) : result;
});
