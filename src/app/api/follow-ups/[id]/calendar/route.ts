import { calendarOf } from '@/server/calendar';
import { download, route } from '@/server/door';

export const GET = route('GET /api/follow-ups/[id]/calendar', async ({ actor, params }) => {
  const file = await calendarOf(actor, params.id);
  return file.ok ? download(file.value, 'text/calendar; charset=utf-8', 'follow-up.ics') : file;
});
