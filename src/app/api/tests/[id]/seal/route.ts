import { route } from '@/server/door';
import { sealTest } from '@/server/sealing';

export const POST = route('POST /api/tests/[id]/seal', ({ actor, params, body }) => sealTest(actor, params.id, body));
