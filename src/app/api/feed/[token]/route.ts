import { feedOf } from '@/server/calendar';
import { download, route } from '@/server/door';

export const GET = route('GET /api/feed/[token]', async ({ params }) => {
  const file = await feedOf(params.token);
  return file.ok ? download(file.value, 'text/calendar; charset=utf-8', 'vast-stone.ics', true) : file;
});
