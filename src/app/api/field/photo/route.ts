import { route } from '@/server/door';
import { addPhoto } from '@/server/photos';

export const POST = route('POST /api/field/photo', ({ actor, query, body }) =>
  addPhoto(actor, query.get('run') ?? '', Number(query.get('takenAt') || Number.NaN), body),
);
