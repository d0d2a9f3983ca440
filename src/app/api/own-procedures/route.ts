import { route } from '@/server/door';
import { publishOwnProcedure } from '@/server/rules';

export const POST = route('POST /api/own-procedures', ({ actor, body }) => publishOwnProcedure(actor, body));
