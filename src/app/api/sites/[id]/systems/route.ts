import { route } from '@/server/door';
import { addSystem } from '@/server/sites';

export const POST = route('POST /api/sites/[id]/systems', ({ actor, params, body }) => addSystem(actor, params.id, body));
