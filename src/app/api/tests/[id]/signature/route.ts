import { route } from '@/server/door';
import { addSignature } from '@/server/signatures';

export const POST = route('POST /api/tests/[id]/signature', ({ actor, params, body }) => addSignature(actor, params.id, body));
