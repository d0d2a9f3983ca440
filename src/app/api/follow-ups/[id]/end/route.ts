import { route } from '@/server/door';
import { endFollowUp } from '@/server/follow-ups';

export const POST = route('POST /api/follow-ups/[id]/end', ({ actor, params, body }) => endFollowUp(actor, params.id, body));
