import { route } from '@/server/door';
import { addPiece } from '@/server/photos';

/** A piece of a picture; see `addPiece`. */
export const POST = route('POST /api/field/photo', ({ actor, query, body }) => {
  const figure = (name: string) => Number(query.get(name) || Number.NaN);
  return addPiece(
    actor,
    {
      runId: query.get('run') ?? '',
      takenAt: figure('takenAt'),
      hash: query.get('hash') ?? '',
      size: figure('size'),
      at: Number(query.get('at') ?? Number.NaN),
    },
    body,
  );
});
