import { route } from '@/server/door';
import { settleClash } from '@/server/things';

export const POST = route('POST /api/clashes/[id]', ({ actor, params, body }) => settleClash(actor, params.id, body.choice));
