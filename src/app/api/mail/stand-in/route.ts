import { answer, notFound, refuse } from '@/server/answers';
import { route } from '@/server/door';
import { isStandIn, type StandInMode, setStandIn, standInModes } from '@/server/mail-stand-in';

/** Tells the simulated mail server what to do; there is none where a real one is set. */
export const POST = route('POST /api/mail/stand-in', async ({ body }) => {
  if (!isStandIn()) return notFound;
  const { mode } = body as { mode?: unknown };
  if (!(standInModes as readonly unknown[]).includes(mode)) return refuse(400, 'form', 'Choose what it does.', 'mode');
  await setStandIn(mode as StandInMode);
  return answer('kept');
});
