import { addSignature } from '@/server/certificates';
import { route } from '@/server/door';

export const POST = route('POST /api/tests/[id]/signature', ({ actor, params, body }) => addSignature(actor, params.id, body));
