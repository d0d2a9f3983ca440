import { route } from '@/server/door';
import { addFollowUp } from '@/server/follow-ups';

export const POST = route('POST /api/follow-ups', ({ actor, body }) => addFollowUp(actor, body));
