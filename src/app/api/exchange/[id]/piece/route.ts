import { route } from '@/server/door';
import { takePiece } from '@/server/exchange';

export const POST = route('POST /api/exchange/[id]/piece', ({ actor, params, query, body }) =>
  takePiece(actor, params.id, Number(query.get('at')), body),
);
