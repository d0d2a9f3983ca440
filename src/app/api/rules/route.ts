import { route } from '@/server/door';
import { setHouseRule } from '@/server/rules';

export const POST = route('POST /api/rules', ({ actor, body }) => setHouseRule(actor, body));
