import { sealTest } from '@/server/certificates';
import { route } from '@/server/door';

export const POST = route('POST /api/tests/[id]/seal', ({ actor, params, body }) => sealTest(actor, params.id, body));
