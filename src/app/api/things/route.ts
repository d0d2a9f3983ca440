import { route } from '@/server/door';
import { keepChanges } from '@/server/things';

export const POST = route('POST /api/things', ({ actor, body }) => keepChanges(actor, body.changes));
