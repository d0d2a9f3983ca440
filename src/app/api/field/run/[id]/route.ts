import { route } from '@/server/door';
import { readNews, readRun } from '@/server/field';

/** A run's whole test, or with what the device has of it already only what is new. */
export const GET = route('GET /api/field/run/[id]', ({ actor, params, query }) => {
  const [position, attempts] = ['position', 'attempts'].map((name) =>
    /^\d{1,9}$/.test(query.get(name) ?? '') ? Number(query.get(name)) : undefined,
  );
  return position === undefined || attempts === undefined
    ? readRun(actor, params.id)
    : readNews(actor, params.id, { position, attempts, sealed: query.get('sealed') === '1' });
});
